/** Where to read next along a blade: the middle of the widest gap between the places read, `from` and `to`, to the mm. Pure. */
export function widestGap(read: number[], from: number, to: number): number {
  const marks = [from, ...read.toSorted((a, b) => a - b), to];
  let best = 0;
  for (let i = 1; i < marks.length; i++) {
    const gap = (marks[i] ?? 0) - (marks[i - 1] ?? 0);
    if (gap > (marks[best + 1] ?? 0) - (marks[best] ?? 0)) best = i - 1;
  }
  return Math.round(((marks[best] ?? 0) + (marks[best + 1] ?? to)) / 2);
}
