/** An operation as it goes to paper: in words, in the user's own units. Pure. */

import type { Operation, PlannedOperation } from "../../api/types";
import type { Units } from "../../lib/units";
import { PLACES } from "./log/words";
import { goalText, nameOf, toleranceText } from "./quantity";

type Said = {
  title: string;
  say: string;
  place: string;
  minutes: string;
  by_heat: string[];
  lay_out: string;
  cautions: string[];
  targets: { name: string; text: string; tolerance: string }[];
  checks: { ask: string; good: string }[];
  timers: string[];
};

export function saidOf(op: Operation | PlannedOperation, say: (text: string) => string, units: Units): Said {
  return {
    title: say(op.title),
    say: say(op.say),
    place: PLACES[op.place],
    minutes: `about ${Math.round(op.attended)} min`,
    by_heat: (op.by_heat ?? []).map(say),
    lay_out: say(op.lay_out ?? ""),
    cautions: (op.cautions ?? []).map(say),
    targets: (op.targets ?? []).map((t) => ({
      name: nameOf({ quantity: t.quantity, says: t.says ? say(t.says) : "" }),
      text: goalText(t.quantity, t.value, units),
      tolerance: t.quantity === "celsius" ? "" : toleranceText(t.quantity, t.tolerance, units).trim(),
    })),
    checks: (op.checks ?? []).filter((c) => c.applies !== false).map((c) => ({ ask: say(c.ask), good: say(c.good) })),
    timers: (op.timers ?? []).map((t) => `${say(t.says)}: ${t.again ? "every " : ""}${Math.round(t.minutes)} min`),
  };
}

export type PaperSize = "a4" | "letter";

/** What the country of the browser prints on. */
export function usualPaper(language: string): PaperSize {
  return /-(US|CA|MX|PH|CL|CO)$/i.test(language) ? "letter" : "a4";
}
