/** One way to chart: scales, paths and axes, for SVG. d3 does the sums; nothing here knows steel. */

import { type ScaleLinear, scaleLinear } from "d3-scale";
import { curveLinear, line } from "d3-shape";
import type { ReactNode } from "react";

export type Scale = ScaleLinear<number, number>;
export type Point = readonly [number, number];

/** From what is measured to pixels. */
export function scaled(domain: [number, number], range: [number, number]): Scale {
  return scaleLinear(domain, range);
}

/** Round numbers from 0 up to `most`, about `count` of them. */
export function ticks(most: number, count: number): number[] {
  return scaleLinear([0, most], [0, 1]).ticks(Math.max(1, count));
}

const drawn = line<Point | null>()
  .defined((p) => p !== null && Number.isFinite(p[0]) && Number.isFinite(p[1]))
  .x((p) => p?.[0] ?? 0)
  .y((p) => p?.[1] ?? 0)
  .curve(curveLinear)
  .digits(1);

/** A path through points; a gap where a value is missing. */
export function path(points: (Point | null)[]): string {
  return drawn(points) ?? "";
}

/** The closed strip between two lines over the same stretch. */
export function strip(low: Point[], high: Point[]): string {
  return low.length ? `${path([...low, ...high.toReversed()])}Z` : "";
}

type Mark = { at: number; text: ReactNode; strong?: boolean };
const SIZE = 12;

/** Marks up the left side, each with its line from `from` to `to`; `short`: a stub of a line only. */
export function LeftAxis({ marks, from, to, short }: { marks: Mark[]; from: number; to: number; short?: boolean }) {
  return marks.map((m) => (
    <g key={m.at}>
      <line
        x1={short ? from - 4 : from}
        x2={short ? from : to}
        y1={m.at}
        y2={m.at}
        stroke={short ? "var(--quiet)" : "var(--line)"}
        strokeWidth={m.strong ? 1.4 : 0.8}
      />
      <text x={from - 7} y={m.at + 4} fontSize={SIZE} textAnchor="end" fill="var(--quiet)" className="font-mono">
        {m.text}
      </text>
    </g>
  ));
}

/** Marks along the bottom; `y`: where their text stands; `up`: how far a line goes up from there, to `base`. The outermost stay inside. */
export function BottomAxis({
  marks,
  y,
  from,
  to,
  base,
  up = 0,
}: {
  marks: Mark[];
  y: number;
  from: number;
  to: number;
  base?: number;
  up?: number;
}) {
  return marks.map((m) => (
    <g key={m.at}>
      {base === undefined ? null : <path d={`M${m.at} ${base}v${-up || 4}`} stroke={up ? "var(--line)" : "var(--quiet)"} />}
      <text
        x={Math.min(m.at, to)}
        y={y}
        fontSize={SIZE}
        textAnchor={m.at < from + 6 ? "start" : m.at > to - 14 ? "end" : "middle"}
        fill="var(--quiet)"
        className="font-mono"
      >
        {m.text}
      </text>
    </g>
  ));
}

/** What runs up the left side. */
export function AxisName({ height, children }: { height: number; children: ReactNode }) {
  return (
    <text
      x={12}
      y={height / 2}
      transform={`rotate(-90 12 ${height / 2})`}
      textAnchor="middle"
      fontSize={SIZE}
      fill="var(--quiet)"
    >
      {children}
    </text>
  );
}
