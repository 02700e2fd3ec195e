/** The draft on the table: the document, its undo and redo, and which revision it stands on. Pure. */

import type { Bar, BarId, Blade, Document, Start, Step, StepId } from "../../api/types";
import { barAt, isOff, stepsOf, withBar } from "./bars";

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

/** `bar`: which bar it happens to; a step that is copied or new brings its id. */
export type Change =
  | { type: "start"; bar: BarId; start: Start; what: string }
  | { type: "step"; bar: BarId; step: Step; what: string }
  | { type: "insert"; bar: BarId; at: number; step: Step }
  | { type: "remove"; bar: BarId; step: StepId }
  | { type: "copy"; bar: BarId; step: StepId; as: StepId }
  | { type: "move"; bar: BarId; step: StepId; to: number }
  | { type: "switch"; step: StepId }
  | { type: "label"; bar: BarId; note: string }
  | { type: "replace"; bar: BarId; with: Bar }
  | { type: "bars"; bar: BarId; bars: Bar[] }
  | { type: "blade"; blade: Blade | null; what: string }
  | { type: "document"; document: Document }
  /** What belongs to the making of the blade: the wanted core line, usual errors, readings, the handle, its stock. */
  | {
      type: "plan";
      plan: Pick<Partial<Document>, "aim" | "sizes" | "readings" | "handle" | "fire" | "hardening" | "stock" | "finish">;
      what: string;
    }
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

export function applyChange(document: Document, change: Change): Document {
  if (change.type === "blade") return { ...document, blade: change.blade };
  if (change.type === "document") return change.document;
  if (change.type === "plan") return { ...document, ...change.plan };
  if (change.type === "rename") return document;
  if (change.type === "switch") {
    const off = document.off ?? [];
    return { ...document, off: isOff(document, change.step) ? off.filter((s) => s !== change.step) : [...off, change.step] };
  }
  const at = change.bar;
  const steps = stepsOf(barAt(document, at));
  const put = (next: Step[]) => withBar(document, at, (bar) => ({ ...bar, steps: next }));
  switch (change.type) {
    case "start":
      return withBar(document, at, (bar) => ({ ...bar, start: { ...change.start, id: bar.start.id } as Start }));
    case "step":
      return put(steps.map((s) => (s.id === change.step.id ? change.step : s)));
    case "insert":
      return put(steps.toSpliced(change.at, 0, change.step));
    case "remove":
      return put(steps.filter((s) => s.id !== change.step));
    case "copy": {
      const index = steps.findIndex((s) => s.id === change.step);
      const step = steps[index];
      return step ? put(steps.toSpliced(index + 1, 0, { ...step, id: change.as })) : document;
    }
    case "move": {
      const step = steps.find((s) => s.id === change.step);
      if (!step || change.to < 0 || change.to >= steps.length) return document;
      return put(steps.filter((s) => s !== step).toSpliced(change.to, 0, step));
    }
    case "label":
      return withBar(document, at, (bar) => ({ ...bar, note: change.note }));
    case "replace":
      return withBar(document, at, () => change.with);
    case "bars":
      return withBar(document, at, (bar) =>
        bar.start.kind === "assembly" ? { ...bar, start: { ...bar.start, bars: change.bars } } : bar,
      );
    default:
      return unknown(change);
  }
}

function unknown(change: never): never {
  throw new Error(`unknown change ${JSON.stringify(change)}`);
}

function touches(change: Change): string {
  if (change.type === "blade") return `blade.${change.what}`;
  if (change.type === "plan") return `plan.${change.what}`;
  if (change.type === "rename") return "rename";
  if (change.type === "start") return `start.${change.bar}.${change.what}`;
  if (change.type === "step") return `step.${change.step.id}.${change.what}`;
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
