import { useState } from "react";
import type { Document, Measures } from "../../../api/types";
import { Only, useGrams, useUnit } from "../../../app/session";
import { length, lengthText, UNIT_MARK } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Button, Choice, Segments } from "../../../ui";
import { BottomAxis, LeftAxis, path, scaled, ticks } from "../../../ui/chart";
import type { Change } from "../draft";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";

/** Handle, for the balance. */
export function HandleFields({
  document,
  materials,
  change,
}: {
  document: Document;
  materials: string[];
  change: (c: Change) => void;
}) {
  const handle = document.handle;
  const put = (next: NonNullable<Document["handle"]> | null, what: string) =>
    change({ type: "plan", plan: { handle: next }, what: `handle.${what}` });
  if (!handle) {
    return (
      <div className="col-span-full">
        <Button onClick={() => put({ material: "boxwood", length: 115, width: 24, thickness: 18 }, "add")}>
          Reckon with a handle
        </Button>
      </div>
    );
  }
  return (
    <>
      <div className="col-span-full">
        <Choice
          titled
          label="Handle of"
          value={handle.material ?? "boxwood"}
          options={materials.map((m) => ({ value: m, label: m }))}
          onChange={(material) => put({ ...handle, material }, "material")}
        />
      </div>
      <MeasureRows<NonNullable<Document["handle"]>>
        of={handle}
        put={(next, what) => put({ ...handle, ...next }, what)}
        rows={[
          { name: "length", label: "Handle length", unit: "mm", usual: 115 },
          { name: "width", label: "Width", unit: "mm", usual: 24 },
          { name: "thickness", label: "Thickness", unit: "mm", usual: 18 },
        ]}
      />
      <div className="flex items-end">
        <Button kind="quiet" onClick={() => put(null, "remove")}>
          Without
        </Button>
      </div>
    </>
  );
}

export function Weights({ measures }: { measures: Measures }) {
  const grams = useGrams();
  const unit = useUnit();
  const b = measures.balance;
  const point = (mm: number) => `${length(Math.abs(mm), unit)} ${mm >= 0 ? "before" : "behind"} the heel`;
  const rows: [string, string][] = [
    ["Blade", grams(b.blade)],
    ...(b.tang > 0 ? ([["Tang", grams(b.tang)]] as [string, string][]) : []),
    ...(b.handle > 0 ? ([["Handle", grams(b.handle)]] as [string, string][]) : []),
    ["All of it", grams(b.whole)],
    ["Balances, bare", point(b.point_bare)],
    ...(b.handle > 0 ? ([["Balances with its handle", point(b.point)]] as [string, string][]) : []),
  ];
  return (
    <section aria-label="Weight and balance">
      <h3 className="text-sm font-semibold text-quiet">Weight and balance</h3>
      <dl>
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-2 border-b border-line py-0.5">
            <dt>{name}</dt>
            <dd className="text-right font-mono">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-sm text-quiet">As ground, before sharpening; wood and horn vary by a tenth.</p>
    </section>
  );
}

export function Offcuts({
  measures,
  onKeep,
  onRack,
}: {
  measures: Measures;
  /** As a bar on the bench; into the rack, with its pattern. */
  onKeep: (name: string) => void;
  onRack: (name: string) => void;
}) {
  const grams = useGrams();
  const unit = useUnit();
  return (
    <div>
      <h3 className="text-sm font-semibold text-quiet">Left of the bar, worth keeping</h3>
      {measures.offcuts.length ? (
        <ul>
          {measures.offcuts.map((o) => (
            <li key={o.name} className="border-b border-line py-0.5">
              <span className="flex justify-between gap-2">
                <span>{o.name}</span>
                <span className="font-mono">{grams(o.mass)}</span>
              </span>
              <span className="block text-right font-mono text-sm text-quiet">
                {lengthText(o.length, unit)} × {lengthText(o.width, unit)} × {length(o.thickness, unit)}
              </span>
              <Only needs="smith">
                <span className="flex flex-wrap gap-1">
                  <Button compact kind="quiet" onClick={() => onKeep(o.name)}>
                    Keep as a bar
                  </Button>
                  <Button compact kind="quiet" onClick={() => onRack(o.name)}>
                    Into the rack
                  </Button>
                </span>
              </Only>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-quiet">Nothing: the blade takes all of it.</p>
      )}
      {measures.forged ? (
        <p className="mt-1 text-sm">
          Forged from {length(measures.forged.end - measures.forged.heel, unit)} of bar; drawn out{" "}
          <span className="font-mono">{Math.round(measures.forged.stretch * 10) / 10}</span> times at the most,{" "}
          {length(measures.forged.at, unit)} from the heel.
        </p>
      ) : null}
    </div>
  );
}

const SHADES = ["var(--accent)", "var(--care)", "var(--quiet)", "var(--ink)", "var(--note)"];

/** Thickness behind the edge along the blade, at a few heights, and the angle there. */
export function BehindChart({ measures, bladeLength }: { measures: Measures; bladeLength: number }) {
  const unit = useUnit();
  const [what, setWhat] = useState<"thickness" | "angle">("thickness");
  const [ref, room] = useSize<HTMLDivElement>();
  const { x, above, thickness, angle } = measures.behind;
  const rows = what === "thickness" ? thickness : [angle];
  const per = what === "thickness" && unit !== "mm" ? 25.4 : 1;
  const along = unit === "mm" ? 1 : 25.4;
  const most = Math.max(0.1, ...rows.flat()) * 1.1;
  const wide = Math.max(10, room.width - 66);
  const tall = Math.max(10, room.height - 34);
  const px = scaled([0, bladeLength], [56, 56 + wide]);
  const py = scaled([0, most], [8 + tall, 8]);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <div className="flex flex-wrap items-center gap-4">
        <Segments
          label="What is drawn"
          value={what}
          options={[
            { value: "thickness", label: "behind the edge" },
            { value: "angle", label: "included angle" },
          ]}
          onChange={setWhat}
        />
        {what === "thickness" ? (
          <ul className="flex flex-wrap gap-x-4 text-sm text-quiet">
            {above.map((a, i) => (
              <li key={a} className="flex items-center gap-2">
                <svg width={22} height={6} aria-hidden>
                  <line x1={0} x2={22} y1={3} y2={3} stroke={SHADES[i % SHADES.length]} strokeWidth={2.5} />
                </svg>
                {a ? `${length(a, unit)} up` : "at the edge"}
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-sm text-quiet">Between the two faces at the edge, before sharpening, degrees.</p>
        )}
      </div>
      <div ref={ref} className="relative min-h-40 flex-1">
        {room.width > 80 ? (
          <svg
            width={room.width}
            height={room.height}
            className="absolute inset-0"
            role="img"
            aria-label={`${what} along the blade`}
          >
            <text x={50} y={py(most) + 8} textAnchor="end" fontSize={12} fill="var(--quiet)">
              {what === "angle" ? "" : UNIT_MARK[unit]}
            </text>
            <LeftAxis
              from={56}
              to={56 + wide}
              marks={ticks(most / per, tall / 40).map((t) => ({
                at: py(t * per),
                text: what === "angle" ? `${t}°` : lengthText(t * per, unit),
              }))}
            />
            <BottomAxis
              y={room.height - 8}
              from={56}
              to={56 + wide}
              marks={ticks(bladeLength / along, wide / 90).map((t) => ({ at: px(t * along), text: lengthText(t * along, unit) }))}
            />
            {rows.map((row, i) => (
              <path
                key={above[i] ?? "angle"}
                d={path(row.map((v, k) => [px(x[k] ?? 0), py(v)]))}
                fill="none"
                stroke={SHADES[i % SHADES.length]}
                strokeWidth={2.2}
              />
            ))}
          </svg>
        ) : null}
      </div>
      <p className="text-sm text-quiet">
        From the heel, {UNIT_MARK[unit]}. Usual behind the edge:{" "}
        {Object.entries(measures.for_use)
          .map(([use, [least = 0, most = 0]]) => `${use} ${length(least, unit)} to ${length(most, unit)}`)
          .join(", ")}
        . Indicative.
      </p>
    </div>
  );
}

/** How far up each belt may go. */
export function BevelPlan({ measures }: { measures: Measures }) {
  const unit = useUnit();
  const [one, other] = measures.bevels;
  const alike = JSON.stringify(one?.stages) === JSON.stringify(other?.stages);
  const shown = alike ? measures.bevels.slice(0, 1) : measures.bevels;
  return (
    <section
      aria-label="Belt by belt"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
      tabIndex={0}
      className="grid min-h-0 flex-1 auto-rows-min grid-cols-2 gap-6 overflow-y-auto max-[1000px]:grid-cols-1"
    >
      {shown.map((b) => (
        <section
          key={b.side}
          aria-label={`Bevel plan, ${alike ? "both sides" : b.side}`}
          className={alike ? "col-span-full max-w-2xl" : ""}
        >
          <h3 className="mb-1 font-bold">{alike ? "Both sides" : b.side === "right" ? "Right side" : "Left side"}</h3>
          {b.problem ? <p className="text-quiet">{b.problem}.</p> : null}
          {b.stages.length ? (
            <table className="w-full text-right [&_td]:whitespace-nowrap [&_td]:pl-3 [&_th]:whitespace-nowrap [&_th]:pl-3 [&_th:first-child]:pl-0">
              <thead className="text-sm text-quiet">
                <tr>
                  <th scope="col" className="text-left font-normal">
                    belt
                  </th>
                  <th scope="col" className="font-normal">
                    takes
                  </th>
                  <th scope="col" className="font-normal">
                    line up to
                  </th>
                  <th scope="col" className="font-normal">
                    edge left
                  </th>
                </tr>
              </thead>
              <tbody>
                {b.stages.map((s) => (
                  <tr key={s.belt} className="border-t border-line">
                    <th scope="row" className="py-1 text-left font-semibold">
                      {s.belt}
                    </th>
                    <td className="font-mono text-quiet">{s.takes ? length(s.takes, unit) : "–"}</td>
                    <td className="font-mono font-bold">{length(s.top, unit)}</td>
                    <td className="font-mono">{length(s.edge, unit)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ) : null}
        </section>
      ))}
      <p className="col-span-full text-sm text-quiet">
        Heights are up from the edge at mid-length. What each belt takes to clear the scratches before it is indicative: try on
        scrap and put your own in at the left. Grind cool and dip often; wear a mask against the dust, and goggles.
      </p>
    </section>
  );
}

/** What each belt takes: replaced by the shop's own. */
export function BeltFields({
  measures,
  takes,
  onTakes,
}: {
  measures: Measures;
  takes: number[] | null;
  onTakes: (t: number[] | null) => void;
}) {
  const now = takes ?? measures.bevels.find((b) => b.stages.length)?.stages.map((s) => s.takes) ?? [];
  const names = measures.bevels.find((b) => b.stages.length)?.stages.map((s) => s.belt) ?? [];
  return (
    <>
      <p className="col-span-full -mt-1 text-sm text-quiet">
        Every finer belt pushes the bevel's line up. Stop the coarse one short, so that the last brings it to its height.
      </p>
      {names.slice(1).map((name, i) => (
        <Measure
          key={name}
          label={`${name} takes`}
          unit="mm"
          value={now[i + 1] ?? 0}
          onChange={(v) => onTakes(now.map((t, k) => (k === i + 1 ? (v ?? 0) : t)))}
        />
      ))}
      {takes ? (
        <div className="col-span-full">
          <Button kind="quiet" onClick={() => onTakes(null)}>
            Back to the usual figures
          </Button>
        </div>
      ) : (
        <p className="col-span-full text-sm text-quiet">Indicative figures.</p>
      )}
    </>
  );
}
