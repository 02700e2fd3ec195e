import { useState } from "react";
import { api, ask } from "../../../api/client";
import type { BarId, Step, StepId } from "../../../api/types";
import { useSay } from "../../../app/session";
import { useKeys } from "../../../lib/useKeys";
import { useToast } from "../../../ui/toast";
import { BladePanel } from "../BladePanel";
import { barAt, intoOf, isOff, newId, pathOf, stepsOf } from "../bars";
import { CoreTable } from "../CoreTable";
import { type Chosen, chosenIn, picked, tabOf } from "../chosen";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { under } from "../fields/problems";
import { Standing } from "../grind/Standing";
import { PrintPlan } from "../PrintPlan";
import { StartPanel } from "../StartPanel";
import { StepPanel } from "../StepPanel";
import { Strip } from "../Strip";
import { useTable } from "../table";
import { BarView } from "../views/BarView";

/** Where a bar is designed: its portraits, the chosen step's fields, a look from close by, what to be careful of. */
export function BarPlace() {
  const say = useSay();
  const { catalogue, document, calm, change, undo, where, go, bar, recipe, into, ledger, problems, core, name } = useTable();
  const steps = stepsOf(recipe);
  const [ground, setGround] = useState(0);
  const toast = useToast();

  // a step is chosen by its id, and stays so wherever it goes
  const here = chosenIn(picked(where.tab), steps, into !== null);
  const step = typeof here === "number" ? steps[here] : undefined;
  const id = step?.id ?? "";
  const choose = (tab: string) => go({ tab, view: tab === "blade" || where.tab === "blade" ? "" : where.view }, true);
  const setChosen = (c: Chosen) => choose(tabOf(c, steps));
  const open = (next: BarId) => {
    const inside = intoOf(document, next) === bar;
    go({
      bar: into === null && next === bar ? "" : next,
      tab: inside ? (stepsOf(barAt(document, next)).at(-1)?.id ?? "start") : "start",
    });
    setGround(0);
  };
  const row =
    ledger?.rows.find((r) => (here === "start" ? r.step === null : r.step === id)) ??
    (here === "blade" ? ledger?.rows.at(-1) : undefined);
  const stages = row ? (ledger?.rows.indexOf(row) ?? 0) : -1;
  const prefix = here === "blade" ? "blade" : `${pathOf(document, bar)}.${here === "start" ? "start" : `steps[${here}]`}`;
  const ownProblems = under(problems, prefix);
  const findings = here === "blade" ? (ledger?.findings ?? []) : (row?.findings ?? []);

  const act = {
    insert(at: number, kind: string) {
      ask(api.POST("/api/predict/fresh-step", { body: { document, bar, at, kind } }))
        .then(({ step }) => {
          const named = newId();
          change({ type: "insert", bar, at, step: { ...step, id: named } as unknown as Step });
          choose(named);
        })
        .catch((e: Error) => toast(`No step was put in: ${e.message}`));
    },
    move(moved: StepId, to: number) {
      change({ type: "move", bar, step: moved, to });
      choose(moved);
    },
    remove() {
      if (!step || typeof here !== "number") return;
      const removed = catalogue.step_words[step.kind]?.name ?? "Step";
      change({ type: "remove", bar, step: id });
      const left = steps.filter((s) => s.id !== id);
      const next: Chosen = left.length ? Math.min(here, left.length - 1) : "start";
      choose(tabOf(next, left));
      // the button that was pressed is gone: the keyboard goes on at the step that took its place
      window.setTimeout(() => window.document.querySelector<HTMLElement>(`[data-chosen-id="${next}"]`)?.focus(), 0);
      toast(`${removed} removed.`, undo);
    },
  };
  const order: Chosen[] = ["start", ...steps.keys(), ...(into !== null ? [] : (["blade"] as const))];
  const along = (by: number) => {
    const next = order[order.indexOf(here) + by];
    if (next !== undefined) {
      setChosen(next);
      window.document.querySelector<HTMLElement>(`[data-chosen-id="${next}"]`)?.focus();
    }
  };
  useKeys({
    arrowleft: () => along(-1),
    arrowright: () => along(1),
    "shift+arrowleft": () => typeof here === "number" && act.move(id, here - 1),
    "shift+arrowright": () => typeof here === "number" && act.move(id, here + 1),
    delete: act.remove,
    c: () => step && change({ type: "copy", bar, step: id, as: newId() }),
    o: () => step && change({ type: "switch", step: id }),
    i: () =>
      window.document
        .querySelector<HTMLElement>(
          `[data-insert="${typeof here === "number" ? here + 1 : here === "start" ? 0 : steps.length}"]`,
        )
        ?.click(),
    d: () => window.document.querySelector<HTMLElement>('[aria-label="Ground off the face"]')?.focus(),
    "[": () => setGround((g) => Math.max(0, g - 0.1)),
    "]": () => setGround((g) => Math.min(row?.thickness ?? 0, g + 0.1)),
    u: () => into !== null && open(into),
  });

  const panel = { catalogue, document, bar, recipe, problems, change: (c: Change) => change(c) };
  const advice = (
    <>
      {here !== "blade" && row?.instruction ? (
        <div className="mb-3">
          <h3 className="text-sm font-semibold text-quiet">At the fire</h3>
          <p>{say(row.instruction)}</p>
        </div>
      ) : null}
      <Findings
        findings={findings}
        problems={ownProblems}
        quiet={here === "blade" ? "Enough steel, and it lies well on its bar." : undefined}
      />
      {here === "blade" && ledger?.summary?.core ? <CoreTable core={ledger.summary.core} /> : null}
      {here === "blade" && core ? (
        <div className="mt-3">
          <Standing core={core} />
        </div>
      ) : null}
    </>
  );
  const off = !!step && isOff(document, id);
  return (
    <>
      <PrintPlan document={document} name={name} />
      <Strip
        document={document}
        bar={bar}
        ledger={ledger}
        catalogue={catalogue}
        chosen={here}
        onChoose={setChosen}
        onInsert={act.insert}
        onMove={act.move}
        onOpen={open}
      />
      <div className="screen-only grid min-h-0 flex-1 grid-cols-[23rem_minmax(0,1fr)_19rem] bg-panel max-[1100px]:grid-cols-[20rem_minmax(0,1fr)] max-[800px]:flex max-[800px]:flex-none max-[800px]:flex-col">
        <div className="flex min-h-0 flex-col border-r border-line">
          {here === "blade" ? (
            <BladePanel {...panel} />
          ) : here === "start" ? (
            <StartPanel key={bar} {...panel} onOpen={open} />
          ) : (
            <StepPanel
              key={id}
              index={here}
              step={steps[here] as Step}
              isOff={off}
              last={here === steps.length - 1}
              onMove={(to) => act.move(id, to)}
              ledger={ledger}
              onRemove={act.remove}
              {...panel}
            />
          )}
        </div>
        <div className="flex min-h-0 min-w-0 flex-col max-[800px]:h-80">
          {row && stages >= 0 && !off ? (
            <BarView
              document={calm}
              onChange={(next, what) => change({ type: "blade", blade: next, what })}
              bar={bar}
              stages={stages}
              row={row}
              shape={ledger?.shape ?? null}
              blade={here === "blade"}
              ground={ground}
              onGround={setGround}
              view={where.view}
              onView={(view) => go({ view }, true)}
            />
          ) : (
            <p className="grid flex-1 place-items-center p-4 text-center text-quiet">
              {off
                ? "This step is switched off."
                : ledger
                  ? "The bar never gets here: see what cannot be done."
                  : "Working it out…"}
            </p>
          )}
          <section
            aria-label="At the fire"
            // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
            tabIndex={0}
            className="hidden max-h-28 overflow-y-auto border-t border-line p-3 max-[1100px]:block short:max-h-20 short:py-2"
          >
            {advice}
          </section>
        </div>
        <aside
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
          tabIndex={0}
          aria-label="At the fire, and what to be careful of"
          className="min-h-0 overflow-y-auto border-l border-line p-3 max-[1100px]:hidden"
        >
          {advice}
        </aside>
      </div>
    </>
  );
}
