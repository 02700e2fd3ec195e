/** The draft on the table: the document, its undo and redo, and which revision it stands on. Pure. */

import type { Blade, Document, Start, Step } from "../../api/types";

export type Draft = {
  document: Document;
  name: string;
  past: Snapshot[];
  future: Snapshot[];
  /** What the last change touched: changes of the same thing in quick succession undo as one. */
  touched: string;
  touchedAt: number;
  /** The press of the pointer it was made in; 0 for none. A drag is one change however long it takes. */
  touchedIn: number;
  /** Revision the draft stands on, and whether it differs from it. */
  base: number;
  dirty: boolean;
};

export type Snapshot = { document: Document; name: string };

export type Change =
  | { type: "start"; start: Start; what: string }
  | { type: "step"; index: number; step: Step; what: string }
  | { type: "insert"; at: number; step: Step }
  | { type: "remove"; index: number }
  | { type: "copy"; index: number }
  | { type: "move"; from: number; to: number }
  | { type: "switch"; index: number }
  | { type: "blade"; blade: Blade | null; what: string }
  | { type: "rename"; name: string };

export type Action =
  | { type: "change"; change: Change; now: number; press: number }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "saved"; document: Document; name: string; base: number }
  | { type: "replace"; draft: Draft };

const KEEP = 100;
const TOGETHER_MS = 900;

export function fresh(document: Document, name: string, base: number): Draft {
  return { document, name, past: [], future: [], touched: "", touchedAt: 0, touchedIn: 0, base, dirty: false };
}

export function stepsOf(document: Document): Step[] {
  return document.recipe.bar.steps ?? [];
}

function withSteps(document: Document, steps: Step[], off: number[]): Document {
  const bar = { ...document.recipe.bar, steps };
  return { ...document, recipe: { ...document.recipe, bar }, off: [...new Set(off)].sort((a, b) => a - b) };
}

/** Rearranges the steps by naming, for each new place, the old index (or a new step). */
function arrange(document: Document, order: (number | Step)[]): Document {
  const steps = stepsOf(document);
  const off = new Set(document.off ?? []);
  const nextOff: number[] = [];
  const next = order.flatMap((entry, place) => {
    if (typeof entry !== "number") return [entry];
    if (off.has(entry)) nextOff.push(place);
    const step = steps[entry];
    return step ? [step] : [];
  });
  return withSteps(document, next, nextOff);
}

export function applyChange(document: Document, change: Change): Document {
  const indices = [...stepsOf(document).keys()];
  switch (change.type) {
    case "start":
      return { ...document, recipe: { ...document.recipe, bar: { ...document.recipe.bar, start: change.start } } };
    case "step":
      return withSteps(
        document,
        stepsOf(document).map((s, i) => (i === change.index ? change.step : s)),
        document.off ?? [],
      );
    case "insert":
      return arrange(document, [...indices.slice(0, change.at), change.step, ...indices.slice(change.at)]);
    case "remove":
      return arrange(
        document,
        indices.filter((i) => i !== change.index),
      );
    case "copy": {
      const step = stepsOf(document)[change.index];
      if (!step) return document;
      return arrange(document, [...indices.slice(0, change.index + 1), step, ...indices.slice(change.index + 1)]);
    }
    case "move": {
      if (change.to < 0 || change.to >= indices.length) return document;
      const order = indices.filter((i) => i !== change.from);
      order.splice(change.to, 0, change.from);
      return arrange(document, order);
    }
    case "switch": {
      const off = new Set(document.off ?? []);
      if (!off.delete(change.index)) off.add(change.index);
      return withSteps(document, stepsOf(document), [...off]);
    }
    case "blade":
      return { ...document, blade: change.blade };
    case "rename":
      return document;
    default:
      return unknown(change);
  }
}

function unknown(change: never): never {
  throw new Error(`unknown change ${JSON.stringify(change)}`);
}

function touches(change: Change): string {
  if (change.type === "start" || change.type === "blade") return `${change.type}.${change.what}`;
  if (change.type === "step") return `step.${change.index}.${change.what}`;
  return change.type === "rename" ? "rename" : "";
}

export function reduce(draft: Draft, action: Action): Draft {
  switch (action.type) {
    case "change": {
      const document = applyChange(draft.document, action.change);
      const name = action.change.type === "rename" ? action.change.name : draft.name;
      if (document === draft.document && name === draft.name) return draft;
      const touched = touches(action.change);
      const soon = action.now - draft.touchedAt < TOGETHER_MS;
      const held = action.press !== 0 && action.press === draft.touchedIn;
      const together = touched !== "" && touched === draft.touched && (held || (soon && action.press === 0));
      const past = together ? draft.past : [...draft.past, { document: draft.document, name: draft.name }].slice(-KEEP);
      return { ...draft, document, name, past, future: [], touched, touchedAt: action.now, touchedIn: action.press, dirty: true };
    }
    case "undo": {
      const last = draft.past.at(-1);
      if (!last) return draft;
      const future = [{ document: draft.document, name: draft.name }, ...draft.future].slice(0, KEEP);
      return { ...draft, ...last, past: draft.past.slice(0, -1), future, touched: "", dirty: true };
    }
    case "redo": {
      const [next, ...future] = draft.future;
      if (!next) return draft;
      const past = [...draft.past, { document: draft.document, name: draft.name }].slice(-KEEP);
      return { ...draft, ...next, past, future, touched: "", dirty: true };
    }
    case "saved":
      // typing may have gone on while the save was under way: then the draft stays dirty
      return { ...draft, base: action.base, dirty: draft.document !== action.document || draft.name !== action.name };
    case "replace":
      return action.draft;
    default:
      return action satisfies never;
  }
}
