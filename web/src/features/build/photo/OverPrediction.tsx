import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Operation, Side } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button, Notice, Segments } from "../../../ui";
import { type Spot, Spots } from "../../../ui/spots";
import { useToast } from "../../../ui/toast";
import { Measure } from "../../design/fields/Measure";
import type { Photo } from "../Photos";
import { useBuild } from "../useBuild";
import { Compare } from "./Compare";
import { Fit } from "./Fit";

type MarkOnPhoto = Spot & { x: number; y: number };

/** The marked photo as a wanted look. */
function LookForIt({ address, build, marks, side }: { address: string; build: number; marks: MarkOnPhoto[]; side: Side }) {
  const navigate = useNavigate();
  const toast = useToast();
  const measure = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/looks/measure-photo/{build_id}/{uid}", {
          params: { path: { build_id: build, uid: address } },
          body: { marks, side },
        }),
      ),
    onSuccess: (found) => navigate("/looks", { state: { wants: found.wants } }),
    onError: (e) => toast(whatWentWrong(e)),
  });
  return (
    <Button onClick={() => measure.mutate()} disabled={measure.isPending}>
      Search for this look
    </Button>
  );
}

/** A photo of one face: marked, laid over the prediction, and read. */
export function OverPrediction({ photo, op }: { photo: Photo; op: Operation }) {
  const { info, known } = useBuild();
  const say = useSay();
  const unit = useUnit();
  const [side, setSide] = useState<Side>(/\bleft\b/i.test(photo.caption ?? "") ? "left" : "right");
  const [station, setStation] = useState<number | undefined>();
  const [spots, setSpots] = useState<Spot[]>([]);
  const [changes, setChanges] = useState<Record<string, number>>({});
  const face = useQuery({
    queryKey: ["face-to-mark", info.id, info.plan, known.records.length, side, station],
    queryFn: () =>
      ask(
        api.GET("/api/builds/{build_id}/face-to-mark", {
          params: { path: { build_id: info.id }, query: { side, station } },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  });
  if (face.error) return <Notice tone="stop">{say(face.error.message)}</Notice>;
  if (!face.data) return <p className="animate-pulse text-quiet">Working out the blade…</p>;
  const { marks: places, width, height } = face.data;
  const at = Math.round(station ?? places[3]?.x ?? 0);
  const name = (i: number) => {
    const place = places[i];
    return place ? `${place.name}${i > 2 ? `, ${length(at, unit)} from the heel` : ""}` : "";
  };
  const marked = spots.length === places.length;
  const marks = spots.map((s, i) => ({ ...s, x: places[i]?.x ?? 0, y: places[i]?.y ?? 0 }));
  const address = `/api/builds/${info.id}/photos/${photo.photo}`;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 min-[1000px]:grid-cols-[minmax(0,1fr)_21rem]">
      <section aria-label="Photo and prediction">
        <h2 className="mb-2 text-lg font-bold">{photo.caption || say(op.title)}</h2>
        {marked ? (
          <Compare address={address} build={info.id} marks={marks} side={side} changes={changes} shape={width / height} />
        ) : (
          <>
            <p role="status" className="mb-2 font-semibold">
              {spots.length + 1}. Click on {name(spots.length)}.
            </p>
            <Spots
              src={`${address}/photo.jpg`}
              next={name(spots.length)}
              marks={spots}
              onSpot={(s) => setSpots([...spots, s])}
              className="mx-auto w-fit"
            />
          </>
        )}
      </section>
      <section aria-label="What it tells" className="flex flex-col gap-3">
        <Segments
          label="Which side the photo shows"
          value={side}
          options={[
            { value: "right", label: "right side" },
            { value: "left", label: "left side" },
          ]}
          onChange={(s) => {
            setSide(s);
            setChanges({});
          }}
        />
        {marked ? (
          <>
            <Button
              onClick={() => {
                setSpots([]);
                setChanges({});
              }}
            >
              Mark it again
            </Button>
            <LookForIt address={photo.photo} build={info.id} marks={marks} side={side} />
            <Fit
              key={`${side}${JSON.stringify(marks)}`}
              address={address}
              build={info}
              marks={marks}
              side={side}
              face={face.data}
              onChanges={setChanges}
            />
          </>
        ) : (
          <>
            <p className="text-quiet">
              Mark five places, so that the photo can be laid on the blade whatever it was seen from. With the tip to the{" "}
              {side === "right" ? "right" : "left"} and the edge down you see the {side} side.
            </p>
            <ol className="flex flex-col gap-1">
              {places.map((p, i) => (
                <li
                  key={p.name}
                  aria-current={i === spots.length ? "step" : undefined}
                  className={i === spots.length ? "font-semibold" : i < spots.length ? "text-quiet line-through" : "text-quiet"}
                >
                  {i + 1}. {name(i)}
                </li>
              ))}
            </ol>
            <Measure
              label="Edge and spine marked at"
              unit="mm"
              value={at}
              hint="from the heel: lay a rule beside the blade, or draw a line across"
              onChange={(v) => setStation(v === null ? undefined : Math.min(Math.max(v, 0.1 * width), 0.9 * width))}
            />
            <Button disabled={!spots.length} onClick={() => setSpots(spots.slice(0, -1))}>
              Take the last mark back
            </Button>
          </>
        )}
      </section>
    </div>
  );
}
