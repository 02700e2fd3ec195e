/** The core line as the screen draws it. Pure. */

import type { CoreLine, Side } from "../../../api/types";

export type Place = CoreLine["stations"][number];

/** Height of the core line, mm square to the edge: 0 where none begins at the edge, the blade's height where it reaches the spine. */
export function lineHeight(s: Pick<Place, "shown">): number {
  const [low = 1, high = 0] = s.shown[0] ?? [];
  return low > 1e-6 ? 0 : high;
}

export function ofSide(stations: Place[], side: Side): Place[] {
  return stations.filter((s) => s.side === side);
}

/** Round numbers from 0 up to `most`, about `count` of them. */
export function ticks(most: number, count: number): number[] {
  const rough = most / Math.max(1, count);
  const power = 10 ** Math.floor(Math.log10(Math.max(rough, 1e-9)));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= rough) ?? rough;
  return Array.from({ length: Math.floor(most / step + 1e-9) + 1 }, (_, i) => Math.round(i * step * 1e6) / 1e6);
}

/** A path through points; a gap where a value is missing. */
export function path(points: ([number, number] | null)[]): string {
  let pen = false;
  return points
    .map((p) => {
      if (!p || !Number.isFinite(p[1])) {
        pen = false;
        return "";
      }
      const move = `${pen ? "L" : "M"}${p[0].toFixed(1)},${p[1].toFixed(1)}`;
      pen = true;
      return move;
    })
    .join("");
}

/** The closed strip between two lines over the same x. */
export function strip(low: [number, number][], high: [number, number][]): string {
  return low.length ? `${path(low)}${path([...high].reverse()).replace("M", "L")}Z` : "";
}
