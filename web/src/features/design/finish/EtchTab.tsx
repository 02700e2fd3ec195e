import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { EtchBath, FinishSheet } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { percent } from "../../../lib/units";
import { Button, Choice, Notice, Segments, Toggle } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { BATHS_KEY } from "../../baths/key";
import { Findings } from "../Findings";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";
import { Columns, Fold, Shell } from "../Panel";
import { useTable } from "../table";
import { Film } from "./Film";
import { First } from "./First";
import { useFinish } from "./finish";
import { Relief } from "./Relief";
import { ETCHANT, micro, minutes, nail, RELIEFS } from "./words";

const USUAL: EtchBath = { what: "ferric", strength: 10, temperature: 20, litres: 4, iron: 0 };
const STRENGTH: Record<string, number> = {
  ferric: 10,
  "ferric+muriatic": 10,
  muriatic: 12.5,
  nital: 3,
  coffee: 10,
  vinegar: 5,
  sulphuric: 10,
};

/** The bath and what is wanted of it; the film and the relief; cycle by cycle what is done. */
export function EtchTab() {
  const { sheet } = useFinish();
  const { problems } = useTable();
  const found = sheet.data;
  const wrong =
    sheet.failure?.kind === "invalid"
      ? sheet.failure.problems.map((p) => ({ ...p, path: p.path.replace(/^document\./, "") }))
      : [];
  return (
    <Columns name="Etch" scrolls left={<Wanted />} right={found ? <Cycles sheet={found} /> : null}>
      {wrong.length ? <Findings findings={[]} problems={wrong} /> : null}
      {sheet.failure && sheet.failure.kind !== "invalid" ? <Notice tone="stop">The server cannot be reached.</Notice> : null}
      {found ? (
        <>
          <Film sheet={found} />
          <Relief sheet={found} />
          <Steels sheet={found} />
        </>
      ) : wrong.length || problems.length ? null : (
        <p className="m-auto animate-pulse text-quiet">Working out the etch…</p>
      )}
    </Columns>
  );
}

function Wanted() {
  const { plan, put, sheet, baths, bath, setBath } = useFinish();
  const unit = useUnit();
  const own: EtchBath = { ...USUAL, ...plan.bath };
  const relief = plan.relief ?? 6;
  const named = RELIEFS.find((r) => Math.abs(r.um - relief) < 0.05)?.name ?? "";
  const kept = baths.find((b) => b.id === bath);
  return (
    <Shell title="What is wanted">
      <div className="col-span-full">
        <Segments
          snug
          titled
          label="Relief"
          value={named}
          options={RELIEFS.map((r) => ({ value: r.name, label: r.name }))}
          onChange={(name) => put({ relief: RELIEFS.find((r) => r.name === name)?.um ?? 6 }, "relief")}
        />
      </div>
      <div className="col-span-full">
        <Measure
          label={`Deepest under shallowest: ${nail(relief, sheet.data?.felt ?? 8, sheet.data?.catches ?? 25)}`}
          unit="µm"
          value={relief}
          slider
          span={[1, 40, 0.5]}
          hint={unit === "mm" ? undefined : micro(relief, unit)}
          onChange={(v) => put({ relief: Math.min(200, Math.max(0.5, v ?? 6)) }, "relief")}
        />
      </div>
      <div className="col-span-full">
        <Choice
          titled
          label="Bath"
          value={bath === null ? "own" : String(bath)}
          options={[
            { value: "own", label: "one to be mixed" },
            ...baths.map((b) => ({
              value: String(b.id),
              label: b.name,
              hint: `${b.says}, ${b.bath.strength} %, ${percent(b.used)} used`,
            })),
          ]}
          onChange={(v) => setBath(v === "own" ? null : Number(v))}
        />
      </div>
      {kept ? (
        <p className="col-span-full text-sm">
          {kept.says}, {kept.bath.strength} % at {kept.bath.temperature} °C, {kept.bath.litres} l. {percent(kept.used)} of its
          iron is in it{kept.renew ? ": it is time for a new one" : ""}.{" "}
          <Link className="underline underline-offset-4" to={`/baths?bath=${kept.id}`}>
            The bath
          </Link>
        </p>
      ) : (
        <>
          <div className="col-span-full">
            <Choice
              titled
              label="Etchant"
              value={own.what ?? "ferric"}
              options={Object.entries(ETCHANT).map(([value, label]) => ({ value, label }))}
              onChange={(what) =>
                put(
                  { bath: { ...own, what: what as EtchBath["what"], strength: STRENGTH[what] ?? 10, temperature: 20 } },
                  "bath.what",
                )
              }
            />
          </div>
          <MeasureRows<EtchBath>
            of={own}
            put={(next, what) => put({ bath: { ...own, ...next } }, `bath.${what}`)}
            rows={[
              {
                name: "strength",
                label: "Strength",
                unit: "%",
                usual: 10,
                hint: own.what === "coffee" ? "g in 100 ml" : "by weight",
              },
              { name: "temperature", label: "At", unit: "C", usual: 20 },
              { name: "litres", label: "Bath", unit: "l", usual: 4 },
            ]}
          />
        </>
      )}
      <MeasureRows
        of={plan}
        put={put}
        rows={[
          { name: "cycle", label: "A cycle", unit: "min", usual: 5, least: 0.5, most: 240, hint: "the first is 1 min" },
          { name: "polish", label: "Tops polished every", unit: "cycles", usual: 2, whole: true, most: 20, hint: "0: never" },
        ]}
      />
      <div className="col-span-full">
        <Toggle label="The bath is kept moving" checked={plan.moved ?? false} onChange={(moved) => put({ moved }, "moved")} />
      </div>
      <div className="col-span-full">
        <Segments
          snug
          titled
          label="Last, for tone"
          value={plan.tone ?? "none"}
          options={[
            { value: "none", label: "nothing" },
            { value: "coffee", label: "coffee" },
            { value: "muriatic", label: "muriatic" },
          ]}
          onChange={(tone) => put({ tone }, "tone")}
        />
      </div>
      <MarkFields />
      <Coupon />
    </Shell>
  );
}

function MarkFields() {
  const { plan, put, sheet } = useFinish();
  const mark = plan.mark;
  const found = sheet.data?.mark;
  return (
    <>
      <div className="col-span-full">
        <Toggle
          label="Marked by stencil and current"
          checked={!!mark}
          onChange={(on) => put({ mark: on ? { area: 40, amperes: 1, depth: 25 } : null }, "mark")}
        />
      </div>
      {mark ? (
        <>
          <MeasureRows
            of={mark}
            put={(next, what) => put({ mark: { ...mark, ...next } }, `mark.${what}`)}
            rows={[
              { name: "area", label: "Bare area", unit: "mm²", usual: 40, least: 0.1, most: 2000 },
              { name: "amperes", label: "Current", unit: "A", usual: 1, least: 0.01, most: 50 },
              { name: "depth", label: "Deep", unit: "µm", usual: 25, least: 0.1, most: 500 },
            ]}
          />
          {found ? (
            <p className="self-center text-sm">
              {minutes(found.seconds / 60)} of current, in {found.bursts} bursts
            </p>
          ) : null}
        </>
      ) : null}
    </>
  );
}

/** One coupon of plain steel, half masked: the shop's own rate. */
function Coupon() {
  const { sheet } = useFinish();
  const [said, setSaid] = useState<{ minutes: number | null; step: number | null }>({ minutes: 20, step: null });
  const [rate, setRate] = useState<{ rate: number; ours: number } | null>(null);
  const toast = useToast();
  const bath = sheet.data?.bath;
  const work = async () => {
    try {
      setRate(
        await ask(
          api.POST("/api/finish/coupon", { body: { bath: bath ?? USUAL, minutes: said.minutes ?? 0, step: said.step ?? 0 } }),
        ),
      );
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  const use = async () => {
    if (!rate) return;
    try {
      await ask(api.PUT("/api/figures/{key}", { params: { path: { key: "etch_r0" } }, body: { value: rate.rate } }));
      toast("It is a number of your shop now: see Steels, Numbers of your shop.");
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  return (
    <Fold title="Your own rate, by a coupon">
      <p className="col-span-full text-sm text-quiet">
        Plain carbon steel, hardened, half of it under tape, in this bath; then the step by micrometer.
      </p>
      <Measure label="In the bath" unit="min" value={said.minutes} onChange={(v) => setSaid({ ...said, minutes: v })} />
      <Measure label="Step" unit="µm" optional value={said.step} onChange={(v) => setSaid({ ...said, step: v })} />
      <div className="col-span-full flex flex-wrap items-center gap-2">
        <Button compact disabled={!said.minutes || !said.step} onClick={() => void work()}>
          Work it out
        </Button>
        {rate ? (
          <>
            <span>
              yours <b>{rate.rate.toFixed(2)}</b>, ours {rate.ours} µm/min
            </span>
            <Button compact onClick={() => void use()}>
              Use yours
            </Button>
          </>
        ) : null}
      </div>
    </Fold>
  );
}

function Steels({ sheet }: { sheet: FinishSheet }) {
  const unit = useUnit();
  const most = Math.max(0.01, ...sheet.steels.map((s) => s.depths.at(-1) ?? 0));
  return (
    <table className="w-full max-w-3xl text-left">
      <thead className="text-sm text-quiet">
        <tr>
          <th className="font-normal">Steel on the face</th>
          <th className="text-right font-normal">of the face</th>
          <th className="text-right font-normal">eaten</th>
          <td className="w-1/3" />
        </tr>
      </thead>
      <tbody>
        {sheet.steels.map((s) => (
          <tr key={s.steel} className="border-t border-line">
            <td className="py-1 pr-2">{s.name}</td>
            <td className="text-right font-mono">{percent(s.share)}</td>
            <td className="text-right font-mono">{micro(s.depths.at(-1) ?? 0, unit)}</td>
            <td className="pl-3">
              <span className="block h-3 rounded bg-ink" style={{ width: `${(100 * (s.depths.at(-1) ?? 0)) / most}%` }} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Cycles({ sheet }: { sheet: FinishSheet }) {
  const say = useSay();
  const unit = useUnit();
  return (
    <>
      <First order={sheet.order} never={sheet.never_with} />
      <Findings findings={sheet.findings} problems={[]} />
      {sheet.why_not ? <Notice tone="care">{say(sheet.why_not)}</Notice> : null}
      <section aria-label="Cycles">
        <h3 className="mb-1 font-bold">
          {sheet.cycles.length} {sheet.cycles.length === 1 ? "cycle" : "cycles"}, {minutes(sheet.minutes)} in the bath
        </h3>
        <ol>
          {sheet.cycles.map((c, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a cycle is its place in the list
            <CycleRow key={i} number={i + 1} cycle={c} unit={micro(c.relief, unit)} last={i === sheet.cycles.length - 1} />
          ))}
        </ol>
      </section>
      <Done sheet={sheet} />
      <section aria-label="Masks" className="text-sm">
        <h3 className="font-bold">Covered with</h3>
        <ul>
          {sheet.masks.map((m) => (
            <li key={m.key}>
              {m.says}{" "}
              <span className="text-quiet">
                ({m.where}
                {m.never ? `; ${m.never}` : ""})
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-1">{say(sheet.mask_always)}</p>
      </section>
      <section aria-label="Tank and waste" className="text-sm">
        <p>
          A tank of {Math.round(sheet.tank.length)} × {Math.round(sheet.tank.width)} × {Math.round(sheet.tank.depth)} mm,{" "}
          {sheet.tank.litres.toFixed(1)} l: edge down, tang up and masked.
        </p>
        <p className="mt-1">
          It takes up {sheet.capacity.toFixed(0)} g of iron; {percent(sheet.used)} of that is gone before,{" "}
          {percent(sheet.used_after)} after.
        </p>
        <p className="mt-1">
          To neutralise all of it:{" "}
          {sheet.bicarbonate < 1000 ? `${sheet.bicarbonate.toFixed(0)} g` : `${(sheet.bicarbonate / 1000).toFixed(1)} kg`} of
          bicarbonate, a little at a time. {say(sheet.waste)}
        </p>
      </section>
    </>
  );
}

function CycleRow({
  number,
  cycle,
  unit,
  last,
}: {
  number: number;
  cycle: FinishSheet["cycles"][number];
  unit: string;
  last: boolean;
}) {
  const say = useSay();
  const { until, start, left } = useCountdown(cycle.minutes);
  return (
    <li className="border-t border-line py-1.5">
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1">
          <b>{number}.</b> {minutes(cycle.minutes)} <span className="text-sm text-quiet">then {unit}</span>
        </span>
        <Button compact onClick={start} label={until ? undefined : `Start cycle ${number}`}>
          {until ? (
            <span className={`font-mono ${left <= 0 ? "text-stop" : ""}`}>
              {left <= 0 ? "out!" : clock(left)} <span className="sr-only">stop cycle {number}</span>
            </span>
          ) : (
            "Start"
          )}
        </Button>
      </div>
      <ul className={last ? "" : "text-sm text-quiet"}>
        {cycle.then.map((t) => (
          <li key={t}>{say(t)}</li>
        ))}
      </ul>
    </li>
  );
}

const clock = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

/** Runs by the clock of the day, so that a page that slept shows the truth; rings at its end. */
function useCountdown(forMinutes: number) {
  const [until, setUntil] = useState<number | null>(null);
  const [, tick] = useState(0);
  const left = until === null ? 0 : (until - Date.now()) / 1000;
  const start = () => {
    if (until !== null) return setUntil(null);
    // the bell may only be rung on a page that was touched
    void import("../../build/bell").then((m) => m.unlockBell());
    const end = Date.now() + forMinutes * 60_000;
    setUntil(end);
    const timer = window.setInterval(() => {
      tick((n) => n + 1);
      if (Date.now() < end) return;
      window.clearInterval(timer);
      void import("../../build/bell").then((m) => m.ring());
    }, 500);
  };
  return { until, start, left };
}

/** It was done: the shop's bath wears by it. */
function Done({ sheet }: { sheet: FinishSheet }) {
  const { bath, asked } = useFinish();
  const { name, document } = useTable();
  const toast = useToast();
  const queries = useQueryClient();
  const [uid, setUid] = useState(() => crypto.randomUUID());
  if (bath === null)
    return <p className="text-sm text-quiet">Choose one of your baths, and what is etched in it is counted as its wear.</p>;
  const write = async () => {
    try {
      await ask(
        api.POST("/api/finish/baths/{bath_id}/etched", {
          params: { path: { bath_id: bath } },
          body: {
            uid,
            document: { ...document, ...asked.document } as never,
            minutes: sheet.cycles.map((c) => c.minutes),
            title: name,
          },
        }),
      );
      setUid(crypto.randomUUID());
      await queries.invalidateQueries({ queryKey: BATHS_KEY });
      toast("Written down: the bath is as much more worn.");
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  return (
    <div>
      <Button onClick={() => void write()}>It was etched so: count it to the bath</Button>
    </div>
  );
}
