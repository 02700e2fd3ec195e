import type { Row, Summary } from "../../api/types";
import { type LengthUnit, lengthText, sizes, UNIT_MARK } from "../../lib/units";

/** The bar's size as a smith would read it: 563 × 40 × 5.5 mm, 434 × ⌀18 mm. */
export function barSize(row: Pick<Row, "form" | "length" | "width" | "thickness">, unit: LengthUnit): string {
  if (row.form === "round") return `${lengthText(row.length, unit)} × ⌀${lengthText(row.width, unit)} ${UNIT_MARK[unit]}`;
  return sizes([row.length, row.width, row.thickness], unit);
}

/** How many layers go across a bar: there may be too many to be counted. */
export function layersTold(s: Pick<Summary, "layers" | "more_layers">): string {
  return s.more_layers ? `more than ${s.layers}` : String(s.layers);
}

export const GRADES = {
  note: { mark: "●", word: "Good to know" },
  care: { mark: "◆", word: "Take care" },
  stop: { mark: "■", word: "Will fail" },
} as const;

export type Grade = keyof typeof GRADES;

export function worst(grades: Grade[]): Grade | null {
  return grades.includes("stop") ? "stop" : grades.includes("care") ? "care" : grades.length ? "note" : null;
}
