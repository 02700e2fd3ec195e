/** An entry in a line. Pure. */

import type { Entry, Operation } from "../../../api/types";
import type { Units } from "../../../lib/units";
import { testText } from "../../design/finish/words";
import { nameOf, textOf } from "../quantity";

export function entryText(e: Entry, op: Operation | undefined, u: Units): string {
  switch (e.kind) {
    case "measured":
      return `${nameOf(e)} ${textOf(e.quantity, e.value, u)}${e.typed && !textOf(e.quantity, e.value, u).startsWith(e.typed) ? ` (typed ${e.typed})` : ""}`;
    case "done":
      return e.minutes == null ? "done" : `done, took ${Math.round(e.minutes)} min`;
    case "skipped":
      return `skipped: ${e.why}`;
    case "redone":
      return e.why ? `to be done once more: ${e.why}` : "to be done once more";
    case "checked": {
      const ask = op?.checks[e.check]?.ask ?? "looked at";
      return `${ask} ${e.good ? "Good." : "Not good."}`;
    }
    case "note":
      return e.text;
    case "photo":
      return e.caption ? `photo: ${e.caption}` : "photo";
    case "fault":
      return `went wrong: ${e.text || (e.fault ?? "").replaceAll("_", " ")}${looksText(e.answers)}`;
    case "tested":
      return `edge tested: ${testText(e.tested)}`;
    case "timer": {
      const says = op?.timers[e.timer]?.says ?? "timer";
      return `${says}: timer ${e.running ? "begun" : "stopped"}`;
    }
    case "amended":
      return `the plan was changed: ${e.why}`;
    case "graded":
      return `graded ${e.grade}: ${e.why}`;
    case "voided":
      return "something was taken back";
  }
}

/** ", 2 looks taken"; empty where none was. */
export function looksText(answers: Record<string, boolean> | undefined): string {
  const taken = Object.keys(answers ?? {}).length;
  return taken ? `, ${taken} ${taken === 1 ? "look" : "looks"} taken` : "";
}
