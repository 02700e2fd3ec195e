/** What is said and marked beside the picture of carbon across the layers. Pure. */

import type { FireSheet } from "../../../api/types";
import { type LengthUnit, type TemperatureUnit, temperature } from "../../../lib/units";

/** After which step carbon has evened out, or how long it would still take. */
export function whenEven(sheet: FireSheet, heat: TemperatureUnit): string {
  const uneven = sheet.steps.findLastIndex((f) => f.even !== "even");
  const first = sheet.steps[uneven + 1];
  if (first) return `Carbon has evened out by step ${uneven + 2}, ${first.title.toLowerCase()}.`;
  const more = sheet.even_in;
  if (more === null || more === undefined) return "With layers as thick as these carbon does not even out in any fire.";
  if (more < 1) return "Carbon has all but evened out.";
  const long = more < 100 ? `${Math.ceil(more)} min` : `${(more / 60).toFixed(more < 600 ? 1 : 0)} h`;
  return `Layers as thick as in the end would take about ${long} more at ${temperature(sheet.forge, heat)} to even out.`;
}

/** Round distances along the line, in the user's own unit. */
export function marksOf(across: number, unit: LengthUnit): number[] {
  const one = unit === "mm" ? 1 : unit === "thou" ? 0.0254 : 25.4;
  const rough = across / one / 6;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = one * power * ([1, 2, 5, 10].find((n) => n * power >= rough) ?? 10);
  return Array.from({ length: Math.floor(across / step + 1e-6) + 1 }, (_, i) => i * step);
}
