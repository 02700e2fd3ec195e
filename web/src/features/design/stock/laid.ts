/** Bars laid out by hand: a piece moved to another bar, a bar locked or let go. Pure. */

import type { CutPlan, LaidBar } from "../../../api/types";

/** One bar of several alike, told apart: "R2" and which of them. */
export type BarKey = string;

/** Each bar of the plan under its own key, in its order. */
export function keyed(plan: CutPlan): { key: BarKey; bar: CutPlan["bars"][number] }[] {
  const seen = new Map<string, number>();
  return plan.bars.map((bar) => {
    const n = seen.get(bar.code) ?? 0;
    seen.set(bar.code, n + 1);
    return { key: `${bar.code}#${n}`, bar };
  });
}

/** As it lies now, all of it by hand. */
function asLaid(plan: CutPlan): Map<BarKey, LaidBar> {
  return new Map(keyed(plan).map(({ key, bar }) => [key, { item: bar.code, pieces: bar.cuts.map((c) => c.piece) }]));
}

/** The piece goes to this bar (its key, or the code of a bar that is not yet cut); all bars stay as they lie then. */
export function moved(plan: CutPlan, piece: string, to: BarKey): LaidBar[] {
  const bars = asLaid(plan);
  for (const [key, bar] of bars) bars.set(key, { ...bar, pieces: bar.pieces.filter((p) => p !== piece) });
  const there = bars.get(to) ?? { item: to.split("#")[0] ?? to, pieces: [] };
  bars.set(to, { ...there, pieces: [...there.pieces, piece] });
  return [...bars.values()].filter((b) => b.pieces.length);
}

/** Only the bars that are locked stay as they lie. */
export function locked(plan: CutPlan, keys: ReadonlySet<BarKey>): LaidBar[] {
  return keyed(plan)
    .filter(({ key }) => keys.has(key))
    .map(({ bar }) => ({ item: bar.code, pieces: bar.cuts.map((c) => c.piece) }));
}
