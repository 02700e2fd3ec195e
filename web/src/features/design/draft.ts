/** The draft on the table: the document, its undo and redo, and which revision it stands on. Pure. */

import type { Address, Bar, Blade, Document, Start, Step } from "../../api/types";
import { barAt, childrenOf, moveEntries, offIn, reorderOff, stepsOf, withBar, withOff } from "./bars";

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

/** `bar`: which bar it happens to. */
export type Change =
  | { type: "start"; bar: Address; start: Start; what: string }
  | { type: "step"; bar: Address; index: number; step: Step; what: string }
  | { type: "insert"; bar: Address; at: number; step: Step }
  | { type: "remove"; bar: Address; index: number }
  | { type: "copy"; bar: Address; index: number }
  | { type: "move"; bar: Address; from: number; to: number }
  | { type: "switch"; bar: Address; index: number }
  | { type: "label"; bar: Address; note: string }
  | { type: "replace"; bar: Address; with: Bar }
  | { type: "bars"; bar: Address; bars: Bar[]; order: (number | null)[] }
  | { type: "blade"; blade: Blade | null; what: string }
  | { type: "document"; document: Document }
  /** What belongs to the making of the blade: the wanted core line, usual errors, readings, the handle. */
  | { type: "plan"; plan: Pick<Partial<Document>, "aim" | "sizes" | "readings" | "handle" | "fire" | "hardening">; what: string }
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

/** Rearranges the steps by naming, for each new place, the old index (or a new step). */
function arrange(document: Document, address: Address, order: (number | Step)[]): Document {
  const steps = stepsOf(barAt(document, address));
  const next = order.flatMap((entry) => (typeof entry !== "number" ? [entry] : steps[entry] ? [steps[entry]] : []));
  const here = (at: Address) => at.length === address.length + 1 && address.every((v, i) => v === at[i]);
  return moveEntries(
    withBar(document, address, (bar) => ({ ...bar, steps: next })),
    (at) => (here(at) ? order.flatMap((entry, place) => (entry === at[address.length] ? [[...address, place]] : [])) : [at]),
  );
}

export function applyChange(document: Document, change: Change): Document {
  if (change.type === "blade") return { ...document, blade: change.blade };
  if (change.type === "document") return change.document;
  if (change.type === "plan") return { ...document, ...change.plan };
  if (change.type === "rename") return document;
  const at = change.bar;
  const steps = stepsOf(barAt(document, at));
  const indices = [...steps.keys()];
  switch (change.type) {
    case "start":
      return withBar(document, at, (bar) => ({ ...bar, start: change.start }));
    case "step":
      return withBar(document, at, (bar) => ({
        ...bar,
        steps: steps.map((s, i) => (i === change.index ? change.step : s)),
      }));
    case "insert":
      return arrange(document, at, [...indices.slice(0, change.at), change.step, ...indices.slice(change.at)]);
    case "remove":
      return arrange(
        document,
        at,
        indices.filter((i) => i !== change.index),
      );
    case "copy": {
      const step = steps[change.index];
      if (!step) return document;
      return arrange(document, at, [...indices.slice(0, change.index + 1), step, ...indices.slice(change.index + 1)]);
    }
    case "move": {
      if (change.to < 0 || change.to >= indices.length) return document;
      const order = indices.filter((i) => i !== change.from);
      order.splice(change.to, 0, change.from);
      return arrange(document, at, order);
    }
    case "switch": {
      const off = offIn(document, at);
      if (!off.delete(change.index)) off.add(change.index);
      return withOff(document, at, off);
    }
    case "label":
      return withBar(document, at, (bar) => ({ ...bar, note: change.note }));
    case "replace":
      return replaceBar(document, at, change.with);
    case "bars":
      return reorderOff(
        withBar(document, at, (bar) =>
          bar.start.kind === "assembly" ? { ...bar, start: { ...bar.start, bars: change.bars } } : bar,
        ),
        at,
        change.order,
      );
    default:
      return unknown(change);
  }
}

/** Another bar in this place. When it is the old one joined with others, what was switched off in the old goes along. */
function replaceBar(document: Document, at: Address, next: Bar): Document {
  const before = JSON.stringify(stepsOf(barAt(document, at)));
  const wrapped = childrenOf(next).findIndex((b) => JSON.stringify(stepsOf(b)) === before);
  const below = (o: Address) => o.length > at.length && at.every((v, i) => v === o[i]);
  const keepsSteps = JSON.stringify(stepsOf(next)) === before;
  return moveEntries(
    withBar(document, at, () => next),
    (o) => {
      if (!below(o) || keepsSteps) return [o];
      return wrapped >= 0 ? [[...at, wrapped, ...o.slice(at.length)]] : [];
    },
  );
}

function unknown(change: never): never {
  throw new Error(`unknown change ${JSON.stringify(change)}`);
}

function touches(change: Change): string {
  if (change.type === "blade") return `blade.${change.what}`;
  if (change.type === "plan") return `plan.${change.what}`;
  if (change.type === "rename") return "rename";
  if (change.type === "start") return `start.${change.bar}.${change.what}`;
  if (change.type === "step") return `step.${change.bar}.${change.index}.${change.what}`;
  return change.type === "label" ? `label.${change.bar}` : "";
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
