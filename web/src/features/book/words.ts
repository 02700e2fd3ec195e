/** Builds told in the book. Pure. */

import type { Build } from "../../api/types";

export type Which = "on" | "done" | "all";
const ON: Build["state"][] = ["planned", "in work", "resting"];
const DAY_MS = 86_400_000;

export const isOf = (b: Build, which: Which): boolean =>
  which === "all" ? true : which === "on" ? ON.includes(b.state) : !ON.includes(b.state);

/** By all that is told of it. */
export function found(b: Build, wanted: string): boolean {
  const all = [b.title, b.who, b.design_name, b.order_title, b.state, ...b.summary.faults].join(" ").toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((w) => all.includes(w));
}

/** g of blade for a g put in; null when either was not weighed. */
export function yieldOf(b: Build): number | null {
  const { blade, put_in } = b.summary;
  return blade && put_in ? blade / put_in : null;
}

/** How long it is till then, in words. */
export function dueText(due: string, today = new Date()): { text: string; late: boolean } {
  const day = new Date(`${due}T00:00`);
  const days = Math.round((day.getTime() - new Date(today.getFullYear(), today.getMonth(), today.getDate()).getTime()) / DAY_MS);
  if (days < 0) return { text: `promised ${-days} ${days === -1 ? "day" : "days"} ago`, late: true };
  if (days === 0) return { text: "promised for today", late: true };
  return { text: `promised in ${days} ${days === 1 ? "day" : "days"}`, late: days <= 3 };
}

/** Counts by what went wrong, the most often first. */
export function faultsOf(builds: Build[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const f of builds.flatMap((b) => b.summary.faults)) counts.set(f, (counts.get(f) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
}
