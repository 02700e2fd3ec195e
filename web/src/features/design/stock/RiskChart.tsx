import { type PointerEvent, useRef } from "react";
import { useUnit } from "../../../app/session";
import { length, lengthText, percent, UNIT_MARK } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { BottomAxis, LeftAxis, path, scaled, ticks } from "../../../ui/chart";
import { useStock } from "./stock";
import { causeName, oneIn } from "./words";

const TALL = 150;

/** The chance of coming up short against the length of the longest pile; a click sets the reserve. */
export function RiskChart() {
  const { risk, put } = useStock();
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const curve = risk.data;
  if (!curve || curve.length.length < 2)
    return risk.failure ? null : <p className="h-40 animate-pulse text-sm text-quiet">Drawing 4,096 forgings of it…</p>;
  const along = unit === "mm" ? 1 : 25.4;
  const first = curve.length[0] ?? 0;
  const last = curve.length.at(-1) ?? 1;
  const right = Math.max(120, room.width - 6);
  const px = scaled([first, last], [40, right]);
  const py = scaled([0, Math.max(0.6, curve.short[0] ?? 0)], [TALL - 24, 8]);
  const at = (reserve: number) => px(between(curve.reserve, curve.length, reserve));
  const sure = curve.sure[0] ?? null;
  const pick = (e: PointerEvent<SVGSVGElement>) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const long = px.invert(Math.min(right, Math.max(40, e.clientX - box.left)));
    put({ short: null, reserve: Math.round(100 * between(curve.length, curve.reserve, long)) / 100 }, "reserve");
  };
  const most = curve.matters[0];
  return (
    <figure aria-label="Chance of coming up short">
      <div ref={ref} className="relative" style={{ height: TALL }}>
        {room.width > 80 ? (
          <svg
            ref={svg}
            width={room.width}
            height={TALL}
            className="absolute inset-0 cursor-ew-resize touch-none"
            role="img"
            aria-label={`Chance of coming up short, from ${percent(curve.short[0] ?? 0)} at ${length(first, unit)} of pile to ${percent(curve.short.at(-1) ?? 0)} at ${length(last, unit)}`}
            onPointerDown={pick}
            onPointerMove={(e) => e.buttons === 1 && pick(e)}
          >
            <LeftAxis from={40} to={right} marks={[0, 0.25, 0.5].map((v) => ({ at: py(v), text: percent(v) }))} />
            <BottomAxis
              y={TALL - 6}
              from={40}
              to={right}
              base={TALL - 24}
              marks={ticks(last / along, 12)
                .filter((t) => t * along >= first)
                .filter((_, i, all) => i % Math.max(1, Math.ceil(all.length / 5)) === 0)
                .map((t) => ({ at: px(t * along), text: lengthText(t * along, unit) }))}
            />
            <path
              d={path(curve.length.map((l, i) => [px(l), py(curve.short[i] ?? 0)]))}
              fill="none"
              stroke="var(--accent)"
              strokeWidth={2.4}
            />
            <line x1={at(curve.planned)} x2={at(curve.planned)} y1={8} y2={TALL - 24} stroke="var(--ink)" strokeWidth={2} />
            <circle cx={at(curve.planned)} cy={py(curve.now)} r={5} fill="var(--ink)" />
            <text
              x={at(curve.planned) + (at(curve.planned) > right - 70 ? -8 : 8)}
              y={18}
              fontSize={12}
              textAnchor={at(curve.planned) > right - 70 ? "end" : "start"}
              fill="var(--ink)"
            >
              yours, {percent(curve.planned)}
            </text>
          </svg>
        ) : null}
      </div>
      <figcaption className="text-sm">
        With {percent(curve.planned)} you come up short <b>{oneIn(curve.now)}</b>
        {sure === null ? (
          "; a longer bar alone does not make it sure, for one of its piles does not grow with it."
        ) : sure <= curve.planned ? (
          "."
        ) : (
          <>
            ; {percent(sure)} makes it 1 time in 20.{" "}
            <button
              type="button"
              className="underline"
              onClick={() => put({ short: null, reserve: Math.ceil(100 * sure) / 100 }, "reserve")}
            >
              Take that
            </button>
          </>
        )}{" "}
        {most ? `Most of it is ${causeName(most[0] as string)}.` : ""}
        <span className="block text-quiet">
          Across: the longest pile, {UNIT_MARK[unit]}. Spreads are indicative until your own log says better.
        </span>
      </figcaption>
    </figure>
  );
}

/** Where `x` lies in `xs` (rising), read off at `ys`. */
function between(xs: number[], ys: number[], x: number): number {
  const i = Math.min(
    xs.length - 1,
    Math.max(
      1,
      xs.findIndex((v) => v >= x),
    ),
  );
  const k = x >= (xs.at(-1) ?? 0) ? xs.length - 1 : i;
  const [x0 = 0, x1 = 1, y0 = 0, y1 = 0] = [xs[k - 1], xs[k], ys[k - 1], ys[k]];
  const t = x1 > x0 ? Math.min(1, Math.max(0, (x - x0) / (x1 - x0))) : 0;
  return y0 + t * (y1 - y0);
}
