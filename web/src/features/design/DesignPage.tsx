import { useQuery } from "@tanstack/react-query";
import { Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, Navigate, useNavigate } from "react-router";
import { api, ask, Problem } from "../../api/client";
import type { Catalogue, DesignFull, Document, Ledger } from "../../api/types";
import { useCatalogue } from "../../api/useCatalogue";
import { useCalm, useCore, useFiredFindings, useLedger } from "../../api/worked";
import { useSession } from "../../app/session";
import { useTitle } from "../../lib/title";
import { useKeys } from "../../lib/useKeys";
import { useSteady } from "../../lib/useSteady";
import { useToast } from "../../ui/toast";
import { useFaultSubject } from "../faults/subject";
import { barAt, hasBar, intoOf, rootOf } from "./bars";
import { DesignBar, type Dialog } from "./DesignBar";
import { About, SavingNotice } from "./DesignHeader";
import type { Draft } from "./draft";
import { keptDraft } from "./drafts";
import { History } from "./History";
import { Plate } from "./Plate";
import { PrintFace } from "./PrintFace";
import { DESIGN_PLACES } from "./places";
import { TableProvider } from "./table";
import { useDraft } from "./useDraft";
import { WhatIf } from "./WhatIf";
import { addressOf, useWhere, type Where } from "./where";

/** One design: fetched, laid on the table, its places around it. */
export function DesignPage() {
  const { where } = useWhere();
  const { id } = where;
  const design = useQuery({
    queryKey: ["design", id],
    queryFn: () => ask(api.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: (count, e) => !(e instanceof Problem) && count < 100,
    retryDelay: 2000,
    enabled: Number.isInteger(id) && id > 0,
  });
  const user = useSession().session.user ?? "";
  const left = useQuery({
    queryKey: ["draft", user, id],
    // a browser that keeps nothing has nothing
    queryFn: () =>
      keptDraft(user, id).then(
        (d) => d ?? null,
        () => null,
      ),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
  const catalogue = useCatalogue();
  const nowhere = !(Number.isInteger(id) && id > 0);
  if (design.error instanceof Problem || nowhere) {
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        <div>
          <h1 className="mb-2 text-2xl font-bold">This design is not on your bench</h1>
          <p className="mb-4 text-quiet">{design.error?.message} It may have been removed, or it belongs to another shop.</p>
          <Link className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent" to="/bench">
            To the bench
          </Link>
        </div>
      </main>
    );
  }
  if (!DESIGN_PLACES.some((p) => p.path === where.place))
    return <Navigate replace to={addressOf({ ...where, place: DESIGN_PLACES[0]?.path ?? "", tab: "" })} />;
  if (!design.data || !catalogue || left.data === undefined)
    return <main className="grid flex-1 animate-pulse place-items-center text-quiet">Fetching the design…</main>;
  return <OnTheTable key={id} design={design.data} left={left.data ?? undefined} catalogue={catalogue} />;
}

/** The last ledger that could be worked out stays in sight while a later draft cannot be. */
function useShownLedger(ledger: Ledger | null): Ledger | null {
  const shown = useRef<Ledger | null>(null);
  if (ledger) shown.current = ledger;
  return shown.current;
}

/** Each place is found again as it was left. */
function useRemembered(where: Where): (place: string) => string {
  const last = useRef<Record<string, Where>>({});
  last.current[where.place] = where;
  return useCallback((place: string) => addressOf(last.current[place] ?? { ...where, place, tab: "", view: "" }), [where]);
}

function OnTheTable({ design, left, catalogue }: { design: DesignFull; left: Draft | undefined; catalogue: Catalogue }) {
  const { where, go } = useWhere();
  const { draft, saving, keeps, change, undo, redo, take, keepMine, save } = useDraft(design, left);
  const { document } = draft;
  const place = DESIGN_PLACES.find((p) => p.path === where.place) ?? DESIGN_PLACES[0];
  useTitle(draft.name, place?.name);
  // bars come and go (undo, another version): never look into one that is not there
  const bar = where.bar && hasBar(document, where.bar) ? where.bar : rootOf(document);
  const into = intoOf(document, bar);
  const answer = useLedger(document, bar);
  const shown = useShownLedger(answer.data);
  const late = useFiredFindings(document);
  const [at, setAt] = useState<number | null>(null);
  const [preview, setPreview] = useState<Document["blade"] | null>(null);
  const [fired, setFired] = useState(true);
  const [large, setLarge] = useState(false);
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const toast = useToast();
  const navigate = useNavigate();
  const addressIn = useRemembered(where);
  // a page of its own: the keyboard goes on from here, not from where it left the last one
  const main = useRef<HTMLElement>(null);
  useEffect(() => main.current?.focus({ preventScroll: true }), []);

  const refused = answer.failure?.kind === "invalid" ? answer.failure.problems : null;
  const problems = useMemo(
    () => refused?.map((p) => ({ ...p, path: p.path.replace(/^document\./, "") })) ?? shown?.problems ?? [],
    [refused, shown],
  );
  const ledger = useMemo(
    () => (shown ? { ...shown, findings: late.length ? [...shown.findings, ...late] : shown.findings, problems } : null),
    [shown, late, problems],
  );
  const laid = useMemo(() => (preview ? { ...document, blade: preview } : document), [document, preview]);
  const onBlade = where.tab === "blade" && !!ledger?.summary?.core;
  const withCore = !!place?.plate.core || onBlade;
  const core = useCore(laid, withCore).data;
  const calm = useCalm(document);
  const first = DESIGN_PLACES[0]?.path ?? "";
  useFaultSubject(useMemo(() => ({ document: calm }), [calm]));
  useKeys({
    z: undo,
    y: redo,
    "shift+z": redo,
    b: () => setLarge((on) => !on),
    ...(large ? { escape: () => setLarge(false) } : {}),
    w: () => setDialog("what-if"),
    ...Object.fromEntries(
      DESIGN_PLACES.filter((p) => p.key).map((p) => [p.key, () => navigate(addressIn(p.path === where.place ? first : p.path))]),
    ),
  });
  const onDialog = useSteady((next: Dialog) => (next === "print" ? void save().then(() => setDialog(next)) : setDialog(next)));
  const plate = useMemo(() => ({ at, setAt, setPreview, fired, setFired, setLarge }), [at, fired]);
  const Page = place?.Page;
  return (
    <TableProvider
      value={{
        design,
        catalogue,
        name: draft.name,
        document,
        calm,
        change,
        undo,
        redo,
        where,
        go,
        bar,
        recipe: barAt(document, bar),
        into,
        ledger,
        problems,
        core,
        plate,
      }}
    >
      <DesignBar
        design={design}
        here={where.place}
        name={draft.name}
        saving={saving}
        dirty={draft.dirty}
        undoable={draft.past.length > 0}
        redoable={draft.future.length > 0}
        addressIn={addressIn}
        canPrint={!!ledger?.shape}
        change={change}
        undo={undo}
        redo={redo}
        onDialog={onDialog}
      />
      <SavingNotice
        saving={saving}
        keeps={keeps || !draft.dirty}
        unreachable={answer.failure?.kind === "unreachable" ? answer.failure.why : ""}
        onKeepMine={keepMine}
        id={design.id}
        onTake={take}
      />
      <main ref={main} tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none max-[800px]:overflow-y-auto">
        <h1 className="sr-only">{draft.name}</h1>
        <Plate
          document={laid}
          note={
            laid === document ? undefined : "The faces show another blade than the design's; the figures below are the design's."
          }
          ledger={ledger}
          stale={problems.length > 0}
          large={large}
          onLarge={() => setLarge(!large)}
          core={withCore ? core : null}
          at={at}
          onAt={place?.plate.core ? setAt : undefined}
          fired={!!place?.plate.fired && fired}
          low={!!place?.plate.low}
        />
        {large || !Page ? null : (
          <Suspense fallback={<p className="m-auto animate-pulse text-quiet">Fetching…</p>}>
            <Page />
          </Suspense>
        )}
      </main>
      {dialog === "about" ? <About design={design} open onClose={() => setDialog(null)} /> : null}
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
    </TableProvider>
  );
}
