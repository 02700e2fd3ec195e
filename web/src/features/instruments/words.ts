import type { Taken } from "../../lib/instrument";
import { length, temperature, type Units, weight } from "../../lib/units";

/** A reading in the user's own units. */
export function takenText(t: Taken, u: Units): string {
  switch (t.unit) {
    case "mm":
      return length(t.value, u.length);
    case "g":
      return weight(t.value, u.weight);
    case "C":
      return temperature(t.value, u.heat);
    default:
      return `${t.value.toFixed(1)} HRC`;
  }
}
