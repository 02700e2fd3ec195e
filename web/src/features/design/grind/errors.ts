/** How far the work is from true: the errors of a blade as sliders. Pure. */

import type { Blade } from "../../../api/types";

export type ErrorName = "core_offset" | "core_share" | "dip" | "bow" | "cup" | "twist" | "uneven" | "edge" | "flow";
export type ErrorKind = {
  name: ErrorName;
  label: string;
  unit: "mm" | "deg" | "share";
  reach: number;
  step: number;
  hint: string;
  percent?: boolean;
};

export const ERRORS: ErrorKind[] = [
  {
    name: "core_offset",
    label: "Core off centre",
    unit: "share",
    reach: 0.1,
    step: 0.002,
    hint: "of the thickness, + right",
    percent: true,
  },
  { name: "core_share", label: "Core thicker", unit: "share", reach: 0.1, step: 0.002, hint: "of the thickness", percent: true },
  { name: "cup", label: "Cup", unit: "mm", reach: 0.5, step: 0.01, hint: "+: middle of the height bulges right" },
  { name: "bow", label: "Bow", unit: "mm", reach: 1, step: 0.02, hint: "+: middle of the length bulges right" },
  { name: "dip", label: "Dip", unit: "mm", reach: 0.5, step: 0.01, hint: "layers stand right of the grind" },
  { name: "twist", label: "Twist", unit: "deg", reach: 3, step: 0.05, hint: "+: right-handed from heel to tip" },
  { name: "uneven", label: "Uneven grind", unit: "mm", reach: 0.6, step: 0.01, hint: "+: more off the right" },
  { name: "edge", label: "Edge left thicker", unit: "mm", reach: 0.5, step: 0.01, hint: "than planned, before sharpening" },
  {
    name: "flow",
    label: "Clad flows more",
    unit: "share",
    reach: 0.3,
    step: 0.005,
    hint: "only where the bevels are forged",
    percent: true,
  },
];

/** The error as one number, or null when it is given along the blade. */
export function single(blade: Blade, name: ErrorName): number | null {
  const value = blade.errors?.[name] ?? 0;
  return typeof value === "number" ? value : null;
}

/** Mean of an error given along the blade. */
export function mean(blade: Blade, name: ErrorName): number {
  const value = blade.errors?.[name] ?? 0;
  if (typeof value === "number") return value;
  return value.reduce((sum, p) => sum + (p[1] ?? 0), 0) / Math.max(1, value.length);
}

export function anyError(blade: Blade): boolean {
  return ERRORS.some(({ name }) => single(blade, name) !== 0);
}
