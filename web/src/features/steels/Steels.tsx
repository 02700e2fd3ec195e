import { useQueryClient } from "@tanstack/react-query";
import { Download, Plus, Upload } from "lucide-react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Steel } from "../../api/types";
import { forgetWorked } from "../../api/worked";
import { Only, RoleNote } from "../../app/session";
import { Button, FilePick, Notice, SearchField, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { Hands } from "./Hands";
import { NewSteel } from "./NewSteel";
import { Numbers } from "./Numbers";
import { SteelSheet } from "./SteelSheet";
import { Swatch } from "./Swatch";
import { STEELS_KEY, useSteels } from "./useSteels";
import { HARDENS } from "./words";

type Tab = "steels" | "numbers";

/** The list of steels with where each figure comes from, and the shop's own numbers. */
export function Steels() {
  const [query, setQuery] = useSearchParams();
  const tab: Tab = query.get("show") === "numbers" ? "numbers" : "steels";
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-4 border-b border-line px-6 py-2">
        <h1 className="text-2xl font-bold">Steels</h1>
        <div className="w-96">
          <Segments<Tab>
            label="What is shown"
            value={tab}
            onChange={(show) => setQuery(show === "numbers" ? { show } : {})}
            options={[
              { value: "steels", label: "The list" },
              { value: "numbers", label: "Numbers of your shop" },
            ]}
          />
        </div>
        <RoleNote needs="smith" what="A smith changes the shop's figures." />
      </div>
      {tab === "steels" ? (
        <List />
      ) : (
        <div className="mx-auto w-full max-w-6xl overflow-y-auto p-6">
          <Only needs="smith">
            <Numbers />
            <Hands />
          </Only>
        </div>
      )}
    </main>
  );
}

function List() {
  const steels = useSteels();
  const [query, setQuery] = useSearchParams();
  const chosen = query.get("steel") ?? "1084";
  const setChosen = (steel: string) => setQuery({ steel }, { replace: true });
  const [wanted, setWanted] = useState("");
  const [adding, setAdding] = useState(false);
  const said = wanted.trim().toLowerCase();
  const shown = steels.filter((s) => !s.retired && (!said || `${s.key} ${s.name} ${s.family}`.toLowerCase().includes(said)));
  const retired = steels.filter((s) => s.retired);
  const steel = steels.find((s) => s.key === chosen) ?? steels[0];
  const families = [...new Set(shown.map((s) => s.family))];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[21rem_minmax(0,1fr)] max-[800px]:block max-[800px]:overflow-y-auto">
      <div className="flex min-h-0 flex-col border-r border-line bg-panel max-[800px]:max-h-96">
        <div className="flex flex-col gap-2 border-b border-line p-3">
          <SearchField label="Find a steel" value={wanted} onChange={setWanted} className="" />
          <div className="flex flex-wrap gap-2">
            <Only needs="smith">
              <Button kind="main" onClick={() => setAdding(true)}>
                <Plus size={18} aria-hidden /> Add a steel
              </Button>
              <CsvButtons />
            </Only>
          </div>
        </div>
        <nav aria-label="Steels" className="min-h-0 flex-1 overflow-y-auto p-2">
          {families.map((family) => (
            <section key={family}>
              <h2 className="px-2 pt-2 text-sm font-semibold text-quiet">{family}</h2>
              <ul>
                {shown
                  .filter((s) => s.family === family)
                  .map((s) => (
                    <Line key={s.key} steel={s} chosen={s.key === steel?.key} onChoose={() => setChosen(s.key)} />
                  ))}
              </ul>
            </section>
          ))}
          {retired.length ? (
            <section>
              <h2 className="px-2 pt-2 text-sm font-semibold text-quiet">retired: only saved designs name them</h2>
              <ul>
                {retired.map((s) => (
                  <Line key={s.key} steel={s} chosen={s.key === steel?.key} onChoose={() => setChosen(s.key)} />
                ))}
              </ul>
            </section>
          ) : null}
          {shown.length ? null : (
            <p className="p-3 text-quiet">No steel of that name. Add it: its composition is enough, the rest is worked out.</p>
          )}
        </nav>
      </div>
      {steel ? <SteelSheet key={steel.key} steel={steel} onGone={() => setChosen("1084")} /> : null}
      <NewSteel open={adding} onClose={() => setAdding(false)} onAdded={setChosen} taken={steels.map((s) => s.key)} />
    </div>
  );
}

function Line({ steel, chosen, onChoose }: { steel: Steel; chosen: boolean; onChoose: () => void }) {
  return (
    <li>
      <button
        type="button"
        aria-current={chosen || undefined}
        onClick={onChoose}
        className={`flex min-h-11 w-full items-center gap-3 rounded-lg px-2 text-left ${chosen ? "bg-ink text-panel" : "hover:bg-line/60"}`}
      >
        <Swatch steel={steel} size={26} />
        <span className="min-w-0 flex-1 truncate">
          {steel.name}
          <span className={`block truncate text-sm leading-tight ${chosen ? "" : "text-quiet"}`}>
            {HARDENS[steel.hardens]}
            {steel.in_use ? " · in use here" : ""}
          </span>
        </span>
        {steel.own.length ? <span className="text-sm font-semibold">{steel.listed ? "yours in part" : "yours"}</span> : null}
      </button>
    </li>
  );
}

/** The list as a spreadsheet, out and in. */
function CsvButtons() {
  const queries = useQueryClient();
  const toast = useToast();
  const [problem, setProblem] = useState("");
  const take = async (chosen: File) => {
    setProblem("");
    try {
      const { taken } = await ask(api.POST("/api/steels/csv", { body: { text: await chosen.text() } }));
      await queries.invalidateQueries({ queryKey: STEELS_KEY });
      forgetWorked(queries);
      toast(
        taken
          ? `${taken} ${taken === 1 ? "steel" : "steels"} taken from the file.`
          : "Nothing in the file differs from the list.",
      );
    } catch (e) {
      setProblem(whatWentWrong(e));
    }
  };
  return (
    <>
      <a
        href="/api/steels.csv"
        download="steels.csv"
        title="Save the list as CSV"
        aria-label="Save the list as CSV"
        className="grid min-h-11 min-w-11 place-items-center rounded-lg border border-edge bg-well hover:bg-panel"
      >
        <Download size={18} aria-hidden />
      </a>
      <FilePick label="Read a CSV file into the list" field="CSV file" accept=".csv,text/csv" onPick={(f) => void take(f)}>
        <Upload size={18} aria-hidden />
      </FilePick>
      {problem ? (
        <div className="basis-full">
          <Notice tone="stop">{problem}</Notice>
        </div>
      ) : null}
    </>
  );
}
