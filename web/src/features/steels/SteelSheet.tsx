import type { ReactNode } from "react";
import { api, ask } from "../../api/client";
import type { Source, Steel } from "../../api/types";
import { Only, useDegrees, useSay } from "../../app/session";
import { temperature } from "../../lib/units";
import { Button, Choice, Notice, Toggle } from "../../ui";
import { useToast } from "../../ui/toast";
import { Measure } from "../design/fields/Measure";
import { Swatch } from "./Swatch";
import { useSteelChange } from "./useSteels";
import { BATHS, HARDENS, QUENCH, SURE, TEMPERS } from "./words";

type Figures = Record<string, unknown>;
const ELEMENTS = ["C", "Mn", "Si", "Cr", "Ni", "Mo", "V", "W", "Cu"] as const;

/** Everything known of one steel; each group says where it comes from, and takes the shop's own. */
export function SteelSheet({ steel, onGone }: { steel: Steel; onGone: () => void }) {
  const say = useSay();
  const heat = useDegrees();
  const toast = useToast();
  const { problem, run } = useSteelChange();
  const path = { params: { path: { key: steel.key } } };
  const set = (figures: Figures) => void run(ask(api.PUT("/api/steels/{key}", { ...path, body: { figures } })));
  const use = (on: boolean) =>
    void run(
      ask(api.GET("/api/steels"))
        .then((list) => {
          const base = list.filter((s) => s.in_use).map((s) => s.key);
          const keys = list.filter((s) => (s.key === steel.key ? on : s.in_use)).map((s) => s.key);
          return ask(api.PUT("/api/steels-in-use", { body: { keys, base } }));
        })
        .then(() => ask(api.GET("/api/steels"))),
    );
  const forget = async () => {
    const mine = Object.fromEntries(steel.own.map((f) => [f, steel[f as keyof Steel]]));
    const gone = !steel.listed;
    if (!(await run(ask(api.DELETE("/api/steels/{key}", path))))) return;
    if (gone) onGone();
    const bringBack = () => void run(ask(api.POST("/api/steels/{key}/bring-back", path)));
    const again = () =>
      void run(
        ask(api.POST("/api/steels", { body: { key: steel.key, figures: { ...mine, name: steel.name, family: steel.family } } })),
      );
    const list = await ask(api.GET("/api/steels"));
    const kept = list.some((s) => s.key === steel.key && s.retired);
    if (!gone) toast(`${steel.name} is as it ships again.`, () => set(mine));
    else if (kept) toast(`${steel.name} is out of the list; saved designs that name it still have it.`, bringBack);
    else toast(`${steel.name} removed.`, again);
  };
  const group = { steel, set };
  return (
    <section
      aria-label={steel.name}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
      tabIndex={0}
      className="min-h-0 overflow-y-auto p-6 max-[800px]:overflow-visible"
    >
      <div className="mb-4 flex flex-wrap items-center gap-4">
        <Swatch steel={steel} size={48} />
        <div className="min-w-0 flex-1">
          <h2 className="text-2xl font-bold">{steel.name}</h2>
          <p className="text-quiet">
            {steel.family} · {HARDENS[steel.hardens]}
            {steel.quench ? ` in ${QUENCH[steel.quench]}` : ""} · begins to melt at {temperature(steel.solidus, heat)} ·{" "}
            {steel.stiffness.toFixed(2)} times as stiff as 1084 when hot
          </p>
        </div>
        <Only needs="smith">
          {steel.retired ? (
            <Button onClick={() => void run(ask(api.POST("/api/steels/{key}/bring-back", path)))}>Bring it back</Button>
          ) : (
            <>
              <Toggle label="In use here" checked={steel.in_use} onChange={use} />
              {steel.own.length ? <Button onClick={forget}>{steel.listed ? "As it ships" : "Take it out"}</Button> : null}
            </>
          )}
        </Only>
      </div>
      {steel.note ? (
        <div className="mb-4">
          <Notice tone="care">{say(steel.note)}</Notice>
        </div>
      ) : null}
      {problem ? (
        <div className="mb-4">
          <Notice tone="stop">{problem}</Notice>
        </div>
      ) : null}
      <Only needs="smith">
        <div className="grid grid-cols-2 items-start gap-4 max-[1100px]:grid-cols-1">
          <div className="space-y-4">
            <Composition {...group} />
            <Etched {...group} />
            <Stock {...group} />
          </div>
          <div className="space-y-4">
            <Hot {...group} />
            <Hardening {...group} />
          </div>
        </div>
      </Only>
    </section>
  );
}

type GroupProps = { steel: Steel; set: (figures: Figures) => void };

/** A group of figures with where they come from. */
function Group({ title, steel, figures, children }: { title: string; steel: Steel; figures: string[]; children: ReactNode }) {
  const say = useSay();
  const sources = [
    ...new Map(figures.flatMap((f) => (steel.sources[f] ? [[steel.sources[f].text, steel.sources[f]]] : []))).values(),
  ] as Source[];
  return (
    <section className="rounded-xl border border-line bg-panel p-4">
      <h3 className="mb-2 text-lg font-bold">{title}</h3>
      {children}
      <ul className="mt-3 space-y-1 text-sm text-quiet">
        {sources.map((s) => (
          <li key={s.text}>
            <Sure sure={s.sure} /> {s.sure === "own" ? "Put in by your shop." : say(s.text)}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function Sure({ sure }: { sure: Source["sure"] }) {
  return (
    <span className={`mr-1 rounded border px-1.5 ${sure === "own" ? "border-accent font-semibold text-accent" : "border-edge"}`}>
      {SURE[sure]}
    </span>
  );
}

function Composition({ steel, set }: GroupProps) {
  const change = (element: string, value: number | null) => {
    const { [element]: _, ...rest } = steel.composition;
    set({ composition: value ? { ...rest, [element]: value } : rest });
  };
  const others = Object.keys(steel.composition).filter((e) => !(ELEMENTS as readonly string[]).includes(e));
  return (
    <Group title="Composition, weight %" steel={steel} figures={["composition"]}>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(5.5rem,1fr))] gap-2">
        {[...ELEMENTS, ...others].map((e) => (
          <Measure
            key={e}
            label={e}
            unit="%"
            narrow
            optional
            placeholder="–"
            value={steel.composition[e]}
            onChange={(v) => change(e, v)}
          />
        ))}
      </div>
    </Group>
  );
}

/** A range as two fields; `figure` is what the server calls it. */
function Range({
  label,
  unit,
  value,
  figure,
  set,
}: {
  label: string;
  unit: string;
  value: number[] | null;
  figure: string;
  set: GroupProps["set"];
}) {
  const put = (end: 0 | 1, v: number | null) => {
    if (v === null) return;
    const next = value ? [...value] : [v, v];
    next[end] = v;
    if (next[0] !== undefined && next[1] !== undefined && next[0] > next[1]) next[1 - end] = v;
    set({ [figure]: next });
  };
  return (
    <div className="grid grid-cols-2 gap-2">
      <Measure label={`${label}, from`} unit={unit} value={value?.[0]} optional onChange={(v) => put(0, v)} />
      <Measure label={`${label}, to`} unit={unit} value={value?.[1]} optional onChange={(v) => put(1, v)} />
    </div>
  );
}

function Hot({ steel, set }: GroupProps) {
  return (
    <Group title="In the fire" steel={steel} figures={["solidus", "forge", "weld"]}>
      <div className="space-y-2">
        <Measure label="Begins to melt" unit="C" value={steel.solidus} onChange={(v) => v !== null && set({ solidus: v })} />
        <Range label="Forge" unit="C" value={steel.forge} figure="forge" set={set} />
        <Range label="Weld" unit="C" value={steel.weld} figure="weld" set={set} />
      </div>
    </Group>
  );
}

function Hardening({ steel, set }: GroupProps) {
  const heat = useDegrees();
  if (steel.hardens === "no")
    return (
      <Group title="Hardening" steel={steel} figures={["hardens"]}>
        <p>It does not harden by itself. Beside a high-carbon steel, in fine layers, it may take up carbon enough.</p>
      </Group>
    );
  return (
    <Group title="Hardening" steel={steel} figures={["austenitise", "temper"]}>
      <div className="space-y-2">
        <Range label="Austenitise" unit="C" value={steel.austenitise} figure="austenitise" set={set} />
        <Range label="Soak at heat" unit="min" value={steel.soak} figure="soak" set={set} />
        <div>
          <div>
            <Choice
              titled
              label="Quench"
              value={steel.quench ?? "medium_oil"}
              options={Object.entries(QUENCH).map(([value, label]) => ({ value: value as keyof typeof QUENCH, label }))}
              onChange={(quench) => set({ quench })}
            />
          </div>
        </div>
        <Range label="As quenched" unit="HRC" value={steel.as_quenched} figure="as_quenched" set={set} />
        {steel.temper ? (
          <div>
            <p className="mb-1 text-sm text-quiet">Hardness (HRC) after two hours at</p>
            <div className="grid grid-cols-[repeat(auto-fill,minmax(5.5rem,1fr))] gap-1">
              {TEMPERS.map((t, i) => (
                <Measure
                  key={t}
                  label={temperature(t, heat)}
                  unit="HRC"
                  narrow
                  value={steel.temper?.[i]}
                  onChange={(v) => v !== null && set({ temper: steel.temper?.map((old, k) => (k === i ? v : old)) })}
                />
              ))}
            </div>
          </div>
        ) : null}
      </div>
    </Group>
  );
}

function Etched({ steel, set }: GroupProps) {
  return (
    <Group title="Etched" steel={steel} figures={["tone", "etch_rate"]}>
      <p className="mb-2 text-quiet">
        Tone from 0 (black) to 10 (mirror){steel.why_tone ? `: ${steel.why_tone}` : ""}. Etch a coupon of your own bar, set what
        you see, and every picture follows.
      </p>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        {Object.entries(BATHS).map(([bath, label]) => (
          <Measure
            key={bath}
            label={label}
            unit=""
            value={steel.tone[bath]}
            span={[0, 10, 0.5]}
            onChange={(v) => v !== null && set({ tone: { [bath]: v } })}
          />
        ))}
        <Measure
          label="Eaten in ferric chloride"
          unit="µm/min"
          value={steel.etch_rate}
          onChange={(v) => v !== null && set({ etch_rate: v })}
        />
      </div>
    </Group>
  );
}

function Stock({ steel, set }: GroupProps) {
  return (
    <Group title="Weight, stiffness, price" steel={steel} figures={["density", "flow", "cost"]}>
      <div className="grid grid-cols-2 gap-2">
        <Measure label="Density" unit="kg/m³" value={steel.density} onChange={(v) => v !== null && set({ density: v })} />
        <Measure
          label="Stiffness when hot, 1084 = 1"
          unit="×"
          optional
          placeholder={steel.stiffness.toFixed(2)}
          value={steel.own.includes("flow") ? steel.flow : null}
          onChange={(v) => set({ flow: v })}
        />
        <Measure
          label="Price of a kg, in your money"
          unit=""
          optional
          placeholder="not put in"
          value={steel.price}
          hint={steel.cost ? `usually about ${steel.cost} times the price of plain 1084` : undefined}
          onChange={(v) => set({ price: v })}
        />
      </div>
    </Group>
  );
}
