import { useState } from "react";
import { useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Notice, Segments } from "../../../ui";
import { MeasureRows } from "../fields/MeasureRows";
import { Columns, Shell } from "../Panel";
import { EdgeTestFields, UNTESTED, WhatFollows } from "./EdgeTest";
import { useFinish } from "./finish";

const USES = ["slicing", "general", "chopping", "sword"] as const;

/** The edge's bevel, and what follows from its test, in the order to check. */
export function EdgeTab() {
  const { sheet, plan, put, asked } = useFinish();
  const [told, setTold] = useState(UNTESTED);
  const say = useSay();
  const unit = useUnit();
  const edge = sheet.data?.edge;
  return (
    <Columns
      name="Edge and test"
      scrolls
      left={
        <Shell title="The edge">
          <div className="col-span-full">
            <Segments
              snug
              titled
              label="It is for"
              value={plan.use ?? "general"}
              options={USES.map((value) => ({ value, label: value }))}
              onChange={(use) => put({ use }, "use")}
            />
          </div>
          <MeasureRows
            of={plan}
            put={put}
            rows={[
              {
                name: "angle",
                label: "Angle, both sides",
                unit: "deg",
                least: 8,
                most: 70,
                placeholder: edge ? `${edge.angle}` : "",
              },
            ]}
          />
          {edge ? (
            <p className="self-center text-sm text-quiet">
              {edge.angles[0]} to {edge.angles[1]}° for this use
            </p>
          ) : null}
          {edge ? (
            <dl className="col-span-full grid grid-cols-[1fr_auto] gap-x-3">
              <dt className="text-quiet">Bevel, a side</dt>
              <dd className="text-right font-mono">{length(edge.width, unit)}</dd>
              <dt className="text-quiet">Behind it</dt>
              <dd className="text-right font-mono">{length(edge.behind, unit)}</dd>
              <dt className="text-quiet">This use wants</dt>
              <dd className="text-right font-mono">
                {length(edge.wanted[0] ?? 0, unit)} to {length(edge.wanted[1] ?? 0, unit)}
              </dd>
            </dl>
          ) : (
            <p className="col-span-full text-sm text-quiet">
              The faces meet in the edge: nothing is left for a bevel of its own.
            </p>
          )}
          {edge ? <p className="col-span-full text-sm">{say(edge.stones)}</p> : null}
        </Shell>
      }
      right={<Notice tone="care">{edge ? say(edge.caution) : "Never near anyone; the work clamped, eyes covered."}</Notice>}
    >
      <h3 className="text-lg font-bold">The test</h3>
      <EdgeTestFields told={told} set={setTold} says={sheet.data?.edge_tests} />
      {told.seen === "fine" ? (
        <p>Then it is done: it is written down on the sheet of the build, under the edge.</p>
      ) : (
        <WhatFollows document={asked.document} told={told} />
      )}
    </Columns>
  );
}
