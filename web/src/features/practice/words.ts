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
