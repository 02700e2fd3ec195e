import { useState } from "react";
import type { Document, Fired, FireSheet } from "../../../api/types";
import { useDegrees, useUnit } from "../../../app/session";
import { lengthText, percent, temperature, thickness, UNIT_MARK } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { AxisName, BottomAxis, LeftAxis, type Point, path, scaled } from "../../../ui/chart";
import { greyOf } from "../../steels";
import { numberOf } from "../bars";
import { FLOW } from "../flow";
import { marksOf, whenEven } from "./carbon";
import { glowOf } from "./glow";
import { EVEN } from "./words";

const LEFT = 44;
const BOTTOM = 42;

/** Carbon across the layers after every fire: where it was, where it is. */
export function CarbonTab({ document, sheet }: { document: Document; sheet: FireSheet }) {
  const heat = useDegrees();
  const unit = useUnit();
  const [index, setIndex] = useState<number | null>(null);
  const steps = sheet.steps;
  const at = Math.min(index ?? steps.length - 1, steps.length - 1);
  const now = steps[at];
  if (!now) return <p className="m-auto text-quiet">Nothing goes into the fire yet.</p>;
  return (
    <div className={`${FLOW.grid} grid-cols-[17rem_minmax(0,1fr)_21rem] max-[1100px]:grid-cols-[17rem_minmax(0,1fr)]`}>
      <nav
        aria-label="After which step"
        className={`no-print min-h-0 overflow-y-auto border-r border-line p-2 max-[800px]:max-h-48 ${FLOW.left}`}
      >
        <ol>
          {steps.map((f, i) => (
            <li key={[...f.bar, f.step].join(".")}>
              <button
                type="button"
                aria-current={i === at || undefined}
                onClick={() => setIndex(i)}
                className={`flex min-h-11 w-full items-center gap-2 rounded-lg px-2 text-left ${i === at ? "bg-ink text-panel" : "hover:bg-line/60"}`}
              >
                <span
                  aria-hidden
                  className="h-4 w-4 shrink-0 rounded-full border border-edge"
                  style={{ background: f.heats ? glowOf(f.celsius) : "transparent" }}
                />
                <span className="min-w-0 flex-1">
                  {f.title}
                  {numberOf(document, f.bar) ? ` (bar ${numberOf(document, f.bar)})` : ""}
                  <span className={`block text-sm leading-tight ${i === at ? "" : "text-quiet"}`}>
                    {f.heats ? `${f.heats} × ${f.minutes.toFixed(0)} min, ${temperature(f.celsius, heat)}` : "no heat of its own"}
                  </span>
                </span>
              </button>
            </li>
          ))}
        </ol>
      </nav>
      <div className="flex min-h-0 min-w-0 flex-col p-3 max-[1100px]:h-96">
        <Profile fired={now} sheet={sheet} />
      </div>
      <aside
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        aria-label="What it comes to"
        className={`min-h-0 overflow-y-auto p-3 ${FLOW.right}`}
      >
        <h2 className="text-lg font-bold">
          After {now.title.toLowerCase()}: {EVEN[now.even]}
        </h2>
        <p className="mb-1 text-quiet">
          {now.layers} layers on this line, the thinnest {thickness(now.thinnest, unit)}.
        </p>
        <p className="mb-3">{whenEven(sheet, heat)}</p>
        <table className="mb-3 w-full text-left">
          <thead className="text-sm text-quiet">
            <tr className="border-b border-line">
              <th className="py-1 font-normal">Steel</th>
              <th className="pr-3 text-right font-normal">was</th>
              <th className="pr-3 text-right font-normal" title="Below the carbon-poor skin">
                is, %
              </th>
              <th className="text-right font-normal">from – to</th>
            </tr>
          </thead>
          <tbody>
            {Object.entries(now.carbon).map(([key, [low, mean, high]]) => {
              const steel = sheet.steels.find((s) => s.key === key);
              return (
                <tr key={key} className="border-b border-line last:border-0">
                  <td className="py-1">
                    <span className="inline-flex items-center gap-2">
                      <span
                        aria-hidden
                        className="h-4 w-4 rounded border border-edge"
                        style={{ background: greyOf(steel?.grey ?? 0.2) }}
                      />
                      {steel?.name ?? key}
                    </span>
                  </td>
                  <td className="pr-3 text-right font-mono">{steel?.carbon.toFixed(2)}</td>
                  <td className="pr-3 text-right font-mono font-semibold">{mean?.toFixed(2)}</td>
                  <td className="text-right font-mono text-sm whitespace-nowrap">
                    {low?.toFixed(2)} – {high?.toFixed(2)}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {Object.keys(sheet.edge).length ? (
          <p className="mb-3">
            <strong>At the edge in the end:</strong>{" "}
            {Object.entries(sheet.edge)
              .map(([k, c]) => `${sheet.steels.find((s) => s.key === k)?.name ?? k} ${c.toFixed(2)} % carbon`)
              .join(", ")}
            .
          </p>
        ) : null}
        <h2 className="font-bold">The contrast that stays</h2>
        <p className="mb-2">
          {!sheet.lasts
            ? "No nickel or chromium parts these steels: once carbon is even, little contrast is left."
            : `${sheet.element === "Ni" ? "Nickel" : sheet.element === "Cr" ? "Chromium" : "Copper"} parts them by ${sheet.apart.toFixed(1)} %; ${percent(sheet.contrast)} of that is left between the layers. It hardly moves: it is the carbon that does.`}
        </p>
        <ul className="mb-2 text-sm text-quiet">
          {sheet.steels.map((s) => (
            <li key={s.key}>
              {s.name}: etched tone {s.tone.toFixed(1)}
              {Math.abs(s.tone - s.tone_after) > 0.05 ? `, after the fire ${s.tone_after.toFixed(1)}` : ", as before"}
            </li>
          ))}
        </ul>
        <p className="text-sm text-quiet">
          Carbon runs from where it is more active to where it is less: out of silicon and nickel steels, into chromium ones. It
          is followed along one line through the layers, face to face; faces open to the fire lose theirs, and what each steel has
          is told below that skin. Indicative within about a tenth.
        </p>
      </aside>
    </div>
  );
}

const ENDS: Record<Fired["profile"]["normal"], [string, string]> = {
  z: ["bottom", "top"],
  y: ["front", "back"],
  x: ["start", "end"],
  "": ["one face", "the other"],
};

/** The layers as they lie, dark and bright, with the carbon in them drawn over. */
function Profile({ fired, sheet }: { fired: Fired; sheet: FireSheet }) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const WIDTH = Math.max(280, room.width);
  const HEIGHT = Math.max(200, room.height);
  const { across, height, carbon, steel, steels } = fired.profile;
  const own = (i: number) => sheet.steels.find((s) => s.key === steels[steel[i] ?? 0])?.carbon ?? 0;
  const top = Math.max(0.4, ...carbon, ...height.map((_, i) => own(i))) * 1.12;
  const x = scaled([0, 1], [LEFT, WIDTH - 8]);
  const y = scaled([0, top], [HEIGHT - BOTTOM, 8]);
  const edges = height.map((h, i) => (i ? ((height[i - 1] ?? 0) + h) / 2 : 0)).concat([1]);
  const step = top > 1.6 ? 0.5 : 0.2;
  const marks = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step);
  const runs: { from: number; to: number; key: string }[] = [];
  height.forEach((_, i) => {
    const key = steels[steel[i] ?? 0] ?? "";
    const last = runs.at(-1);
    if (last && last.key === key) last.to = edges[i + 1] ?? 1;
    else runs.push({ from: edges[i] ?? 0, to: edges[i + 1] ?? 1, key });
  });
  const line = path(height.map((h, i) => [x(h), y(carbon[i] ?? 0)]));
  // in steps: each layer has its own all through
  const start = path(height.flatMap((_, i) => [edges[i] ?? 0, edges[i + 1] ?? 1].map((h): Point => [x(h), y(own(i))])));
  const said = Object.entries(fired.carbon)
    .map(([k, v]) => `${sheet.steels.find((s) => s.key === k)?.name ?? k} ${v[1]?.toFixed(2)} %`)
    .join(", ");
  const ticks = marksOf(across, unit);
  return (
    <figure className="flex min-h-0 flex-1 flex-col">
      <div ref={ref} className="min-h-64 min-w-0 flex-1 overflow-hidden">
        <svg width={WIDTH} height={HEIGHT} className="block" role="img" aria-label={`Carbon across the layers: ${said}`}>
          {runs.map((r) => (
            <rect
              key={r.from}
              x={x(r.from)}
              width={Math.max(0.3, x(r.to) - x(r.from))}
              y={8}
              height={HEIGHT - BOTTOM - 8}
              fill={greyOf(sheet.steels.find((s) => s.key === r.key)?.grey ?? 0.2)}
            />
          ))}
          <LeftAxis from={LEFT} to={WIDTH - 8} short marks={marks.map((m) => ({ at: y(m), text: m.toFixed(1) }))} />
          <path d={start} fill="none" stroke="#ffffff" strokeWidth={3} opacity={0.75} />
          <path d={start} fill="none" stroke="#3a3a3a" strokeWidth={1.4} strokeDasharray="5 4" />
          <path d={line} fill="none" stroke="#1c1712" strokeWidth={5.5} strokeLinejoin="round" />
          <path d={line} fill="none" stroke="#ffb43a" strokeWidth={2.8} strokeLinejoin="round" />
          <BottomAxis
            y={HEIGHT - BOTTOM + 16}
            from={LEFT}
            to={WIDTH - 8}
            base={HEIGHT - BOTTOM}
            marks={ticks.map((t) => ({ at: x(t / across), text: lengthText(t, unit) }))}
          />
          <text x={LEFT} y={HEIGHT - 6} className="fill-quiet text-[12px]">
            {ENDS[fired.profile.normal][0]}
          </text>
          <text x={(LEFT + WIDTH - 8) / 2} y={HEIGHT - 6} textAnchor="middle" className="fill-quiet text-[12px]">
            {UNIT_MARK[unit]} across the layers
          </text>
          <text x={WIDTH - 8} y={HEIGHT - 6} textAnchor="end" className="fill-quiet text-[12px]">
            {ENDS[fired.profile.normal][1]}
          </text>
          <AxisName height={HEIGHT}>carbon, %</AxisName>
        </svg>
      </div>
      <figcaption className="text-sm text-quiet">
        Layers as they etch; dashed: the carbon each began with; bright line: the carbon now.
        {fired.profile.normal === ""
          ? " The bar was twisted or turned, so its layers lie all ways: thick as if it were square."
          : ""}
      </figcaption>
    </figure>
  );
}
