/** Which of several designs suits how one works: what of the grid is looked at, and who is first in it. Pure. */

export type Row = { design: number; name: string; first: number[][]; error: number[][]; problem: string };
export type Ranked = {
  design: number;
  name: string;
  first: number;
  error: number /** Not told apart from the best. */;
  asGood: boolean;
};

/** At one point of the grid, best first; those within the width of their figures from the best are as good. */
export function ranked(rows: Row[], scale: number, others: number): Ranked[] {
  const found = rows
    .filter((r) => !r.problem)
    .map((r) => ({
      design: r.design,
      name: r.name,
      first: r.first[others]?.[scale] ?? 0,
      error: r.error[others]?.[scale] ?? 0,
    }))
    .sort((a, b) => b.first - a.first);
  const best = found[0];
  return found.map((f) => ({ ...f, asGood: !!best && best.first - f.first <= 2 * Math.hypot(best.error, f.error) }));
}

/** In a sentence: who is best, and who is not told apart from it. */
export function verdict(list: Ranked[]): string {
  const [best, ...rest] = list;
  if (!best) return "";
  if (best.first < 0.005) return "None of them would come out first grade.";
  const equal = rest.filter((r) => r.asGood);
  if (!equal.length) return `${best.name} suits best: ${Math.round(100 * best.first)} of 100 first grade.`;
  const names = equal.map((r) => r.name);
  const and = names.length > 1 ? `${names.slice(0, -1).join(", ")} and ${names.at(-1)}` : names[0];
  return `${best.name} and ${and} are not told apart: about ${Math.round(100 * best.first)} of 100 first grade.`;
}

/** Where lines of two designs cross: a steadier hand would choose another. */
export function changes(rows: Row[], scales: number[], others: number): { scale: number; name: string }[] {
  const out: { scale: number; name: string }[] = [];
  scales.forEach((scale, i) => {
    const list = ranked(rows, i, others);
    const best = list[0];
    // only where the best is told apart from the last one named
    if (!best || best.first < 0.005) return;
    const before = out.at(-1);
    const still = before && list.find((r) => r.name === before.name);
    if (!before || (still && !still.asGood)) out.push({ scale, name: best.name });
  });
  return out;
}
