/** A line as a caliper, scale or thermometer sends it: ended by a number and its unit (core/instruments/line.py understands the same). */

import { MM_PER_INCH } from "./units";

export type ReadingUnit = "mm" | "g" | "C" | "HRC";
export type Taken = { value: number; unit: ReadingUnit };

const MOST = 200;
const G_PER_OUNCE = 28.349523125;
const SCALE: Record<string, [ReadingUnit, number, number]> = {
  mm: ["mm", 1, 0],
  cm: ["mm", 10, 0],
  m: ["mm", 1000, 0],
  in: ["mm", MM_PER_INCH, 0],
  inch: ["mm", MM_PER_INCH, 0],
  '"': ["mm", MM_PER_INCH, 0],
  thou: ["mm", MM_PER_INCH / 1000, 0],
  g: ["g", 1, 0],
  kg: ["g", 1000, 0],
  oz: ["g", G_PER_OUNCE, 0],
  lb: ["g", 16 * G_PER_OUNCE, 0],
  c: ["C", 1, 0],
  "°c": ["C", 1, 0],
  f: ["C", 5 / 9, 32],
  "°f": ["C", 5 / 9, 32],
  hrc: ["HRC", 1, 0],
};
const LINE = /(?:^|[^\d.,+-])([-+]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(°?[a-z]+|")\s*$/i;

/** The reading a line ends with; null where it ends with none. */
export function understood(line: string): Taken | null {
  if (line.length > MOST) return null;
  // some frame their lines with these
  const bare = line.replaceAll("\u0002", "").replaceAll("\u0003", "").trim().replace("º", "°");
  const found = LINE.exec(bare);
  const scale = SCALE[found?.[2]?.toLowerCase() ?? ""];
  if (!found?.[1] || !scale) return null;
  const [unit, times, offset] = scale;
  return { value: (Number(found[1].replace(",", ".")) - offset) * times, unit };
}

/** Whole lines of what has come so far, and the beginning of the next. */
export function linesOf(text: string): { lines: string[]; rest: string } {
  const parts = text.replaceAll("\u0003", "\n").split(/\r\n|\r|\n/);
  const rest = parts.pop() ?? "";
  return { lines: parts.filter((p) => p.trim()), rest: rest.slice(-MOST) };
}

/** As it is typed into a field, with its unit where it has one to be converted from. */
export function typedAs(taken: Taken): string {
  const digits = { mm: 4, C: 1, g: 1, HRC: 1 }[taken.unit];
  const unit = { mm: "mm", C: " C", g: " g", HRC: "" }[taken.unit];
  return `${Number(taken.value.toFixed(digits))}${unit}`;
}
