import type { components } from "../../api/schema.gen";

type S = components["schemas"];
export type Feature = S["Feature"];
export type Example = S["Example"];
export type Want = S["Want"];
export type Candidate = S["Candidate"];
export type Ask = S["Ask"];
export type Answer = S["Answer"];
export type Looks = S["LooksOut"];
export type Sure = NonNullable<Want["sure"]>;

/** Where a value lies on the scale of a feature: 0 at its low end, 1 at its high one. */
export function onScale(f: Pick<Feature, "low" | "high" | "curve">, value: number): number {
  if (f.curve === "ratio") return Math.log(Math.max(value, 1e-9) / f.low) / Math.log(f.high / f.low);
  if (f.curve === "root") {
    return (Math.sqrt(Math.max(value, 0)) - Math.sqrt(f.low)) / (Math.sqrt(f.high) - Math.sqrt(f.low));
  }
  return (value - f.low) / (f.high - f.low);
}

/** The other way, as round as one reads it. */
export function fromScale(f: Pick<Feature, "low" | "high" | "curve">, at: number): number {
  const exact =
    f.curve === "ratio"
      ? f.low * (f.high / f.low) ** at
      : f.curve === "root"
        ? (Math.sqrt(f.low) + at * (Math.sqrt(f.high) - Math.sqrt(f.low))) ** 2
        : f.low + at * (f.high - f.low);
  return Math.abs(exact) < 10 ? Math.round(exact * 100) / 100 : Math.round(exact * 10) / 10;
}

/** In words: at its ends the words of the scale, between them how far along. */
export function inWords(f: Feature, at: number): string {
  if (at < 0.12) return f.low_word;
  if (at > 0.88) return f.high_word;
  if (at < 0.38) return `towards ${f.low_word}`;
  if (at > 0.62) return `towards ${f.high_word}`;
  return "between the two";
}

/** One for every face, whatever order its numbers are said in. */
export function keyOf(c: Candidate): string {
  const numbers = Object.entries(c.values ?? {}).sort(([a], [b]) => a.localeCompare(b));
  return JSON.stringify([c.family, numbers, c.dark, c.bright]);
}

export const faceOf = (c: Candidate, px: number, mark: string) =>
  `/api/looks/face.png?${new URLSearchParams({ candidate: JSON.stringify(c), px: String(px), mark })}`;

/** Without what says nothing, so that what is asked is what is shown. */
export function wanted(old: Want[], feature: string, next: Omit<Want, "feature"> | null): Want[] {
  const rest = old.filter((w) => w.feature !== feature);
  return next ? [...rest, { feature, ...next }] : rest;
}
