import { type PointerEvent, useId } from "react";
import type { Side } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { lengthText, MM_PER_INCH, UNIT_MARK } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { LeftAxis, path, scaled, strip, ticks } from "../../../ui/chart";

export type Trail = { label: string; x: number[]; right: number[]; left: number[]; look: "now" | "before" | "middle" };
export type Spread = { x: number[]; right: [number[], number[]]; left: [number[], number[]]; label: string };
export type Dot = { x: number; side: Side; height: number };

const LEFT = 52;
const RIGHT = 10;
const TOP = 18;
const RULE = 20;
const LOOK = {
  now: { stroke: "var(--accent)", width: 2.5, dash: undefined },
  middle: { stroke: "var(--accent)", width: 2, dash: undefined },
  before: { stroke: "var(--care)", width: 2, dash: "6 4" },
};

/** Core line of both sides, mirrored about the spine as the faces are: left above with its edge up, right below with its edge down. */
export function CoreChart({
  length,
  heights,
  band,
  trails,
  spread,
  dots = [],
  judged,
  at,
  onAt,
  label,
}: {
  /** The blade's length, mm. */
  length: number;
  /** [x, height square to the edge] of the blade. */
  heights: [number, number][];
  /** Wanted, per x: [x, low, high]; mm. */
  band: [number, number, number][];
  trails: Trail[];
  spread?: Spread;
  dots?: Dot[];
  judged: [number, number];
  /** The station looked at, mm. */
  at?: number | null;
  onAt?: (x: number | null) => void;
  label: string;
}) {
  const unit = useUnit();
  const id = useId();
  const [ref, room] = useSize<HTMLDivElement>();
  const tallest = Math.max(1, ...heights.map((h) => h[1]));
  const seen = Math.max(
    ...band.map((b) => b[2] * 1.35),
    ...trails.flatMap((t) => [...t.right, ...t.left]).map((v) => v * 1.12),
    ...(spread ? [...spread.right[1], ...spread.left[1]].map((v) => v * 1.08) : [0]),
    ...dots.map((d) => d.height * 1.1),
  );
  const most = Math.min(tallest, Math.max(4, seen));
  const wide = Math.max(10, room.width - LEFT - RIGHT);
  const half = Math.max(10, (room.height - TOP - RULE - 4) / 2);
  const px = scaled([0, length], [LEFT, LEFT + wide]);
  const rises = {
    left: scaled([0, most], [TOP, TOP + half]).clamp(true),
    right: scaled([0, most], [TOP + 2 * half + RULE, TOP + half + RULE]).clamp(true),
  };
  const py = (side: Side, h: number) => rises[side](h);
  const line = (side: Side, xs: number[], hs: number[]): [number, number][] =>
    xs.map((x, i) => [px(x), py(side, hs[i] ?? Number.NaN)]);
  const perUnit = unit === "mm" ? 1 : MM_PER_INCH;
  const along = ticks(length / perUnit, wide / 90).map((t) => t * perUnit);
  const up = ticks(most / perUnit, half / 34).map((t) => t * perUnit);
  const move = (e: PointerEvent<SVGSVGElement>) => {
    const x = px.invert(e.clientX - e.currentTarget.getBoundingClientRect().left);
    onAt?.(Math.min(length, Math.max(0, x)));
  };
  const sides: Side[] = ["left", "right"];
  return (
    <div ref={ref} className="relative min-h-40 min-w-0 flex-1 overflow-hidden">
      {room.width > 60 && room.height > 80 ? (
        <svg
          width={room.width}
          height={room.height}
          role="img"
          aria-label={label}
          className="absolute inset-0 touch-pan-y text-ink select-none"
          onPointerMove={onAt ? move : undefined}
          onPointerDown={onAt ? move : undefined}
          onPointerLeave={onAt ? () => onAt(null) : undefined}
        >
          <defs>
            <clipPath id={`${id}-left`}>
              <rect x={LEFT} y={TOP} width={wide} height={half} />
            </clipPath>
            <clipPath id={`${id}-right`}>
              <rect x={LEFT} y={TOP + half + RULE} width={wide} height={half} />
            </clipPath>
          </defs>
          {sides.map((side) => {
            const spine = heights.map(([x, h]) => [px(x), py(side, Math.min(h, most))] as [number, number]);
            const floor = heights.map(([x]) => [px(x), py(side, 0)] as [number, number]);
            const inBand = band.filter((b) => b[0] >= judged[0] - 1e-6 && b[0] <= judged[1] + 1e-6);
            return (
              <g key={side} clipPath={`url(#${id}-${side})`}>
                <path d={strip(floor, spine)} fill="var(--well)" />
                <path
                  d={strip(
                    inBand.map((b) => [px(b[0]), py(side, b[1])]),
                    inBand.map((b) => [px(b[0]), py(side, b[2])]),
                  )}
                  fill="var(--note-wash)"
                  stroke="var(--note)"
                  strokeWidth={0.75}
                  strokeDasharray="2 3"
                />
                {spread ? (
                  <path
                    d={strip(line(side, spread.x, spread[side][0]), line(side, spread.x, spread[side][1]))}
                    fill="var(--care)"
                    opacity={0.3}
                  />
                ) : null}
                {trails.map((t) => (
                  <path
                    key={t.label}
                    d={path(line(side, t.x, t[side]))}
                    fill="none"
                    stroke={LOOK[t.look].stroke}
                    strokeWidth={LOOK[t.look].width}
                    strokeDasharray={LOOK[t.look].dash}
                    strokeLinejoin="round"
                  />
                ))}
              </g>
            );
          })}
          {sides.map((side) => (
            <g key={side}>
              <LeftAxis
                from={LEFT}
                to={LEFT + wide}
                marks={up.map((h) => ({
                  at: py(side, h),
                  text: Math.abs(py(side, h) - py(side, most)) < 9 && h ? "" : lengthText(h, unit),
                  strong: !h,
                }))}
              />
              <text
                x={LEFT + 4}
                y={side === "left" ? TOP - 5 : TOP + 2 * half + RULE - 6}
                fontSize={13}
                fontWeight={700}
                fill="var(--ink)"
              >
                {side === "left" ? "Left" : "Right"}
                <tspan fontWeight={400} fill="var(--quiet)">
                  {side === "left" ? `  edge up, ${UNIT_MARK[unit]} from the edge` : ""}
                </tspan>
              </text>
            </g>
          ))}
          <rect x={LEFT} y={TOP + half} width={wide} height={RULE} fill="var(--panel)" />
          {along.map((x) => (
            <g key={x}>
              <line x1={px(x)} x2={px(x)} y1={TOP + half} y2={TOP + half + 5} stroke="var(--edge)" />
              <line x1={px(x)} x2={px(x)} y1={TOP + half + RULE - 5} y2={TOP + half + RULE} stroke="var(--edge)" />
              <text
                x={Math.min(px(x), LEFT + wide - 14)}
                y={TOP + half + 14.5}
                fontSize={12}
                textAnchor={x ? "middle" : "start"}
                fill="var(--quiet)"
                className="font-mono"
              >
                {unit === "mm" ? x : lengthText(x, unit)}
              </text>
            </g>
          ))}
          <text x={LEFT - 6} y={TOP + half + 14.5} fontSize={12} textAnchor="end" fill="var(--quiet)">
            spine
          </text>
          {dots.map((d) => (
            <circle
              key={`${d.x}${d.side}`}
              cx={px(d.x)}
              cy={py(d.side, d.height)}
              r={4.5}
              fill="var(--panel)"
              stroke="var(--ink)"
              strokeWidth={2}
            />
          ))}
          {at !== null && at !== undefined ? (
            <line
              x1={px(at)}
              x2={px(at)}
              y1={TOP}
              y2={TOP + 2 * half + RULE}
              stroke="var(--ink)"
              strokeWidth={1}
              strokeDasharray="1 3"
            />
          ) : null}
        </svg>
      ) : null}
    </div>
  );
}

/** What each line and strip of the chart means. */
export function Legend({ trails, spread, dots }: { trails: Trail[]; spread?: Spread; dots?: boolean }) {
  return (
    <ul className="flex flex-wrap items-center gap-x-5 gap-y-1 px-1 text-sm text-quiet">
      {trails.map((t) => (
        <li key={t.label} className="flex items-center gap-2">
          <svg width={26} height={8} aria-hidden>
            <line
              x1={0}
              x2={26}
              y1={4}
              y2={4}
              stroke={LOOK[t.look].stroke}
              strokeWidth={2.5}
              strokeDasharray={LOOK[t.look].dash}
            />
          </svg>
          {t.label}
        </li>
      ))}
      {spread ? (
        <li className="flex items-center gap-2">
          <span aria-hidden className="h-3 w-6 rounded-sm bg-care opacity-30" />
          {spread.label}
        </li>
      ) : null}
      {dots ? (
        <li className="flex items-center gap-2">
          <span aria-hidden className="h-3 w-3 rounded-full border-2 border-ink" />
          read
        </li>
      ) : null}
      <li className="flex items-center gap-2">
        <span aria-hidden className="h-3 w-6 border border-dashed border-note bg-note-wash" />
        wanted
      </li>
    </ul>
  );
}
