/** Words and numbers of the finish. Pure. */

import type { EtchBath } from "../../../api/types";
import type { LengthUnit } from "../../../lib/units";

const UM_PER_THOU = 25.4;

/** A depth, µm: as it is, or in thou where inches are wanted. */
export function micro(um: number, unit: LengthUnit): string {
  if (unit === "mm") return `${um < 10 ? um.toFixed(1) : Math.round(um)} µm`;
  return `${(um / UM_PER_THOU).toFixed(um < 25 ? 2 : 1)} thou`;
}

export const RELIEFS: { um: number; name: string }[] = [
  { um: 3, name: "flush" },
  { um: 6, name: "light" },
  { um: 12, name: "felt" },
  { um: 25, name: "deep" },
];

/** What a nail says of a step. */
export function nail(um: number, felt: number, catches: number): string {
  if (um < 0.75 * felt) return "a nail slides over it";
  if (um < 1.25 * felt) return "a nail just feels it";
  return um < catches ? "a nail feels every layer" : "dirt stays in it";
}

/** Minutes as they are timed. */
export function minutes(m: number): string {
  if (m < 1) return `${Math.round(60 * m)} s`;
  return m < 90 ? `${Number(m.toFixed(1))} min` : `${Math.floor(m / 60)} h ${Math.round(m % 60)} min`;
}

export const ETCHANT: Record<string, string> = {
  ferric: "ferric chloride",
  muriatic: "muriatic acid",
  "ferric+muriatic": "ferric and muriatic",
  nital: "nital",
  coffee: "coffee",
  vinegar: "vinegar",
  sulphuric: "sulphuric acid",
};

/** Of layers lying side by side and how deep each is etched: corners of the surface, (mm, µm down from the highest). */
export function reliefLine(across: { steel: string; width: number }[], depths: Record<string, number>): [number, number][] {
  const least = Math.min(...Object.values(depths));
  const out: [number, number][] = [];
  let at = 0;
  for (const layer of across) {
    const down = (depths[layer.steel] ?? least) - least;
    out.push([at, down], [at + layer.width, down]);
    at += layer.width;
  }
  return out;
}

export const USUAL_BATH: EtchBath = { what: "ferric", strength: 10, temperature: 20, litres: 4, iron: 0 };
/** %, of each etchant. */
export const USUAL_STRENGTH: Record<string, number> = {
  ferric: 10,
  "ferric+muriatic": 10,
  muriatic: 12.5,
  nital: 3,
  coffee: 10,
  vinegar: 5,
  sulphuric: 10,
};

export type Test = "paper" | "hair" | "rope" | "wood" | "brass" | "flex";
export type Seen = "fine" | "rolled" | "chipped" | "dull";
export const TESTS: { value: Test; label: string }[] = [
  { value: "paper", label: "paper" },
  { value: "hair", label: "hair" },
  { value: "rope", label: "rope" },
  { value: "wood", label: "wood" },
  { value: "brass", label: "brass" },
  { value: "flex", label: "flex" },
];
export const SEEN: { value: Seen; label: string }[] = [
  { value: "fine", label: "it stood" },
  { value: "rolled", label: "rolled" },
  { value: "chipped", label: "chipped" },
  { value: "dull", label: "dull soon" },
];

/** "rope, 20 times: it stood". */
export function testText(t: { test: Test; seen: Seen; times?: number }): string {
  const [test, seen] = [TESTS.find((o) => o.value === t.test)?.label, SEEN.find((o) => o.value === t.seen)?.label];
  return `${test}${(t.times ?? 1) > 1 ? `, ${t.times} times` : ""}: ${seen}`;
}
