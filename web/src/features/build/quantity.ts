/** What is measured: its name, its unit as the user reads it, and what was typed of it. */

import type { Operation, Target } from "../../api/types";
import {
  degrees,
  exactDegrees,
  G_PER_OZ,
  lengthText,
  MM_PER_INCH,
  parseLength,
  parseNumber,
  parseTemperature,
  parseWeight,
  temperature,
  UNIT_MARK,
  type Units,
  weight,
} from "../../lib/units";
import type { OpState } from "./fold";

export type Quantity = Target["quantity"];
const NAMES: Record<Quantity, string> = {
  length: "length",
  width: "width",
  thickness: "thickness",
  diameter: "diameter",
  mass: "weight",
  heats: "heats",
  minutes: "time",
  celsius: "temperature",
  turns: "turns",
  count: "count",
  hardness: "hardness",
  height: "height",
  depth: "depth",
};
const LENGTHS: Quantity[] = ["length", "width", "thickness", "diameter", "height"];

export const nameOf = (t: { quantity: Quantity; says?: string }): string => t.says || NAMES[t.quantity];
export const isLength = (q: Quantity): boolean => LENGTHS.includes(q);

/** Its unit, behind a number. */
export function unitOf(q: Quantity, u: Units): string {
  if (isLength(q)) return UNIT_MARK[u.length];
  if (q === "celsius") return `°${u.heat}`;
  if (q === "mass") return u.weight;
  return q === "minutes" ? "min" : q === "hardness" ? "HRC" : q === "depth" ? "µm" : "";
}

const short = (value: number) => String(Math.round(value * 100) / 100);

/** The number without its unit. */
export function numberText(q: Quantity, value: number, u: Units): string {
  if (isLength(q)) return lengthText(value, u.length);
  if (q === "celsius") return exactDegrees(value, u.heat);
  if (q === "mass") return short(u.weight === "oz" ? value / G_PER_OZ : value);
  // a tester does not tell hundredths of a point
  return q === "hardness" ? String(Math.round(10 * value) / 10) : short(value);
}

/** What is to be reached, without its unit: a heat as one says it. */
export function goalNumber(q: Quantity, value: number, u: Units): string {
  return q === "celsius" ? degrees(value, u.heat) : numberText(q, value, u);
}

/** What is to be reached, with its unit. */
export function goalText(q: Quantity, value: number, u: Units): string {
  return q === "celsius" ? temperature(value, u.heat) : textOf(q, value, u);
}

/** With its unit. */
export function textOf(q: Quantity, value: number, u: Units): string {
  if (q === "mass") return weight(value, u.weight);
  return `${numberText(q, value, u)} ${unitOf(q, u)}`.trim();
}

/** What was typed, in the unit of its quantity. */
export function parse(q: Quantity, text: string, u: Units): ReturnType<typeof parseNumber> {
  if (isLength(q)) return parseLength(text, u.length);
  if (q === "celsius") return parseTemperature(text, u.heat);
  if (q === "mass") return parseWeight(text, u.weight);
  return parseNumber(text.replace(/\s*(min|hrc|µm|um)$/i, ""));
}

/** A hardness is read at several spots, "63 64 62.5": each of them, and their mean. Everything else is one number. */
export function parseSpots(
  q: Quantity,
  text: string,
  u: Units,
): { ok: true; value: number; spots: number[] } | { ok: false; why: string } {
  const parts = q === "hardness" ? text.trim().split(/\s*;\s*|,\s+|\s+(?!hrc)/i) : [text];
  const spots: number[] = [];
  for (const part of parts.filter(Boolean)) {
    const found = parse(q, part, u);
    if (!found.ok) return found;
    spots.push(found.value);
  }
  if (!spots.length) return { ok: false, why: "There is no number." };
  return { ok: true, value: spots.reduce((sum, v) => sum + v, 0) / spots.length, spots };
}

/** "39.6 × 28 × 88 mm", of the sizes among these; empty without one. */
export function sizeText(sizes: Partial<Record<string, number>>, u: Units): string {
  const found = (["diameter", "width", "thickness", "length"] as const)
    .map((q) => sizes[q])
    .filter((v): v is number => v !== undefined);
  return found.length ? `${found.map((v) => lengthText(v, u.length)).join(" × ")} ${UNIT_MARK[u.length]}` : "";
}

/** The sizes an operation is to reach, or as they are where they were measured. */
export function sizesOf(op: Operation, state: OpState, planned = false): Partial<Record<string, number>> {
  const out: Partial<Record<string, number>> = {};
  for (const t of op.targets) {
    if (!isLength(t.quantity) || t.quantity === "height" || (t.says && t.says !== "each piece")) continue;
    out[t.quantity] = planned ? t.value : (state.measured[t.quantity]?.value ?? t.now);
  }
  return out;
}

/** The bar as it comes to this operation: as the one before it on the same bar left it; empty at its beginning. */
export function sizesBefore(ops: Operation[], op: Operation, of: (id: string) => OpState): Partial<Record<string, number>> {
  const before = ops.slice(0, Math.max(0, ops.indexOf(op))).filter((o) => o.bar === op.bar && op.bar);
  let sizes: Partial<Record<string, number>> = {};
  for (const o of before) {
    const own = sizesOf(o, of(o.id));
    if ("diameter" in own) sizes = { length: sizes.length };
    if ("width" in own) delete sizes.diameter;
    sizes = { ...sizes, ...own };
  }
  return sizes;
}

/** " ± 0.5", to two figures; empty without one. */
export function toleranceText(q: Quantity, value: number, u: Units): string {
  if (!value) return "";
  const mine = !isLength(q) || u.length === "mm" ? value : u.length === "thou" ? value / 0.0254 : value / MM_PER_INCH;
  return ` ± ${Number(mine.toPrecision(2))}`;
}
