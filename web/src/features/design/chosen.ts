/** What is chosen in the row of portraits: kept by the step's id, shown by where it stands. Pure. */

import type { Step, StepId } from "../../api/types";

/** The start, the blade, or a step by its index. */
export type Chosen = "start" | "blade" | number;
/** The same as it is kept: a step stays chosen wherever it goes. */
export type Picked = "start" | "blade" | { step: StepId };

/** Steps come and go, and a bar `inside` another has no blade: never point at what is not there. */
export function chosenIn(picked: Picked, steps: Step[], inside: boolean): Chosen {
  if (picked === "start") return "start";
  if (picked === "blade") return inside ? "start" : "blade";
  const index = steps.findIndex((s) => s.id === picked.step);
  if (index >= 0) return index;
  return steps.length ? steps.length - 1 : "start";
}

/** What is picked, as the address says it: "start", "blade" or a step's id; empty: nothing yet. */
export function picked(tab: string): Picked {
  return tab === "start" || tab === "blade" ? tab : { step: tab };
}

/** How the address says it. */
export function tabOf(chosen: Chosen, steps: Step[]): string {
  return typeof chosen === "number" ? (steps[chosen]?.id ?? "start") : chosen;
}
