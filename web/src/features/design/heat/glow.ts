/** The glow of hot steel in shaded light, for swatches; words come from the server. */
const GLOW: [number, string][] = [
  [500, "#2a2522"],
  [600, "#5a1712"],
  [700, "#8f2013"],
  [800, "#c03616"],
  [900, "#e0561d"],
  [1000, "#f1822b"],
  [1100, "#f9b048"],
  [1200, "#fcd77b"],
  [1350, "#fffbe9"],
];

/** Colour of steel this hot (C). */
export function glowOf(celsius: number): string {
  const above = GLOW.findIndex(([t]) => t >= celsius);
  const [t1, c1] = GLOW[above < 0 ? GLOW.length - 1 : above] ?? [0, "#2a2522"];
  const [t0, c0] = GLOW[Math.max(0, above - 1)] ?? [0, "#2a2522"];
  if (above <= 0 || t1 === t0) return c1;
  const f = (celsius - t0) / (t1 - t0);
  const part = (c: string, i: number) => Number.parseInt(c.slice(1 + 2 * i, 3 + 2 * i), 16);
  const mix = [0, 1, 2].map((i) => Math.round(part(c0, i) + f * (part(c1, i) - part(c0, i))));
  return `rgb(${mix.join(" ")})`;
}
