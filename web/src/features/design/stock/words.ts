/** Words of the stock that are the browser's own. Pure. */

const CAUSES: Record<string, string> = {
  scale: "how much burns to scale",
  grind: "how much is ground off",
  weld_ends: "how much of the welds' ends is bad",
  kerf: "the saw",
  section: "the section that is reached",
};

/** What makes the length uncertain. */
export function causeName(cause: string): string {
  return CAUSES[cause] ?? cause.replaceAll("_", " ");
}

/** "1 time in 7", "2 times in 5", "nearly never". */
export function oneIn(chance: number): string {
  if (chance < 0.002) return "nearly never";
  if (chance > 0.98) return "nearly always";
  for (const of of [1, 2, 3, 4, 5])
    for (const times of Array.from({ length: of }, (_, i) => i + 1))
      if (Math.abs(times / of - chance) < 0.025 && chance > 0.3) return `${times} ${times === 1 ? "time" : "times"} in ${of}`;
  return `1 time in ${Math.max(2, Math.round(1 / chance))}`;
}
