/** What the smith says of the heats, in the document. Pure. */

import type { Document, Fired, HeatsOf, Step, StepId } from "../../../api/types";
import { barAt, stepsOf, withBar } from "../bars";

export function saidOf(document: Document, step: StepId): Partial<HeatsOf> {
  return document.fire?.steps?.find((s) => s.step === step) ?? {};
}

/** Where what is said of a step's heats stands in the document, as problems name it. */
export function pathOf(document: Document, step: StepId): string {
  return `fire.steps[${(document.fire?.steps ?? []).findIndex((s) => s.step === step)}]`;
}

/** The document's fire with one step's heats changed; a step of which nothing is said any more is left out. */
export function withHeats(document: Document, step: StepId, next: Partial<HeatsOf>): Document["fire"] {
  const { step: _, ...merged } = { ...saidOf(document, step), ...next };
  const kept = Object.fromEntries(Object.entries(merged).filter(([, v]) => v !== null && v !== undefined));
  const others = (document.fire?.steps ?? []).filter((s) => s.step !== step);
  return { ...document.fire, steps: Object.keys(kept).length ? [...others, { step, ...kept }] : others };
}

/** The design with no scale counted in the steps of these heats. */
export function withoutScale(document: Document, fired: Fired[]): Document {
  return fired.reduce((now, f) => {
    const next = stepsOf(barAt(now, f.bar)).map((s) => (s.id === f.step ? ({ ...s, scale: 0 } as Step) : s));
    return withBar(now, f.bar, (bar) => ({ ...bar, steps: next }));
  }, document);
}
