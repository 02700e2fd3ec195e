import type { Taken } from "../../lib/instrument";
import { MM_PER_INCH, temperature, type Units } from "../../lib/units";

const G_PER_OZ = 28.349523125;

/** A reading in the user's own units, as finely as the instrument said it: what counts is what is shown. */
export function takenText(t: Taken, u: Units): string {
  const short = (v: number, digits: number) => String(Number(v.toFixed(digits)));
  switch (t.unit) {
    case "mm":
      return u.length === "mm" ? `${short(t.value, 3)} mm` : `${short(t.value / MM_PER_INCH, 4)} in`;
    case "g":
      return u.weight === "oz" ? `${short(t.value / G_PER_OZ, 2)} oz` : `${short(t.value, 1)} g`;
    case "C":
      return temperature(t.value, u.heat);
    default:
      return `${short(t.value, 1)} HRC`;
  }
}
