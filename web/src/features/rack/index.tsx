import { useQueryClient } from "@tanstack/react-query";
import { Download, Plus, Upload } from "lucide-react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, Problem, whatWentWrong } from "../../api/client";
import type { RackItem } from "../../api/types";
import { Only, RoleNote, useGrams, useUnit, useWeight } from "../../app/session";
import { Button, FilePick, Modal, Notice, SearchField, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { AddDialog } from "./AddDialog";
import { Drawing, Long } from "./Drawing";
import { ItemPanel } from "./ItemPanel";
import { RACK_KEY, useRack } from "./useRack";
import { grouped, howMany, isOf, itemSize, matches, type Which } from "./words";

const WHICH: { value: Which; label: string }[] = [
  { value: "there", label: "all there is" },
  { value: "offcuts", label: "offcuts" },
  { value: "low", label: "running low" },
  { value: "gone", label: "used up" },
];
const SHOWN = 60;

/** What the shop owns, drawn as it lies, by steel and section. */
export function RackPage() {
  const rack = useRack();
  const [query, setQuery] = useSearchParams();
  const [wanted, setWanted] = useState("");
  const [which, setWhich] = useState<Which>("there");
  const [adding, setAdding] = useState(false);
  const [more, setMore] = useState(SHOWN);
  const grams = useGrams();
  const all = rack.data?.items ?? [];
  const found = all.filter((i) => isOf(i, which) && matches(i, wanted));
  const shown = found.slice(0, more);
  const chosen = all.find((i) => i.id === Number(query.get("item"))) ?? found[0];
  const most = Math.max(1, ...all.map((i) => i.length ?? 0));
  const open = (i: RackItem) => setQuery({ item: String(i.id) }, { replace: true });
  return (
    <main className="flex min-h-0 flex-1 flex-col max-[800px]:overflow-y-auto">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line px-6 py-2 max-[800px]:px-3">
        <h1 className="text-2xl font-bold">Rack</h1>
        {all.length ? (
          <>
            <SearchField label="Find in the rack" says="Find: steel, size, place…" value={wanted} onChange={setWanted} />
            <div className="w-[29rem] max-w-full">
              <Segments<Which> snug label="Which" value={which} options={WHICH} onChange={setWhich} />
            </div>
          </>
        ) : null}
        <span className="ml-auto flex items-center gap-2">
          <Files />
          <Only needs="smith">
            <Button kind="main" onClick={() => setAdding(true)}>
              <Plus size={18} aria-hidden /> Add bars
            </Button>
          </Only>
        </span>
        <RoleNote needs="smith" what="A smith changes the rack." />
      </div>
      {rack.error ? <Notice tone="stop">{whatWentWrong(rack.error)}</Notice> : null}
      {rack.isPending ? <p className="m-auto animate-pulse text-quiet">Looking into the rack…</p> : null}
      {rack.data && !all.length ? <Empty onAdd={() => setAdding(true)} /> : null}
      {all.length ? (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_21rem] max-[800px]:block">
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it */}
          <section tabIndex={0} aria-label="What there is" className="min-h-0 overflow-y-auto px-6 py-3 max-[800px]:px-3">
            {grouped(shown).map((g) => (
              <section key={g.steel} aria-label={g.name} className="mb-4">
                <h2 className="flex items-baseline gap-3 font-bold">
                  {g.name}
                  <span className="text-sm font-normal text-quiet">{grams(g.mass)}</span>
                </h2>
                <ul>
                  {g.items.map((i) => (
                    <Row key={i.id} item={i} most={most} chosen={i.id === chosen?.id} onOpen={() => open(i)} />
                  ))}
                </ul>
              </section>
            ))}
            {found.length > shown.length ? (
              <Button onClick={() => setMore(more + SHOWN)}>Show more: {found.length - shown.length} are left</Button>
            ) : null}
            {found.length ? (
              <p className="text-sm text-quiet">
                {found.length} {found.length === 1 ? "item" : "items"}, {grams(found.reduce((sum, i) => sum + i.mass, 0))}. Ends
                and lengths are each drawn to one scale.
              </p>
            ) : (
              <p className="py-8 text-center text-quiet">Nothing here is like that.</p>
            )}
          </section>
          {chosen ? <ItemPanel item={chosen} /> : null}
        </div>
      ) : null}
      <AddDialog open={adding} onClose={() => setAdding(false)} />
    </main>
  );
}

function Row({ item, most, chosen, onOpen }: { item: RackItem; most: number; chosen: boolean; onOpen: () => void }) {
  const unit = useUnit();
  const kg = useWeight();
  const grams = useGrams();
  return (
    <li className="[contain-intrinsic-size:auto_58px] [content-visibility:auto]">
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onOpen}
        className={`grid w-full grid-cols-[96px_minmax(0,1fr)_minmax(4rem,16rem)_7rem] items-center gap-4 rounded-lg border px-2 py-1.5 text-left max-[800px]:grid-cols-[96px_minmax(0,1fr)_5.5rem] ${chosen ? "border-ink bg-panel" : "border-transparent hover:bg-panel"}`}
      >
        <Drawing item={item} />
        <span className="min-w-0">
          <span className="block">{itemSize(item, unit)}</span>
          <span className="block truncate text-sm text-quiet">
            {[item.code, item.place, item.offcut_of ? `offcut of ${item.offcut_of}` : item.note].filter(Boolean).join(" · ")}
          </span>
        </span>
        <span className="max-[800px]:hidden">
          <Long item={item} most={most} />
        </span>
        <span className="text-right">
          <b>{howMany(item, kg)}</b>
          <span className={`block text-sm ${item.runs_low ? "text-care" : "text-quiet"}`}>
            {item.runs_low ? "◆ runs low" : item.form === "powder" ? "" : grams(item.mass)}
          </span>
        </span>
      </button>
    </li>
  );
}

function Empty({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="m-auto max-w-lg p-6 text-center">
      <h2 className="mb-2 text-xl font-bold">The rack is empty</h2>
      <p className="mb-4 text-quiet">
        Two minutes with a tape fill it: type a line for each kind of bar, as you would call it out: “1084 1/4 x 1 1/2 x 48 x 2”.
        Or read a CSV file. From then on a design says what to cut from which bar, and what to buy.
      </p>
      <Only needs="smith">
        <Button kind="main" onClick={onAdd}>
          <Plus size={18} aria-hidden /> Type in what there is
        </Button>
      </Only>
    </div>
  );
}

/** The rack as a CSV file, out and in; what is wrong in a file is told by line and column, and nothing of it is kept. */
function Files() {
  const toast = useToast();
  const queries = useQueryClient();
  const [wrong, setWrong] = useState<string[]>([]);
  const read = (file: File) => {
    setWrong([]);
    file
      .text()
      .then((text) => ask(api.POST("/api/rack/file.csv", { body: { text } })))
      .then((said) => {
        void queries.invalidateQueries({ queryKey: RACK_KEY });
        toast(`Read: ${said.new} new, ${said.corrected} counted anew.`);
      })
      .catch((e) =>
        setWrong(
          e instanceof Problem && e.body.problems.length
            ? e.body.problems.map((p) => `${p.path}: ${p.wrong}; ${p.cure}.`)
            : [whatWentWrong(e)],
        ),
      );
  };
  return (
    <>
      <a
        href="/api/rack/file.csv"
        download="rack.csv"
        title="Save the rack as CSV"
        aria-label="Save the rack as CSV"
        className="grid min-h-11 min-w-11 place-items-center rounded-lg border border-edge bg-well hover:bg-panel"
      >
        <Download size={18} aria-hidden />
      </a>
      <Only needs="smith">
        <FilePick label="Read the rack from CSV" field="CSV file of the rack" accept=".csv,text/csv" onPick={read}>
          <Upload size={18} aria-hidden />
        </FilePick>
      </Only>
      <Modal open={wrong.length > 0} onClose={() => setWrong([])} title="Nothing was taken from the file">
        <ul className="flex max-h-96 flex-col gap-1 overflow-y-auto">
          {wrong.slice(0, 20).map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
        {wrong.length > 20 ? <p className="mt-2 text-quiet">and {wrong.length - 20} more.</p> : null}
      </Modal>
    </>
  );
}
