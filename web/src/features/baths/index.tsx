import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { BathKept } from "../../api/types";
import { Only, RoleNote, useDegrees, useSay } from "../../app/session";
import { percent, temperature } from "../../lib/units";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { BATHS_KEY } from "./key";
import { MixDialog } from "./MixDialog";

/** The shop's baths: what is in them, how worn, what was etched in them, how to get rid of them. */
export function Baths() {
  const baths = useQuery({ queryKey: BATHS_KEY, queryFn: () => ask(api.GET("/api/finish/baths")) });
  const [query, setQuery] = useSearchParams();
  const [mixing, setMixing] = useState(false);
  const all = baths.data ?? [];
  const chosen = all.find((b) => b.id === Number(query.get("bath"))) ?? all[0];
  return (
    <main className="flex min-h-0 flex-1 flex-col max-[800px]:overflow-y-auto">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line px-6 py-2 max-[800px]:px-3">
        <h1 className="text-2xl font-bold">Baths</h1>
        <span className="ml-auto">
          <Only needs="smith">
            <Button kind="main" onClick={() => setMixing(true)}>
              <Plus size={18} aria-hidden /> Mix a bath
            </Button>
          </Only>
        </span>
        <RoleNote needs="smith" what="A smith mixes baths." />
      </div>
      {baths.error ? <Notice tone="stop">{whatWentWrong(baths.error)}</Notice> : null}
      {baths.isPending ? <p className="m-auto animate-pulse text-quiet">Looking at the baths…</p> : null}
      {baths.data && !all.length ? (
        <div className="m-auto max-w-md p-6 text-center">
          <h2 className="mb-2 text-xl font-bold">No bath yet</h2>
          <p className="mb-4 text-quiet">
            Mix one: how much of what into how much water, in which order. What is etched in it is counted, and it says when it is
            worn.
          </p>
          <Only needs="smith">
            <Button kind="main" onClick={() => setMixing(true)}>
              Mix a bath
            </Button>
          </Only>
        </div>
      ) : null}
      {all.length ? (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_24rem] max-[900px]:block">
          <ul aria-label="The baths" className="min-h-0 overflow-y-auto px-6 py-3 max-[800px]:px-3">
            {all.map((b) => (
              <li key={b.id} className="mb-2">
                <Row bath={b} chosen={b.id === chosen?.id} onOpen={() => setQuery({ bath: String(b.id) }, { replace: true })} />
              </li>
            ))}
          </ul>
          {chosen ? <Panel key={chosen.id} bath={chosen} /> : null}
        </div>
      ) : null}
      {mixing ? <MixDialog onClose={() => setMixing(false)} /> : null}
    </main>
  );
}

function Row({ bath, chosen, onOpen }: { bath: BathKept; chosen: boolean; onOpen: () => void }) {
  const heat = useDegrees();
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onOpen}
      className={`grid w-full grid-cols-[3.5rem_minmax(0,1fr)_10rem] items-center gap-4 rounded-lg border p-2 text-left ${chosen ? "border-ink bg-panel" : "border-transparent hover:bg-panel"} ${bath.gone ? "opacity-60" : ""}`}
    >
      <Vessel used={bath.used} />
      <span className="min-w-0">
        <span className="block truncate font-semibold">{bath.name}</span>
        <span className="block text-sm text-quiet">
          {bath.says}, {Number(bath.bath.strength?.toPrecision(3))} %, {bath.bath.litres} l at{" "}
          {temperature(bath.bath.temperature ?? 20, heat)}
        </span>
      </span>
      <span className="text-right">
        <b>{bath.capacity ? `${percent(bath.used)} used` : "does not wear"}</b>
        <span className={`block text-sm ${bath.renew ? "text-care" : "text-quiet"}`}>
          {bath.gone
            ? `given away ${bath.gone}`
            : bath.renew
              ? "◆ make a new one"
              : `${bath.uses} ${bath.uses === 1 ? "etch" : "etches"}`}
        </span>
      </span>
    </button>
  );
}

/** A vessel; the part that is used up stands dark at its bottom. */
function Vessel({ used }: { used: number }) {
  const high = 36;
  return (
    <svg viewBox="0 0 56 48" width={56} height={48} aria-hidden>
      <path d="M12 4V42Q12 45 15 45H41Q44 45 44 42V4" fill="none" stroke="var(--edge)" strokeWidth={2} />
      <rect x={14} y={8} width={28} height={high} fill="var(--care-wash)" />
      <rect x={14} y={8 + high * (1 - used)} width={28} height={high * used} fill="var(--quiet)" />
    </svg>
  );
}

function Panel({ bath }: { bath: BathKept }) {
  const say = useSay();
  const toast = useToast();
  const queries = useQueryClient();
  const detail = useQuery({
    queryKey: [...BATHS_KEY, bath.id, bath.uses],
    queryFn: () => ask(api.GET("/api/finish/baths/{bath_id}", { params: { path: { bath_id: bath.id } } })),
  });
  const gone = async (day: string | null) => {
    try {
      await ask(api.PATCH("/api/finish/baths/{bath_id}", { params: { path: { bath_id: bath.id } }, body: { gone: day } }));
      await queries.invalidateQueries({ queryKey: BATHS_KEY });
      toast(day ? "Given away." : "It is there after all.", day ? () => void gone(null) : undefined);
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  const elements = Object.entries(bath.dissolved)
    .filter(([, grams]) => grams >= 0.001)
    .sort((a, b) => b[1] - a[1]);
  return (
    <aside
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
      tabIndex={0}
      aria-label={bath.name}
      className="min-h-0 overflow-y-auto border-l border-line p-4 max-[900px]:border-t max-[900px]:border-l-0"
    >
      <h2 className="text-lg font-bold">{bath.name}</h2>
      <p className="text-quiet">
        mixed {bath.mixed}
        {bath.note ? `, ${bath.note}` : ""}
      </p>
      {bath.capacity ? (
        <p className="mt-2">
          <b>{(bath.bath.iron ?? 0).toFixed(1)} g</b> of metal is in it, of {bath.capacity.toFixed(0)} g that it takes up. It is
          renewed at 35 %.
        </p>
      ) : null}
      {elements.length ? (
        <p className="text-sm text-quiet">
          In it: {elements.map(([e, g]) => `${e} ${g < 0.1 ? g.toFixed(3) : g.toFixed(1)} g`).join(", ")}.
        </p>
      ) : null}
      <h3 className="mt-4 font-bold">Etched in it</h3>
      {detail.data?.history.length ? (
        <ul>
          {detail.data.history.map((u) => (
            <li key={`${u.at}${u.title}`} className="flex gap-2 border-t border-line py-1">
              <span className="min-w-0 flex-1">
                {u.title} <span className="text-sm text-quiet">{u.minutes ? `${u.minutes} min` : ""}</span>
              </span>
              <span className="font-mono">{u.grams.toFixed(2)} g</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-quiet">Nothing yet.</p>
      )}
      <h3 className="mt-4 font-bold">To get rid of it</h3>
      <p>
        {bath.bicarbonate ? (
          <>
            Neutral with{" "}
            <b>
              {bath.bicarbonate < 1000 ? `${bath.bicarbonate.toFixed(0)} g` : `${(bath.bicarbonate / 1000).toFixed(1)} kg`} of
              bicarbonate
            </b>
            , a little at a time, outdoors: it foams. Let it settle.{" "}
          </>
        ) : null}
        {say(bath.waste)}
      </p>
      <Only needs="smith">
        <div className="mt-3">
          {bath.gone ? (
            <Button onClick={() => void gone(null)}>It is there after all</Button>
          ) : (
            <Button onClick={() => void gone(new Date().toISOString().slice(0, 10))}>It was given away as waste</Button>
          )}
        </div>
      </Only>
    </aside>
  );
}
