import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Download, Plus, Trash2, Upload } from "lucide-react";
import { type ChangeEvent, useDeferredValue, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, Problem } from "../../api/client";
import type { DesignLine } from "../../api/types";
import { useCatalogueQuery } from "../../api/useCatalogue";
import { Only, RoleNote, useMay } from "../../app/session";
import { fits } from "../../lib/called";
import { Button, Modal, Notice, SearchField } from "../../ui";
import { useToast } from "../../ui/toast";
import { GoingOn } from "./GoingOn";

const KEY = ["designs"];
const BIN = ["bin"];
const MAX_FILE = 2_000_000;
/** Cards that a window shows before it is scrolled, and some. */
const IN_SIGHT = 12;
// made once: a formatter for each of two hundred cards would cost more than the cards
const WHEN = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", hour: "numeric", minute: "2-digit" });

/** What is going on in the shop: the designs with their pictures, and ways to begin one. */
export function Bench() {
  const list = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET("/api/designs")) });
  const [starting, setStarting] = useState(false);
  const [wanted, setWanted] = useState("");
  const designs = (list.data ?? []).filter((d) => fits(`${d.name} ${d.about}`, wanted));
  const empty = list.data?.length === 0;
  // what is in sight first: two hundred cards take as long as all the rest of the page
  const many = useDeferredValue(designs.length, IN_SIGHT);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6">
      <div className="mx-auto max-w-6xl">
        <div className="mb-5 flex flex-wrap items-center gap-3">
          <div className="mr-auto">
            <h1 className="text-2xl font-bold">On the bench</h1>
            <RoleNote needs="smith" what="A smith begins, saves and removes designs." />
          </div>
          {(list.data?.length ?? 0) > 6 ? (
            <SearchField label="Find a design" value={wanted} onChange={setWanted} className="w-56" />
          ) : null}
          <BinButton />
          <Only needs="smith">
            <ImportButton />
            <Button kind="main" onClick={() => setStarting(true)}>
              <Plus size={18} aria-hidden /> New design
            </Button>
          </Only>
        </div>
        <GoingOn />
        {list.error && !list.data ? (
          <Notice tone="stop">{list.error.message} The bench fills again as soon as it is back.</Notice>
        ) : null}
        {empty ? <FirstUse /> : null}
        {!list.data && !list.error ? <Skeleton /> : null}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-4">
          {designs.slice(0, Math.max(many, IN_SIGHT)).map((d) => (
            <DesignCard key={d.id} design={d} />
          ))}
        </ul>
        {list.data && !empty && !designs.length ? <p className="text-quiet">No design is called that.</p> : null}
      </div>
      <Modal open={starting} onClose={() => setStarting(false)} title="Begin a design" huge>
        <div className="max-h-[76vh] overflow-y-auto">
          <Starters />
        </div>
      </Modal>
    </main>
  );
}

function Skeleton() {
  return (
    <div className="grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-4" role="status" aria-label="Fetching the bench">
      {["a", "b", "c", "d", "e", "f"].map((k) => (
        <div key={k} className="h-56 animate-pulse rounded-2xl bg-panel" />
      ))}
    </div>
  );
}

function FirstUse() {
  return (
    <section className="rounded-2xl border border-line bg-panel p-6">
      <h2 className="mb-1 text-xl font-bold">Your bench is empty</h2>
      <p className="mb-4 max-w-2xl text-quiet">
        Begin with one of these bars and change it, or from nothing. You will see both etched faces of the blade at once, and
        every change you make to the bar shows in them.
      </p>
      <Only needs="smith">
        <Starters />
      </Only>
    </section>
  );
}

/** Ways to begin: a sample bar, or nothing. */
function Starters() {
  const catalogue = useCatalogueQuery();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const [wanted, setWanted] = useState("");
  const starters = catalogue.data?.starters ?? [];
  const found = starters.filter((s) => fits(`${s.name} ${s.about}`, wanted));
  const begin = (starter: string) => {
    setBusy(true);
    ask(api.POST("/api/designs", { body: { starter } }))
      .then((d) => {
        queries.invalidateQueries({ queryKey: KEY });
        navigate(`/design/${d.id}`);
      })
      .catch((e: Error) => setProblem(e.message))
      .finally(() => setBusy(false));
  };
  return (
    <>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      {catalogue.data ? null : catalogue.error ? (
        <Notice tone="stop">
          <span>{catalogue.error.message}</span>
          <Button onClick={() => void catalogue.refetch()}>Try again</Button>
        </Notice>
      ) : (
        <p role="status" className="animate-pulse text-quiet">
          Fetching the bars to begin with…
        </p>
      )}
      {starters.length ? (
        <SearchField
          label="Find a pattern"
          says="Find: san mai, raindrop, mosaic…"
          value={wanted}
          onChange={setWanted}
          className="mb-3 w-72"
        />
      ) : null}
      {starters.length && !found.length ? <p className="mb-3 text-quiet">No pattern here is called “{wanted}”.</p> : null}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3">
        {found.map((s) => (
          <li key={s.key}>
            <button
              type="button"
              disabled={busy}
              onClick={() => begin(s.key)}
              className="flex h-full w-full flex-col items-start gap-1 overflow-hidden rounded-xl border border-edge bg-well text-left hover:border-ink"
            >
              <span className="grid h-16 w-full place-items-center bg-plate">
                <img
                  src={`/api/starters/${s.key}/picture.png`}
                  alt=""
                  loading="lazy"
                  className="max-h-16 w-full object-contain p-1"
                />
              </span>
              <span className="px-3 pt-1 font-bold">{s.name}</span>
              <span className="px-3 pb-3 text-sm text-quiet">{s.about}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

function DesignCard({ design }: { design: DesignLine }) {
  const queries = useQueryClient();
  const toast = useToast();
  const may = useMay("smith");
  const path = { params: { path: { design_id: design.id } } };
  const again = () => queries.invalidateQueries({ queryKey: KEY });
  const remove = async () => {
    await ask(api.DELETE("/api/designs/{design_id}", path));
    // the card goes: the keyboard goes on at its neighbour
    const links = [...window.document.querySelectorAll<HTMLElement>("a[href^='/design/']")];
    const here = links.findIndex((l) => l.getAttribute("href") === `/design/${design.id}`);
    (links[here + 1] ?? links[here - 1] ?? window.document.querySelector<HTMLElement>("main button"))?.focus();
    again();
    queries.invalidateQueries({ queryKey: BIN });
    toast(`${design.name} lies in the bin for thirty days.`, () => {
      ask(api.POST("/api/designs/{design_id}/restore", path)).then(() => {
        again();
        queries.invalidateQueries({ queryKey: BIN });
      });
    });
  };
  const copy = () => ask(api.POST("/api/designs/{design_id}/copy", path)).then(again);
  const icon = "relative z-10 grid h-11 w-11 place-items-center rounded-lg text-quiet hover:bg-line/60 hover:text-ink";
  return (
    <li className="relative flex flex-col overflow-hidden rounded-2xl border border-line bg-panel [contain-intrinsic-size:auto_15rem] [content-visibility:auto] focus-within:border-ink hover:border-ink">
      <div className="grid h-28 place-items-center overflow-hidden bg-plate">
        <img
          src={`${design.picture}&px=${window.devicePixelRatio > 1.3 ? 700 : 460}`}
          alt=""
          loading="lazy"
          className="max-h-28 w-full object-contain"
        />
      </div>
      <div className="flex flex-1 flex-col p-4 pb-1">
        <Link to={`/design/${design.id}`} className="text-lg leading-tight font-bold after:absolute after:inset-0">
          {design.name}
        </Link>
        <p className="mt-1 flex-1 text-sm text-quiet">{design.about}</p>
        <div className="mt-1 -mr-2 flex items-center text-sm text-quiet">
          <span className="mr-auto">Changed {WHEN.format(new Date(design.changed))}</span>
          {may ? (
            <button
              type="button"
              className={icon}
              onClick={copy}
              aria-label={`Make a copy of ${design.name}`}
              title="Make a copy"
            >
              <Copy size={17} aria-hidden />
            </button>
          ) : null}
          <a
            className={icon}
            href={`/api/designs/${design.id}/design.json`}
            aria-label={`Save the design file of ${design.name}`}
            title="Save the design file: everything in it"
          >
            <Download size={17} aria-hidden />
          </a>
          {may ? (
            <button type="button" className={icon} onClick={remove} aria-label={`Remove ${design.name}`} title="Remove">
              <Trash2 size={17} aria-hidden />
            </button>
          ) : null}
        </div>
      </div>
    </li>
  );
}

/** What was thrown away in the last thirty days, and the way back. */
function BinButton() {
  const [open, setOpen] = useState(false);
  const queries = useQueryClient();
  const toast = useToast();
  const bin = useQuery({ queryKey: BIN, queryFn: () => ask(api.GET("/api/designs/bin")) });
  const lines = bin.data ?? [];
  const fresh = () => Promise.all([queries.invalidateQueries({ queryKey: BIN }), queries.invalidateQueries({ queryKey: KEY })]);
  const back = (id: number, name: string) =>
    ask(api.POST("/api/designs/{design_id}/restore", { params: { path: { design_id: id } } }))
      .then(fresh)
      .then(() => toast(`${name} is on the bench again.`))
      .catch((e: Error) => toast(e.message));
  const forGood = (id: number, name: string) =>
    ask(api.DELETE("/api/designs/bin/{design_id}", { params: { path: { design_id: id } } }))
      .then(fresh)
      .then(() => toast(`${name} is gone for good.`))
      .catch((e: Error) => toast(e.message));
  if (!lines.length && !open) return null;
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <Trash2 size={18} aria-hidden /> Bin ({lines.length})
      </Button>
      <Modal open={open} onClose={() => setOpen(false)} title="The bin" wide>
        {lines.length ? (
          <ul className="max-h-[65vh] space-y-2 overflow-y-auto">
            {lines.map((d) => (
              <li key={d.id} className="flex flex-wrap items-center gap-3 rounded-lg border border-line p-2">
                <img src={`${d.picture}&px=320`} alt="" loading="lazy" className="h-12 w-32 bg-plate object-contain" />
                <span className="min-w-40 flex-1">
                  <span className="block font-bold">{d.name}</span>
                  <span className="text-sm text-quiet">
                    thrown away {WHEN.format(new Date(d.removed))}; gone in {d.days} {d.days === 1 ? "day" : "days"}
                  </span>
                </span>
                <Only needs="smith">
                  <Button onClick={() => void back(d.id, d.name)}>Bring it back</Button>
                  <ForGood name={d.name} onSure={() => void forGood(d.id, d.name)} />
                </Only>
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-quiet">Nothing in it.</p>
        )}
      </Modal>
    </>
  );
}

/** Asked twice: there is no way back from it. */
function ForGood({ name, onSure }: { name: string; onSure: () => void }) {
  const [asked, setAsked] = useState(false);
  return asked ? (
    <Button kind="main" label={`Delete ${name} for good`} onClick={onSure}>
      Yes, for good
    </Button>
  ) : (
    <Button kind="quiet" label={`Delete ${name}`} onClick={() => setAsked(true)}>
      Delete
    </Button>
  );
}

/** Takes a design, recipe or blade file in; what is wrong with it is said with its place. */
function ImportButton() {
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<{ file: string; lines: string[] } | null>(null);
  const read = async (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    e.target.value = "";
    if (!file) return;
    if (file.size > MAX_FILE) {
      setProblem({ file: file.name, lines: ["It is larger than two million bytes; a design is a few thousand."] });
      return;
    }
    try {
      const text = await file.text();
      const made = await ask(
        api.POST("/api/designs/import", {
          body: text as unknown as Record<string, never>,
          bodySerializer: (b) => b as unknown as string,
          headers: { "Content-Type": "application/json" },
        }),
      );
      queries.invalidateQueries({ queryKey: KEY });
      navigate(`/design/${made.id}`);
    } catch (error) {
      const lines =
        error instanceof Problem && error.body.problems.length
          ? error.body.problems.map((p) => `${p.path ? `${p.path}: ` : ""}${p.wrong}; ${p.cure}`)
          : [(error as Error).message];
      setProblem({ file: file.name, lines });
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        className="hidden"
        onChange={read}
        aria-label="Design, recipe or blade file"
        tabIndex={-1}
      />
      <Button onClick={() => input.current?.click()}>
        <Upload size={18} aria-hidden /> Open a file
      </Button>
      <Modal open={!!problem} onClose={() => setProblem(null)} title="That file cannot be used">
        <p className="mb-2">
          <span className="font-mono">{problem?.file}</span> was left as it is. What is wrong with it:
        </p>
        <ul className="list-disc space-y-1 pl-5">
          {problem?.lines.slice(0, 8).map((l) => (
            <li key={l} className="break-words">
              {l}
            </li>
          ))}
        </ul>
      </Modal>
    </>
  );
}
