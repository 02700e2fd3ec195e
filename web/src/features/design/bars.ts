/** Finding and changing one bar in the tree of a recipe. Bars, starts and steps are told by their ids. Pure. */

import type { Bar, BarId, Document, Step, StepId } from "../../api/types";

export function childrenOf(bar: Bar): Bar[] {
  return bar.start.kind === "assembly" ? (bar.start.bars as Bar[]) : [];
}

export function stepsOf(bar: Bar): Step[] {
  return bar.steps ?? [];
}

export function rootOf(document: Document): BarId {
  return document.recipe.bar.id ?? "";
}

/** Where a bar stands: [1, 0] is the first bar of the whole's second; null if it is not there. */
export function placeOf(document: Document, id: BarId): number[] | null {
  const look = (bar: Bar, here: number[]): number[] | null => {
    if (bar.id === id) return here;
    for (const [i, child] of childrenOf(bar).entries()) {
      const found = look(child, [...here, i]);
      if (found) return found;
    }
    return null;
  };
  return look(document.recipe.bar, []);
}

/** Whether there is such a bar. */
export function hasBar(document: Document, id: BarId): boolean {
  return placeOf(document, id) !== null;
}

/** The bar, or the whole when it is not there any more. */
export function barAt(document: Document, id: BarId): Bar {
  let here = document.recipe.bar;
  for (const i of placeOf(document, id) ?? []) here = childrenOf(here)[i] ?? here;
  return here;
}

/** The bar that this one goes into; null of the whole. */
export function intoOf(document: Document, id: BarId): BarId | null {
  const place = placeOf(document, id);
  if (!place?.length) return null;
  let here = document.recipe.bar;
  for (const i of place.slice(0, -1)) here = childrenOf(here)[i] ?? here;
  return here.id ?? null;
}

/** "1.2": how a bar inside the whole is called by where it stands; empty for the whole. */
export function numberOf(document: Document, id: BarId): string {
  return (placeOf(document, id) ?? []).map((i) => i + 1).join(".");
}

/** `recipe.bar.start.bars[1]` and so on, as problems name it. */
export function pathOf(document: Document, id: BarId): string {
  return `recipe.bar${(placeOf(document, id) ?? []).map((i) => `.start.bars[${i}]`).join("")}`;
}

export function withBar(document: Document, id: BarId, change: (bar: Bar) => Bar): Document {
  const place = placeOf(document, id);
  if (!place) return document;
  const inside = (bar: Bar, rest: number[]): Bar => {
    const [first, ...others] = rest;
    if (first === undefined) return change(bar);
    if (bar.start.kind !== "assembly") return bar;
    const bars = childrenOf(bar).map((b, i) => (i === first ? inside(b, others) : b));
    return { ...bar, start: { ...bar.start, bars } };
  };
  return { ...document, recipe: { ...document.recipe, bar: inside(document.recipe.bar, place) } };
}

export function isOff(document: Document, step: StepId | undefined): boolean {
  return !!step && (document.off ?? []).includes(step);
}

/** A name for a part that is new. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(8));
  return [...bytes].map((b) => (b % 36).toString(36)).join("");
}

/** The same bar once more: every part of it with a name of its own. */
export function copied(bar: Bar, name: () => string = newId): Bar {
  const start = { ...bar.start, id: name() };
  const bars = childrenOf(bar).map((b) => copied(b, name));
  return {
    ...bar,
    id: name(),
    start: bars.length ? ({ ...start, bars } as Bar["start"]) : start,
    steps: stepsOf(bar).map((s) => ({ ...s, id: name() })),
  };
}

/** A bar as the server made it: what has no name yet is given one. */
export function named(bar: Bar, name: () => string = newId): Bar {
  const start = { ...bar.start, id: bar.start.id || name() };
  const bars = childrenOf(bar).map((b) => named(b, name));
  return {
    ...bar,
    id: bar.id || name(),
    start: bars.length ? ({ ...start, bars } as Bar["start"]) : start,
    steps: stepsOf(bar).map((s) => ({ ...s, id: s.id || name() })),
  };
}

type Told = number | number[] | string;

/** Drafts kept in the browser before parts had names told steps by where they stand: [bar, ..., step], or a bare number. */
export function upgraded(document: Document): Document {
  if (document.recipe.bar.id) return document;
  let count = 0;
  const bar = named(document.recipe.bar, () => `d${++count}`);
  const step = (at: Told): StepId | undefined => {
    if (typeof at === "string") return at;
    const address = typeof at === "number" ? [at] : at;
    let here: Bar | undefined = bar;
    for (const i of address.slice(0, -1)) here = here && childrenOf(here)[i];
    return here && stepsOf(here)[address.at(-1) ?? -1]?.id;
  };
  const off = ((document.off ?? []) as Told[]).flatMap((o) => step(o) ?? []);
  const heats = ((document.fire?.steps ?? []) as unknown as { at: Told }[]).flatMap(({ at, ...said }) => {
    const id = step(at);
    return id ? [{ ...said, step: id }] : [];
  });
  const fire = document.fire ? { fire: { ...document.fire, steps: heats } } : {};
  return { ...document, recipe: { ...document.recipe, bar }, off, ...fire };
}
