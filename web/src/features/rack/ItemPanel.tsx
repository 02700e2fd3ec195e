import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { RackItem, RackMovement } from "../../api/types";
import { Only, useGrams, useUnit, useWeight } from "../../app/session";
import { weight } from "../../lib/units";
import { Button, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { Measure } from "../design/fields/Measure";
import { movementsKey, useRackChange } from "./useRack";
import { howMany, itemSize, movementName } from "./words";

const WHEN = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", year: "numeric" });
type Do = "take" | "bring" | "count";

/** One item: what it is, what happens to it, what was, and what it is good for. */
export function ItemPanel({ item }: { item: RackItem }) {
  const unit = useUnit();
  const grams = useGrams();
  const kg = useWeight();
  const navigate = useNavigate();
  const toast = useToast();
  const begin = () =>
    ask(api.POST("/api/rack/items/{item_id}/begin", { params: { path: { item_id: item.id } } }))
      .then((made) => navigate(`/design/${made.id}`))
      .catch((e) => toast(whatWentWrong(e)));
  return (
    <aside
      aria-label={`${item.code}, ${item.steel_name}`}
      className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line bg-panel p-4 max-[800px]:border-t max-[800px]:border-l-0"
    >
      <header>
        <h2 className="text-lg font-bold">
          {item.steel_name} <span className="font-mono text-base font-normal text-quiet">{item.code}</span>
        </h2>
        <p>{itemSize(item, unit)}</p>
        <p className="text-lg">
          <b>{howMany(item, kg)}</b>, {item.form === "powder" ? "" : `${grams(item.mass)}`}
          {item.worth !== null ? ` · worth ${money(item.worth)}` : ""}
        </p>
        {item.offcut_of ? <p className="text-sm text-quiet">Offcut of “{item.offcut_of}”.</p> : null}
      </header>
      {item.picture ? (
        <div className="rounded-lg bg-plate p-2">
          <img src={item.picture} alt={`Pattern that ${item.code} carries`} className="mx-auto max-h-40" />
          <Only needs="smith">
            <Button kind="plate" onClick={() => void begin()}>
              Begin a design with it
            </Button>
          </Only>
        </div>
      ) : null}
      <Only needs="smith">
        <Move key={item.id} item={item} />
        <Said key={`said-${item.id}`} item={item} />
      </Only>
      <Uses item={item} />
      <Movements item={item} />
    </aside>
  );
}

const money = (worth: number) => (worth < 100 ? worth.toFixed(2) : worth.toFixed(0));

function Move({ item }: { item: RackItem }) {
  const [what, setWhat] = useState<Do>("take");
  const [amount, setAmount] = useState<number | null>(1);
  const change = useRackChange();
  const powder = item.form === "powder";
  const words = { take: "Take out", bring: "Bring in", count: "There are" }[what];
  const move = () =>
    void change(
      ask(
        api.POST("/api/rack/items/{item_id}/move", {
          params: { path: { item_id: item.id } },
          body: { do: what, amount: amount ?? 0, note: "" },
        }),
      ),
      what === "take" ? `Taken out of the rack: ${item.code}.` : `The rack is up to date: ${item.code}.`,
    );
  return (
    <section aria-label="Take, bring or count" className="flex flex-col gap-2">
      <Segments<Do>
        snug
        label="What happens"
        value={what}
        options={[
          { value: "take", label: "take" },
          { value: "bring", label: "bring" },
          { value: "count", label: "count" },
        ]}
        onChange={(next) => {
          setWhat(next);
          setAmount(next === "count" ? item.there : 1);
        }}
      />
      <div className="flex items-end gap-2">
        <div className="flex-1">
          <Measure label={powder ? `${words}, g` : words} unit="" whole={!powder} value={amount} onChange={setAmount} />
        </div>
        <Button kind="main" disabled={amount === null || (amount <= 0 && what !== "count")} onClick={move}>
          {what === "count" ? "So it is" : words}
        </Button>
      </div>
    </section>
  );
}

/** Where it lies, a note, when it runs low: kept when one leaves the field. */
function Said({ item }: { item: RackItem }) {
  const change = useRackChange();
  const put = (said: Record<string, string | number | null>) => {
    const body = { ...said, base: item.mark };
    void change(ask(api.PATCH("/api/rack/items/{item_id}", { params: { path: { item_id: item.id } }, body })));
  };
  return (
    <section aria-label="What is said of it" className="grid grid-cols-2 gap-2">
      <Text label="Where it lies" value={item.place} onChange={(place) => put({ place })} />
      <Measure
        label={item.form === "powder" ? "Low under, g" : "Low under"}
        unit=""
        optional
        placeholder="not watched"
        value={item.low}
        onChange={(low) => put({ low })}
      />
      <Text label="Heat or batch" value={item.batch} onChange={(batch) => put({ batch })} />
      <Text label="From" value={item.source} onChange={(source) => put({ source })} />
      <div className="col-span-full">
        <Text label="Note" value={item.note} onChange={(note) => put({ note })} />
      </div>
    </section>
  );
}

function Text({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed.trim() !== value) onChange(typed.trim());
    setTyped(null);
  };
  return (
    <label className="block text-sm text-quiet">
      {label}
      <input
        value={typed ?? value}
        maxLength={120}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === "Enter" && keep()}
        className="mt-0.5 block min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-base text-ink"
      />
    </label>
  );
}

function Uses({ item }: { item: RackItem }) {
  const uses = useQuery({
    queryKey: ["uses", item.id],
    queryFn: () => ask(api.GET("/api/rack/items/{item_id}/uses", { params: { path: { item_id: item.id } } })),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  if (!uses?.length) return null;
  return (
    <section aria-label="What one would do for">
      <h3 className="font-bold">One of them would do for</h3>
      <ul className="text-sm">
        {uses.map((u) => (
          <li key={u.name} className="flex justify-between gap-3 border-t border-line py-1">
            <span>
              {u.count > 1 ? `${u.count} × ` : ""}
              {u.name}
            </span>
            <span className="text-right text-quiet">
              {u.how}
              {u.stretch > 1.05 ? `, the motif ${u.stretch.toFixed(1)} times as long` : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Movements({ item }: { item: RackItem }) {
  const unit = useWeight();
  const list = useQuery({
    queryKey: movementsKey(item.id),
    queryFn: () => ask(api.GET("/api/rack/items/{item_id}/movements", { params: { path: { item_id: item.id } } })),
  });
  const change = useRackChange();
  const back = (m: RackMovement) =>
    void change(ask(api.POST("/api/rack/acts/{act}/put-back", { params: { path: { act: m.act } } })), "It is in the rack again.");
  const undone = new Set<string>();
  return (
    <section aria-label="Movements">
      <h3 className="font-bold">What happened to it</h3>
      <ol className="text-sm">
        {(list.data ?? []).map((m) => {
          const can = m.kind === "taken" && !undone.has(`${m.for_design}${-m.amount}`);
          if (m.kind === "put_back") undone.add(`${m.for_design}${m.amount}`);
          return (
            <li key={m.id} className="flex items-start justify-between gap-3 border-t border-line py-1">
              <span>
                <b className="font-mono">
                  {m.amount > 0 ? "+" : "−"}
                  {item.form === "powder" ? weight(Math.abs(m.amount), unit) : Math.abs(m.amount)}
                </b>{" "}
                {movementName(m.kind)}
                {m.for_design ? ` for ${m.for_design}` : ""}
                <span className="block text-quiet">
                  {WHEN.format(new Date(m.at))}
                  {m.by ? `, ${m.by}` : ""}
                  {m.note ? `: ${m.note}` : ""}
                </span>
              </span>
              {can ? (
                <Only needs="smith">
                  <button type="button" className="min-h-11 underline" onClick={() => back(m)}>
                    put back
                  </button>
                </Only>
              ) : null}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
