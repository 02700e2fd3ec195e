import { useState } from "react";
import type { Operation } from "../../../api/types";
import { useSay } from "../../../app/session";
import { type Photo, Shown } from "../Photos";
import { useBuild } from "../useBuild";
import { OverPrediction } from "./OverPrediction";

/** All photos of the build, and one of them held against the prediction. */
export function PhotosTab() {
  const { told, of, known } = useBuild();
  const say = useSay();
  const [chosen, setChosen] = useState("");
  const all = told.operations.flatMap((op) =>
    of(op.id)
      .photos.filter((p): p is Photo => p.kind === "photo")
      .map((photo) => ({ op, photo })),
  );
  const open = all.find((p) => p.photo.photo === chosen) ?? all.at(-1);
  if (!open)
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        <div className="max-w-md">
          <h1 className="mb-2 text-2xl font-bold">No photos of this build yet</h1>
          <p className="text-quiet">
            Take one on the shop sheet, at any operation. A photo of the etched face can be laid over the prediction here, and
            tells how the blade was really ground, twisted and cut.
          </p>
        </div>
      </main>
    );
  const waits = known.waiting.some((w) => w.id === open.photo.id);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto max-w-6xl">
        <h1 className="sr-only">Photos</h1>
        <ul aria-label="Photos of this build" className="mb-4 flex gap-2 overflow-x-auto pb-1">
          {all.map(({ op, photo }) => (
            <li key={photo.id} className="shrink-0">
              <button
                type="button"
                aria-pressed={photo === open.photo}
                onClick={() => setChosen(photo.photo)}
                className={`block w-32 rounded-lg border-2 p-1 text-left ${photo === open.photo ? "border-accent" : "border-transparent"}`}
              >
                <Shown uid={photo.photo} small alt="" className="h-20 w-full rounded object-cover" />
                <span className="mt-1 line-clamp-2 text-sm">{photo.caption || say(op.title)}</span>
              </button>
            </li>
          ))}
        </ul>
        {waits || known.link !== "here" ? (
          <Large photo={open.photo} op={open.op} why={waits ? "It is still on this tablet only." : "The server is away."} />
        ) : (
          <OverPrediction key={open.photo.photo} photo={open.photo} op={open.op} />
        )}
      </div>
    </main>
  );
}

function Large({ photo, op, why }: { photo: Photo; op: Operation; why: string }) {
  const say = useSay();
  return (
    <figure>
      <Shown
        uid={photo.photo}
        alt={photo.caption || say(op.title)}
        className="mx-auto max-h-[60vh] max-w-full rounded-lg object-contain"
      />
      <figcaption className="mt-2 text-quiet">
        {why} It is laid over the prediction when the server has it and can be reached.
      </figcaption>
    </figure>
  );
}
