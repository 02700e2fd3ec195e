/** How a build is told. Pure. */

import type { Operation } from "../../../api/types";
import type { OpState } from "../fold";
import type { Link } from "../keeper";

export const PLACES: Record<Operation["place"], string> = {
  saw: "at the saw",
  fire: "at the fire",
  grinder: "at the grinder",
  bench: "at the bench",
  kiln: "at the kiln",
  bath: "at the bath",
  glue: "fitting up",
};

/** Whether what was written is safe, and where. */
export function waitingWords(
  link: Link,
  waiting: number,
  unkept: string,
): { text: string; hint: string; tone: "" | "care" | "stop" } {
  if (unkept)
    return {
      text: waiting ? "only in this page" : "this browser keeps nothing",
      hint: `This browser cannot keep what is written: ${unkept}. Leave the page open until it says “kept”.`,
      tone: "stop",
    };
  const many = waiting ? `kept on this tablet, ${waiting} waiting` : "";
  if (link === "away")
    return { text: many || "no network", hint: "All that is written is kept on this tablet and goes by itself.", tone: "care" };
  if (link === "signed out") return { text: many || "signed out", hint: "Sign in again and it goes on.", tone: "care" };
  if (link === "other shop")
    return { text: many || "you are at work in another shop", hint: "It goes when you are back in its shop.", tone: "care" };
  if (waiting) return { text: many, hint: "On its way.", tone: "" };
  return link === "here" ? { text: "all kept", hint: "On the server.", tone: "" } : { text: "", hint: "", tone: "" };
}

/** Planned and real time of an operation, and the difference where it was said. */
export function took(op: Operation, state: OpState): { minutes: number | null; off: number | null } {
  const minutes = state.minutes;
  return { minutes, off: minutes === null || !op.attended ? null : minutes / op.attended - 1 };
}

/** Operations that differ from the plan in a way worth a word, or went wrong. */
export function differs(op: Operation, state: OpState): boolean {
  return state.faults.length > 0 || state.standing === "skipped" || state.times > 1 || op.targets.some((t) => t.off);
}
