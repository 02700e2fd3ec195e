import { useEffect, useState } from "react";
import { api, ask } from "../../../../api/client";
import type { Document, Inferred } from "../../../../api/types";
import { useWorkedOut } from "../../../../api/worked";
import { Notice } from "../../../../ui";
import { useToast } from "../../../../ui/toast";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { AimFields } from "../AimFields";
import type { Dot, Spread, Trail } from "../CoreChart";
import { EtchSays, type Faces, ReadingsTable } from "../EtchTab";
import { type Grinding, LineChart, NoCore, useGrinding, why } from "../grinding";
import { PhotoPicker } from "../PhotoPicker";
import { closed, isOver, lessBefore, withHeights } from "../readings";

/** What was read off the blade after a test etch: where its core lies, and what to take off where. */
export function TestEtch() {
  const { document, core, change, undo, plate } = useTable();
  const grinding = useGrinding();
  const { surface, length, measures } = grinding;
  const toast = useToast();
  const [photo, setPhoto] = useState(false);
  const [faces, setFaces] = useState<Faces>("design");
  const { recipe, blade, off, aim, sizes, readings } = document;
  const read = readings?.heights ?? [];
  const reading = !!read.length && !!core?.flat && !isOver(readings ?? {}, surface);
  const inferred = useWorkedOut<Inferred>(
    "inference",
    { document: { recipe, blade, off, aim, sizes, readings } },
    (body, signal) => ask(api.POST("/api/blade/inference", { body, signal })),
    reading,
  );
  const found = inferred.data;
  const wrong = why(inferred.failure);
  const { setPreview } = plate;
  useEffect(() => {
    const other = faces === "read" ? found?.as_read : faces === "ground" ? found?.corrected : null;
    setPreview((other as Document["blade"] | undefined) ?? null);
  }, [faces, found, setPreview]);
  useEffect(() => () => setPreview(null), [setPreview]);
  const m = measures.data;
  const take = (next: Inferred["corrected"]) => {
    // what was read was read on faces that are gone now: it becomes a round of its own
    const after = (next as NonNullable<Document["blade"]>).correction;
    const ground = {
      right: lessBefore(after?.right, blade?.correction?.right),
      left: lessBefore(after?.left, blade?.correction?.left),
    };
    setFaces("design");
    change({
      type: "document",
      document: { ...document, blade: next as Document["blade"], readings: closed(readings ?? {}, ground) },
    });
    toast("The blade is now as read, and ground as advised. Etch it again: the new faces want new readings.", undo);
  };
  const dots: Dot[] = read.flatMap((r) =>
    (r.state === "line" || r.state === undefined) && r.height != null ? [{ x: r.x, side: r.side, height: r.height }] : [],
  );
  return (
    <>
      <Columns
        name="Test etch"
        left={
          <Shell title="Read off the blade">
            <ReadingsTable
              surface={surface}
              document={document}
              bladeLength={length}
              change={change}
              onPhoto={() => setPhoto(true)}
            />
            <div className="col-span-full mt-1 font-bold">Wanted</div>
            <AimFields document={document} band={core?.band ?? null} change={change} />
          </Shell>
        }
        right={
          core?.flat ? (
            <>
              {wrong && reading ? <Notice tone="stop">{wrong}</Notice> : null}
              {found && reading && !wrong ? (
                <EtchSays inferred={found} faces={faces} onFaces={setFaces} onTake={() => take(found.corrected)} />
              ) : reading ? (
                wrong ? null : (
                  <p className="animate-pulse text-quiet">Working out where the core lies…</p>
                )
              ) : (
                <p className="text-quiet">
                  Enter what you read: it says where the core lies, how surely, and how much to take off which side. A photo is
                  never needed.
                </p>
              )}
            </>
          ) : null
        }
      >
        {core && (!core.stations.length || !core.flat) ? (
          <NoCore bent={!!core.stations.length} />
        ) : (
          <LineChart name="Test etch" {...(found ? lines(found, grinding.square) : {})} dots={dots} />
        )}
      </Columns>
      <PhotoPicker
        document={document}
        bladeLength={length}
        curves={m ? { edge: m.edge, spine: m.spine } : null}
        open={photo}
        onClose={() => setPhoto(false)}
        onTake={(picked) => {
          const kept = read.filter((r) => !picked.some((p) => p.x === r.x && p.side === r.side));
          const all = [...kept, ...picked].sort((a, b) => a.x - b.x);
          change({
            type: "plan",
            plan: { readings: withHeights(readings ?? {}, all, surface) },
            what: `readings.photo.${kept.length}`,
          });
          setPhoto(false);
        }}
      />
    </>
  );
}

/** The line as read with its spread, and as it will be once ground as advised. */
function lines(s: Inferred, square: Grinding["square"]): { trails: Trail[]; spread: Spread } {
  const l = s.lines;
  return {
    trails: [
      { label: "as read", x: s.x, right: square(s.x, l.right?.[1] ?? []), left: square(s.x, l.left?.[1] ?? []), look: "before" },
      {
        label: "ground as advised",
        x: s.plan_x,
        right: square(s.plan_x, s.after.right ?? []),
        left: square(s.plan_x, s.after.left ?? []),
        look: "now",
      },
    ],
    spread: {
      label: "9 in 10",
      x: s.x,
      right: [square(s.x, l.right?.[0] ?? []), square(s.x, l.right?.[2] ?? [])],
      left: [square(s.x, l.left?.[0] ?? []), square(s.x, l.left?.[2] ?? [])],
    },
  };
}
