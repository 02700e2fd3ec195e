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

/** The design with the scale of these heats put into its steps, so that the ledger counts it. */
export function withScale(document: Document, fired: Fired[], none = false): Document {
  return fired.reduce((now, f) => {
    const steps = stepsOf(barAt(now, f.bar));
    const scale = none ? 0 : Math.round(f.scale * 100) / 100;
    const next = steps.map((s) => (s.id === f.step ? ({ ...s, scale } as Step) : s));
    return withBar(now, f.bar, (bar) => ({ ...bar, steps: next }));
  }, document);
}
