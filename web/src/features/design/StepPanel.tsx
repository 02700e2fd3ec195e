import { ArrowLeft, ArrowRight, Copy, Eye, EyeOff, Trash2 } from "lucide-react";
import type { Bar, BarId, Catalogue, Document, Ledger, ProblemItem, Step } from "../../api/types";
import { Button, Notice } from "../../ui";
import { newId, pathOf, stepsOf } from "./bars";
import type { Change } from "./draft";
import { under } from "./fields/problems";
import type { Json, Schema, Values } from "./fields/schema";
import { GridEditor } from "./GridEditor";
import { Fields, Shell } from "./Panel";
import { Sums } from "./Sums";

export type PanelCommon = {
  catalogue: Catalogue;
  document: Document;
  bar: BarId;
  recipe: Bar;
  problems: ProblemItem[];
  change: (c: Change) => void;
  ledger?: Ledger | null;
};

/** Values that must go together: one field changed, the others it rules out or brings along. */
function settled(catalogue: Catalogue, step: Step, next: Values, what: string, long: number): Values {
  // a twist has turns over the whole length or zones, never both
  if (step.kind === "twist") {
    if (what === "zones" && next.zones) {
      // the first zone is the twist as it was, from end to end
      const was = (step as unknown as Values).turns;
      if (typeof was === "number") next.zones = [{ from: 0, to: Math.floor(long * 100) / 100, turns: was }];
      delete next.turns;
    }
    if (what === "zones" && !next.zones) {
      const zones = ((step as unknown as Values).zones ?? []) as { turns?: number }[];
      next.turns ??= zones.reduce((sum, z) => sum + (z.turns ?? 0), 0) || 5;
    }
    if (what === "turns") delete next.zones;
  }
  // each way of working leaves the layers uneven in its own way
  if (step.kind === "draw" && what === "method" && next.uneven) {
    const hand = catalogue.hands[String(next.method ?? "hammer")];
    if (hand) next.uneven = { ...hand, seed: (next.uneven as Values).seed ?? 1 };
  }
  // each form of the section has its own measures
  if (step.kind === "relief") {
    if (what === "shape" && next.shape === "chevrons" && !next.slant) next.slant = 30;
    if (what === "shape" && next.shape === "dimples") delete next.slant;
    if (what === "faces" && next.faces === "top") delete next.offset;
    if (what === "shape" && next.shape !== "dimples") delete next.array;
  }
  return next;
}

/** The fields of one step, and what can be done with the step itself. */
export function StepPanel({
  index,
  step,
  isOff,
  last,
  onMove,
  onRemove,
  ...common
}: PanelCommon & {
  index: number;
  step: Step;
  isOff: boolean;
  last: boolean;
  onMove: (to: number) => void;
  onRemove: () => void;
}) {
  const { catalogue, document, bar, recipe, problems, change, ledger } = common;
  const path = pathOf(document, bar);
  const id = step.id ?? "";
  const own = under(problems, `${path}.steps[${index}]`);
  const words = catalogue.step_words[step.kind];
  const values = step as unknown as Values;
  // of the bar it is put on
  const earlier = new Set(
    stepsOf(recipe)
      .slice(0, index)
      .map((s) => s.id),
  );
  const before = ledger?.rows.filter((r) => r.step === null || earlier.has(r.step)).at(-1);
  const long = before?.length ?? 100;
  // an earlier step that cannot be done: what follows has no bar of its own
  const stopped = [...Array(index).keys()].find((i) => problems.some((p) => p.path.startsWith(`${path}.steps[${i}]`)));
  const put = (next: Values, what: string) =>
    change({ type: "step", bar, step: settled(catalogue, step, { ...next }, what, long) as unknown as Step, what });
  return (
    <Shell
      title={`${index + 1}. ${words?.name ?? step.kind}`}
      about={words?.about}
      actions={
        <>
          <span className="contents max-[1100px]:hidden">
            <Button kind="quiet" compact label="Earlier" disabled={index === 0} onClick={() => onMove(index - 1)}>
              <ArrowLeft size={17} aria-hidden />
            </Button>
            <Button kind="quiet" compact label="Later" disabled={last} onClick={() => onMove(index + 1)}>
              <ArrowRight size={17} aria-hidden />
            </Button>
          </span>
          <Button
            kind="quiet"
            compact
            label="Copy this step"
            onClick={() => change({ type: "copy", bar, step: id, as: newId() })}
          >
            <Copy size={17} aria-hidden />
          </Button>
          <Button
            kind="quiet"
            compact
            label={isOff ? "Switch this step on" : "Switch this step off"}
            pressed={isOff}
            onClick={() => change({ type: "switch", step: id })}
          >
            {isOff ? <EyeOff size={17} aria-hidden /> : <Eye size={17} aria-hidden />}
          </Button>
          <Button kind="quiet" compact label="Remove this step" onClick={onRemove}>
            <Trash2 size={17} aria-hidden />
          </Button>
        </>
      }
    >
      {isOff ? <p className="col-span-full text-quiet">Switched off: the bar passes it by.</p> : null}
      <Fields schema={catalogue.steps[step.kind] as Schema} values={values} problems={own} onChange={put} leaveOut="cells">
        {step.kind === "grid" ? (
          <GridEditor
            cells={step.cells}
            problems={under(own, "cells")}
            onChange={(cells) => put({ ...values, cells: cells as unknown as Json }, "")}
          />
        ) : null}
      </Fields>
      {stopped !== undefined ? (
        <div className="col-span-full">
          <Notice tone="care">
            The bar stops at step {stopped + 1}: the sums here reckon with the bar as it is there, not as it would be.
          </Notice>
        </div>
      ) : null}
      <Sums document={document} bar={bar} step={id} onUse={(field, value) => put({ ...values, [field]: value }, "")} />
    </Shell>
  );
}
