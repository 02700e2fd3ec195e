/** Words and shapes of the exercises. Pure. */

/** A path through points of one side: x mm from the heel, h mm from its edge; edge down or, turned over, up. */
export function sidePath(x: readonly number[], h: readonly number[], high: number, edgeUp: boolean, scale: number): string {
  return x
    .map(
      (v, i) => `${i ? "L" : "M"}${(v * scale).toFixed(1)} ${((edgeUp ? (h[i] ?? 0) : high - (h[i] ?? 0)) * scale).toFixed(1)}`,
    )
    .join("");
}

/** How well a line lies: by station that is judged, whether it is in the band. */
export function inBand(
  x: readonly number[],
  line: readonly number[],
  band: { low: number; high: number; start: number; end: number },
): { judged: number; good: number } {
  const judged = x.map((v, i) => ({ v, h: line[i] ?? 0 })).filter((p) => p.v >= band.start && p.v <= band.end);
  return { judged: judged.length, good: judged.filter((p) => p.h >= band.low && p.h <= band.high).length };
}

/** A stretch of the blade, mm: its middle from the heel, and over how much; nothing said of it stays as it was. */
export type Stretch = { at?: number; wide?: number };
const A_TAP = 4;
const NARROWEST = 10;

/** From where it was pressed to where it is now, mm; hardly moved, it is a tap: only the middle is meant. */
export function stretched(from: number, to: number, length: number): Stretch {
  const on = (v: number) => Math.min(length, Math.max(0, v));
  const [a, b] = [on(Math.min(from, to)), on(Math.max(from, to))];
  const at = Math.round((a + b) / 2);
  return Math.abs(to - from) < A_TAP ? { at } : { at, wide: Math.max(NARROWEST, Math.round((b - a) / 5) * 5) };
}
