/** Readings of a test etch as a table: a row per station, left and right. Pure. */

import type { Reading, Readings, Round, Side } from "../../../api/types";
import { widestGap } from "../../../lib/stations";

export type Cell = { height: number | null; state: "line" | "none" | "spine" } | null;
export type Line = { x: number; right: Cell; left: Cell };

export function asLines(readings: Readings | undefined): Line[] {
  const lines = new Map<number, Line>();
  // a station that is waiting to be read is a line too
  for (const x of readings?.stations ?? []) lines.set(x, { x, right: null, left: null });
  for (const r of readings?.heights ?? []) {
    const line = lines.get(r.x) ?? { x: r.x, right: null, left: null };
    line[r.side] = { height: r.height ?? null, state: r.state ?? "line" };
    lines.set(r.x, line);
  }
  return [...lines.values()].sort((a, b) => a.x - b.x);
}

/** These heights instead, with the mark of the faces they are read on: it stays that of the first of a round. */
export function withHeights(readings: Readings, heights: Reading[], surface: string): Readings {
  const kept = readings.heights?.length ? (readings.surface ?? "") : surface;
  return { ...readings, heights, surface: heights.length ? kept : "" };
}

/** Whether the faces were changed since the heights were read. */
export function isOver(readings: Readings | undefined, surface: string): boolean {
  return !!readings?.heights?.length && !!readings.surface && readings.surface !== surface;
}

/** What was read becomes a round that is over; its stations wait to be read on the new faces. */
export function closed(readings: Readings, ground: Round["ground"]): Readings {
  const heights = readings.heights ?? [];
  const within = readings.within ?? 0.4;
  return {
    within,
    heights: [],
    stations: [...new Set([...(readings.stations ?? []), ...heights.map((r) => r.x)])].sort((a, b) => a - b),
    rounds: [...(readings.rounds ?? []), { heights, within, ground }].slice(-40),
  };
}

export function withCell(heights: Reading[], x: number, side: Side, cell: Cell): Reading[] {
  const rest = heights.filter((r) => r.x !== x || r.side !== side);
  if (!cell) return rest;
  return [...rest, { x, side, height: cell.state === "line" ? cell.height : null, state: cell.state }].sort(
    (a, b) => a.x - b.x || a.side.localeCompare(b.side),
  );
}

/** What this round takes off: all that is taken now less what had been before, at the stations of now. */
export function lessBefore(now: number[][] | undefined, before: number[][] | undefined): number[][] {
  const at = (x: number, column: number) => {
    const rows = before ?? [];
    if (!rows.length) return 0;
    const next = rows.findIndex((r) => (r[0] ?? 0) >= x);
    if (next <= 0) return (next === 0 ? rows[0] : rows.at(-1))?.[column] ?? 0;
    const [a, b] = [rows[next - 1] ?? [], rows[next] ?? []];
    const share = (x - (a[0] ?? 0)) / Math.max((b[0] ?? 0) - (a[0] ?? 0), 1e-9);
    return (a[column] ?? 0) * (1 - share) + (b[column] ?? 0) * share;
  };
  return (now ?? []).map((r) => {
    const x = r[0] ?? 0;
    return [x, Math.max(0, (r[1] ?? 0) - at(x, 1)), Math.max(0, (r[2] ?? 0) - at(x, 2))];
  });
}

/** The next station to read: from a fiftieth to eleven twelfths of the length, where a height can be read. */
export function nextStation(lines: Line[], length: number): number {
  return widestGap(
    lines.map((l) => l.x),
    length * 0.02,
    length * 0.92,
  );
}
