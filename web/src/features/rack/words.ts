/** Items of the rack in the user's units, found and sorted. Pure. */

import type { RackItem } from "../../api/types";
import { type LengthUnit, length, sizes, type WeightUnit, weight } from "../../lib/units";

/** "flat 40 × 6 × 1000 mm". */
export function itemSize(item: RackItem, unit: LengthUnit): string {
  if (item.form === "powder") return "powder";
  const across = item.width === item.thickness ? [item.width] : [item.width, item.thickness];
  const all = [...across, item.length].filter((v) => v !== null);
  const wall = item.form === "tube" && item.wall ? `, wall ${length(item.wall, unit)}` : "";
  return `${item.form} ${sizes(all, unit)}${wall}`;
}

/** "3 bars", "1 piece", "2.5 kg". */
export function howMany(item: RackItem, unit: WeightUnit): string {
  if (item.form === "powder") return weight(item.there, unit);
  const one = item.offcut_of ? "piece" : item.form === "rods" ? "rod" : "bar";
  return `${item.there} ${one}${item.there === 1 ? "" : "s"}`;
}

export type Which = "there" | "offcuts" | "low" | "gone";

export function isOf(item: RackItem, which: Which): boolean {
  if (which === "gone") return item.there <= 0;
  if (which === "low") return item.runs_low;
  return item.there > 0 && (which !== "offcuts" || item.offcut_of !== "" || item.note.startsWith("left of"));
}

/** Whether every word that is looked for is somewhere in it. */
export function matches(item: RackItem, wanted: string): boolean {
  const said =
    `${item.code} ${item.steel} ${item.steel_name} ${item.form} ${item.size} ${item.place} ${item.note} ${item.batch} ${item.source} ${item.offcut_of}`.toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => said.includes(word));
}

/** By steel, thickest sections first; offcuts with a pattern after the plain bars. */
export function grouped(items: RackItem[]): { steel: string; name: string; items: RackItem[]; mass: number }[] {
  const groups = new Map<string, RackItem[]>();
  for (const item of items) groups.set(item.steel, [...(groups.get(item.steel) ?? []), item]);
  return [...groups.entries()]
    .map(([steel, of]) => ({
      steel,
      name: of[0]?.steel_name ?? steel,
      items: of.toSorted(
        (a, b) =>
          Number(!!a.picture) - Number(!!b.picture) ||
          (b.thickness ?? 0) - (a.thickness ?? 0) ||
          (b.width ?? 0) - (a.width ?? 0) ||
          (b.length ?? 0) - (a.length ?? 0) ||
          a.id - b.id,
      ),
      mass: of.reduce((sum, i) => sum + i.mass, 0),
    }))
    .toSorted((a, b) => a.name.localeCompare(b.name));
}

const KINDS: Record<string, string> = {
  bought: "bought",
  taken: "taken",
  put_back: "put back",
  offcut: "kept as an offcut",
  corrected: "counted anew",
};
export const movementName = (kind: string) => KINDS[kind] ?? kind.replaceAll("_", " ");
