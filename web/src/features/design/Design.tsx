import { useQuery } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, NavLink, useNavigate, useParams } from "react-router";
import { api, ask, Problem } from "../../api/client";
import type { BarId, Catalogue, DesignFull, Document, Ledger, Step, StepId } from "../../api/types";
import { HeaderSlot } from "../../app/Header";
import { useSay } from "../../app/session";
import { Button } from "../../ui";
import { useToast } from "../../ui/toast";
import { BladePanel } from "./BladePanel";
import { barAt, hasBar, intoOf, isOff, newId, pathOf, rootOf, stepsOf } from "./bars";
import { CoreTable } from "./CoreTable";
import { type Chosen, chosenIn, type Picked, pick } from "./chosen";
import { About, MoreMenu, NameField, SavedMark, SavingNotice } from "./DesignHeader";
import type { Change } from "./draft";
import { Findings } from "./Findings";
import { under } from "./fields/problems";
import { GrindPlace } from "./grind/GrindPlace";
import { Standing } from "./grind/Standing";
import { History } from "./History";
import { HeatPlace } from "./heat/HeatPlace";
import { Look } from "./looks/Look";
import { PrintFace } from "./PrintFace";
import { PrintPlan } from "./PrintPlan";
import { Stage } from "./Stage";
import { StartPanel } from "./StartPanel";
import { StepPanel } from "./StepPanel";
import { Strip } from "./Strip";
import { useCatalogue } from "./useCatalogue";
import { useDraft } from "./useDraft";
import { useKeys } from "./useKeys";
import { useCalm, useCore, useFiredFindings, useLedger } from "./usePrediction";
import { WhatIf } from "./WhatIf";

export type Place = "design" | "heat" | "grind";

const PLACES: Record<Place, string> = { design: "Design", heat: "Heat", grind: "Grind" };
const pathTo = (id: number, place: Place) => (place === "design" ? `/design/${id}` : `/design/${id}/${place}`);

/** The places where a bar and its blade are designed, and where the blade is ground. */
export function Design({ place = "design" }: { place?: Place }) {
  const id = Number(useParams().id);
  const design = useQuery({
    queryKey: ["design", id],
    queryFn: () => ask(api.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: (count, e) => !(e instanceof Problem) && count < 100,
    retryDelay: 2000,
  });
  const catalogue = useCatalogue();
  if (design.error instanceof Problem) {
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        <div>
          <h1 className="mb-2 text-2xl font-bold">This design is not on your bench</h1>
          <p className="mb-4 text-quiet">{design.error.message} It may have been removed, or it belongs to somebody else.</p>
          <Link className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent" to="/">
            To the bench
          </Link>
        </div>
      </main>
    );
  }
  if (!design.data || !catalogue)
    return <main className="grid flex-1 animate-pulse place-items-center text-quiet">Fetching the design…</main>;
  return <Table key={id} design={design.data} catalogue={catalogue} place={place} />;
}

/** The last ledger that could be worked out stays in sight while a later draft cannot be. */
function useShownLedger(ledger: Ledger | null): Ledger | null {
  const shown = useRef<Ledger | null>(null);
  if (ledger) shown.current = ledger;
  return shown.current;
}

function Table({ design, catalogue, place }: { design: DesignFull; catalogue: Catalogue; place: Place }) {
  const say = useSay();
  const { draft, saving, change, undo, redo, take, keepMine, save } = useDraft(design);
  const { document } = draft;
  const [opened, setOpened] = useState<BarId>(() => rootOf(document));
  // bars come and go (undo, another version): never look into one that is not there
  const bar = hasBar(document, opened) ? opened : rootOf(document);
  const into = intoOf(document, bar);
  const recipe = barAt(document, bar);
  const steps = stepsOf(recipe);
  const answer = useLedger(document, bar);
  const shown = useShownLedger(answer.data);
  const late = useFiredFindings(document);
  const ledger = useMemo(
    () => (shown && late.length ? { ...shown, findings: [...shown.findings, ...late] } : shown),
    [shown, late],
  );
  const calm = useCalm(document);
  // a step is chosen by its id, and stays so wherever it goes
  const [picked, setPicked] = useState<Picked>(() => pick(steps.at(-1)?.id));
  const [ground, setGround] = useState(0);
  const [large, setLarge] = useState(false);
  const [at, setAt] = useState<number | null>(null);
  const [preview, setPreview] = useState<Document["blade"] | null>(null);
  const [dialog, setDialog] = useState<"history" | "print" | "what-if" | "about" | null>(null);
  const toast = useToast();
  const navigate = useNavigate();
  // a page of its own: the keyboard goes on from here, not from where it left the last one
  const main = useRef<HTMLElement>(null);
  useEffect(() => main.current?.focus({ preventScroll: true }), []);

  const refused = answer.failure?.kind === "invalid" ? answer.failure.problems : [];
  const problems = useMemo(
    () => [
      ...refused.map((p) => ({ ...p, path: p.path.replace(/^document\./, "") })),
      ...(refused.length ? [] : (ledger?.problems ?? [])),
    ],
    [refused, ledger],
  );
  const seen: Ledger | null = ledger ? { ...ledger, problems } : null;

  const here = chosenIn(picked, steps, into !== null);
  const step = typeof here === "number" ? steps[here] : undefined;
  const id = step?.id ?? "";
  const setChosen = (c: Chosen) => setPicked(typeof c === "number" ? pick(steps[c]?.id) : c);
  const open = (next: BarId) => {
    setOpened(next);
    const inside = intoOf(document, next) === bar;
    setPicked(inside ? pick(stepsOf(barAt(document, next)).at(-1)?.id) : "start");
    setGround(0);
  };
  const grinding = place === "grind";
  const heating = place === "heat";
  const [fired, setFired] = useState(true);
  const hasCore = !!ledger?.summary?.core;
  const laid = useMemo(() => (preview && grinding ? { ...document, blade: preview } : document), [document, preview, grinding]);
  const core = useCore(laid, !!document.blade && (grinding || (here === "blade" && hasCore)));
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
          setPicked({ step: named });
        })
        .catch((e: Error) => toast(`No step was put in: ${e.message}`));
    },
    move(moved: StepId, to: number) {
      change({ type: "move", bar, step: moved, to });
      setPicked({ step: moved });
    },
    remove() {
      if (!step || typeof here !== "number") return;
      const name = catalogue.step_words[step.kind]?.name ?? "Step";
      change({ type: "remove", bar, step: id });
      const next: Chosen = steps.length > 1 ? Math.min(here, steps.length - 2) : "start";
      setPicked(next === "start" ? next : pick(steps.filter((s) => s.id !== id)[next]?.id));
      // the button that was pressed is gone: the keyboard goes on at the step that took its place
      window.setTimeout(() => window.document.querySelector<HTMLElement>(`[data-chosen-id="${next}"]`)?.focus(), 0);
      toast(`${name} removed.`, undo);
    },
  };
  const order: Chosen[] = ["start", ...steps.keys(), ...(into !== null ? [] : (["blade"] as const))];
  const go = (by: number) => {
    const next = order[order.indexOf(here) + by];
    if (next !== undefined) {
      setChosen(next);
      window.document.querySelector<HTMLElement>(`[data-chosen-id="${next}"]`)?.focus();
    }
  };
  useKeys({
    z: undo,
    y: redo,
    "shift+z": redo,
    arrowleft: () => go(-1),
    arrowright: () => go(1),
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
    b: () => setLarge((on) => !on),
    d: () => window.document.querySelector<HTMLElement>('[aria-label="Ground off the face"]')?.focus(),
    "[": () => setGround((g) => Math.max(0, g - 0.1)),
    w: () => setDialog("what-if"),
    g: () => navigate(pathTo(design.id, grinding ? "design" : "grind")),
    h: () => navigate(pathTo(design.id, heating ? "design" : "heat")),
    u: () => into !== null && open(into),
    "]": () => setGround((g) => Math.min(row?.thickness ?? 0, g + 0.1)),
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
      {here === "blade" && core.data ? (
        <div className="mt-3">
          <Standing core={core.data} />
        </div>
      ) : null}
    </>
  );
  return (
    <>
      <HeaderSlot>
        <NameField key={design.id} name={draft.name} onRename={(name) => change({ type: "rename", name })} />
        <nav aria-label="Places of this design" className="flex">
          {(Object.keys(PLACES) as Place[]).map((p) => (
            <NavLink
              key={p}
              to={pathTo(design.id, p)}
              end
              className={({ isActive }) =>
                `grid min-h-11 place-items-center rounded-lg px-3 max-[1200px]:px-1.5 max-[400px]:px-1 ${isActive ? "font-bold underline decoration-2 underline-offset-8" : "text-quiet hover:text-ink"}`
              }
            >
              {PLACES[p]}
            </NavLink>
          ))}
        </nav>
        <SavedMark saving={saving} dirty={draft.dirty} />
        <Button kind="quiet" compact label="Undo (Z)" disabled={!draft.past.length} onClick={undo}>
          <Undo2 size={18} aria-hidden />
        </Button>
        <Button kind="quiet" compact label="Redo (Shift Z)" disabled={!draft.future.length} onClick={redo}>
          <Redo2 size={18} aria-hidden />
        </Button>
        <MoreMenu
          id={design.id}
          onHistory={() => setDialog("history")}
          onWhatIf={() => setDialog("what-if")}
          onAbout={() => setDialog("about")}
          onPrint={() => save().then(() => setDialog("print"))}
          canPrint={!!ledger?.shape}
        />
      </HeaderSlot>
      <SavingNotice
        saving={saving}
        unreachable={answer.failure?.kind === "unreachable"}
        onKeepMine={keepMine}
        id={design.id}
        onTake={take}
      />
      <main ref={main} tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none max-[800px]:overflow-y-auto">
        <h1 className="sr-only">{draft.name}</h1>
        <Stage
          document={laid}
          note={
            laid === document ? undefined : "The faces show another blade than the design's; the figures below are the design's."
          }
          ledger={seen}
          stale={problems.length > 0}
          large={large}
          onLarge={() => setLarge(!large)}
          core={grinding || here === "blade" ? core.data : null}
          at={at}
          onAt={grinding ? setAt : undefined}
          fired={heating && fired}
          low={heating}
        />
        {large ? null : heating ? (
          <HeatPlace
            id={design.id}
            name={draft.name}
            document={document}
            problems={problems}
            change={change}
            undo={undo}
            fired={fired}
            onFired={setFired}
            waiting={!seen}
          />
        ) : grinding ? (
          <GrindPlace
            document={document}
            ledger={seen}
            core={core.data}
            problems={problems}
            at={at}
            onAt={setAt}
            change={change}
            undo={undo}
            title={draft.name}
            onPreview={setPreview}
          />
        ) : (
          <>
            <PrintPlan document={document} name={draft.name} />
            <Strip
              document={document}
              bar={bar}
              ledger={seen}
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
                    isOff={isOff(document, id)}
                    last={here === steps.length - 1}
                    onMove={(to) => act.move(id, to)}
                    ledger={ledger}
                    onRemove={act.remove}
                    {...panel}
                  />
                )}
              </div>
              <div className="flex min-h-0 min-w-0 flex-col max-[800px]:h-80">
                {row && stages >= 0 && !(step && isOff(document, id)) ? (
                  <Look
                    document={calm}
                    onChange={(next, what) => change({ type: "blade", blade: next, what })}
                    bar={bar}
                    stages={stages}
                    row={row}
                    shape={ledger?.shape ?? null}
                    blade={here === "blade"}
                    ground={ground}
                    onGround={setGround}
                  />
                ) : (
                  <p className="grid flex-1 place-items-center p-4 text-center text-quiet">
                    {step && isOff(document, id)
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
                  className="hidden max-h-28 overflow-y-auto border-t border-line p-3 max-[1100px]:block"
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
        )}
      </main>
      {dialog === "about" ? <About id={design.id} about={design.about} open onClose={() => setDialog(null)} /> : null}
      <History id={design.id} open={dialog === "history"} onClose={() => setDialog(null)} onTake={take} />
      <WhatIf
        document={document}
        open={dialog === "what-if"}
        onClose={() => setDialog(null)}
        onTake={(next, said) => {
          change({ type: "document", document: next });
          setDialog(null);
          toast(`Taken over: ${said}.`, undo);
        }}
      />
      <PrintFace id={design.id} length={ledger?.shape?.length ?? 100} open={dialog === "print"} onClose={() => setDialog(null)} />
    </>
  );
}
