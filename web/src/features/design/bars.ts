/** Finding and changing one bar in the tree of a recipe, and keeping track of the steps switched off in it. Pure. */

import type { Address, Bar, Document, Step } from "../../api/types";

export function childrenOf(bar: Bar): Bar[] {
  return bar.start.kind === "assembly" ? (bar.start.bars as Bar[]) : [];
}

export function barAt(document: Document, address: Address): Bar {
  let here = document.recipe.bar;
  for (const i of address) here = childrenOf(here)[i] ?? here;
  return here;
}

/** Whether there is such a bar. */
export function hasBar(document: Document, address: Address): boolean {
  let here = document.recipe.bar;
  for (const i of address) {
    const next = childrenOf(here)[i];
    if (!next) return false;
    here = next;
  }
  return true;
}

export function withBar(document: Document, address: Address, change: (bar: Bar) => Bar): Document {
  const inside = (bar: Bar, rest: Address): Bar => {
    const [first, ...others] = rest;
    if (first === undefined) return change(bar);
    if (bar.start.kind !== "assembly") return bar;
    const bars = childrenOf(bar).map((b, i) => (i === first ? inside(b, others) : b));
    return { ...bar, start: { ...bar.start, bars } };
  };
  return { ...document, recipe: { ...document.recipe, bar: inside(document.recipe.bar, address) } };
}

export function stepsOf(bar: Bar): Step[] {
  return bar.steps ?? [];
}

/** `bar.start.bars[1]` and so on, as problems name it. */
export function pathOf(address: Address): string {
  return `recipe.bar${address.map((i) => `.start.bars[${i}]`).join("")}`;
}

const same = (a: Address, b: Address) => a.length === b.length && a.every((v, i) => v === b[i]);

/** Indices of the steps of this bar that are switched off. */
export function offIn(document: Document, address: Address): Set<number> {
  return new Set((document.off ?? []).filter((o) => same(o.slice(0, -1), address)).map((o) => o.at(-1) as number));
}

/** The list with this bar's own entries replaced. */
export function withOff(document: Document, address: Address, off: Iterable<number>): Document {
  const others = (document.off ?? []).filter((o) => !same(o.slice(0, -1), address));
  const mine = [...new Set(off)].sort((a, b) => a - b).map((i) => [...address, i]);
  return { ...document, off: [...others, ...mine] };
}

/**
 * Entries below `address` once its bars are put in another order: `order[new place]` is the old index, or null for
 * a bar that is new. Bars left out take their entries with them.
 */
export function reorderOff(document: Document, address: Address, order: (number | null)[]): Document {
  return moveEntries(document, (o) => {
    const deeper = o.length > address.length + 1 && same(o.slice(0, address.length), address);
    if (!deeper) return [o];
    const place = order.indexOf(o[address.length] as number);
    return place < 0 ? [] : [[...address, place, ...o.slice(address.length + 1)]];
  });
}

/** Everything that names a step by its address (switched off, its heats) under its new address, or several, or none. */
export function moveEntries(document: Document, to: (at: Address) => Address[]): Document {
  const moved = { ...document, off: (document.off ?? []).flatMap(to) };
  const heats = document.fire?.steps;
  if (!heats?.length) return moved;
  return { ...moved, fire: { ...document.fire, steps: heats.flatMap((h) => to(h.at).map((at) => ({ ...h, at }))) } };
}

/** Drafts kept in the browser before bars could be nested counted the steps of the whole bar only. */
export function upgraded(document: Document): Document {
  const off = (document.off ?? []) as unknown as (number | number[])[];
  return { ...document, off: off.map((o) => (typeof o === "number" ? [o] : o)) };
}
