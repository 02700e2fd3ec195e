import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Steel } from "../../api/types";
import { Button, Choice, Notice } from "../../ui";
import { Measure } from "../design/fields/Measure";

const KEY = ["steels"];

export function useSteels(): Steel[] {
  return useQuery({ queryKey: KEY, queryFn: () => ask(api.GET("/api/steels")), staleTime: Number.POSITIVE_INFINITY }).data ?? [];
}

/** Linear brightness as a colour of the screen. */
export function greyOf(linear: number): string {
  const v = Math.round(255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055));
  return `rgb(${v} ${v} ${Math.round(v * 0.985)})`;
}

export function SteelChoice({
  value,
  onChange,
  label = "Steel",
}: {
  value: string;
  onChange: (key: string) => void;
  label?: string;
}) {
  const steels = useSteels();
  const options = steels.map((s) => ({
    value: s.key,
    label: s.name,
    short: s.name.split(" ")[0],
    hint: s.why_tone,
    swatch: greyOf(s.grey),
  }));
  return <Choice label={label} value={value} options={options} onChange={onChange} />;
}

/** The list of steels with where each figure comes from; the shop may put its own tone. */
export function Steels() {
  const steels = useSteels();
  return (
    <main className="mx-auto w-full max-w-6xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">Steels</h1>
      <p className="mt-1 mb-4 max-w-3xl text-quiet">
        Tone runs from 0 (black) to 10 (mirror) after ferric chloride of about 10 %. It is indicative: etch a coupon of your own
        bar, set what you see, and every picture follows.
      </p>
      <div className="overflow-x-auto rounded-xl border border-line bg-panel">
        <table className="w-full text-left">
          <thead className="text-sm text-quiet">
            <tr className="border-b border-line">
              <th className="p-3">Steel</th>
              <th className="p-3">Composition, weight %</th>
              <th className="p-3">Hardens</th>
              <th className="p-3 text-right">Density</th>
              <th className="p-3">Etched tone</th>
            </tr>
          </thead>
          <tbody>
            {steels.map((s) => (
              <SteelRow key={s.key} steel={s} />
            ))}
          </tbody>
        </table>
      </div>
      <Hands />
    </main>
  );
}

const METHODS: Record<string, string> = { hammer: "Hammer by hand", press: "Press", roll: "Rolling mill" };

/** How uneven each way of working leaves the layers: what a new step is given, and the shop's own figures for it. */
function Hands() {
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const list = useQuery({ queryKey: ["hands"], queryFn: () => ask(api.GET("/api/hands")) }).data ?? [];
  const set = (method: string, body: { amount?: number | null; wavelength?: number | null }) => {
    setProblem("");
    ask(api.PUT("/api/hands/{method}", { params: { path: { method } }, body }))
      .then((next) => {
        queries.setQueryData(["hands"], next);
        void queries.invalidateQueries({ queryKey: ["catalogue"] });
      })
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  return (
    <section className="mt-8 mb-10">
      <h2 className="text-xl font-bold">What hammer, press and mill leave behind</h2>
      <p className="mt-1 mb-4 max-w-3xl text-quiet">
        No hand works flat: layers are left wavy under flat faces, and that is the figure of a plain laminate. New steps are given
        these values. They are indicative: cut a bar of your own across, measure how far the layers wander, and put it here.
      </p>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      <ul className="grid grid-cols-3 gap-4 max-[900px]:grid-cols-1">
        {list.map((h) => (
          <li key={h.method} className="rounded-xl border border-line bg-panel p-4">
            <h3 className="mb-2 font-semibold">{METHODS[h.method] ?? h.method}</h3>
            <div className="grid grid-cols-2 gap-3">
              <Measure
                label="Amount"
                unit="mm"
                value={h.amount}
                hint="rms lift at mid-height"
                onChange={(v) => set(h.method, { amount: v, wavelength: h.wavelength })}
              />
              <Measure
                label="Wavelength"
                unit="mm"
                value={h.wavelength}
                hint="hump to hump"
                onChange={(v) => set(h.method, { amount: h.amount, wavelength: v })}
              />
            </div>
            <div className="mt-2 flex min-h-11 items-center justify-between text-sm text-quiet">
              {h.own ? "Your shop's own." : "Indicative."}
              {h.own ? <Button onClick={() => set(h.method, {})}>Back to usual</Button> : null}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

function SteelRow({ steel }: { steel: Steel }) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const set = (tone: number | null) => {
    setProblem("");
    ask(api.PUT("/api/steels/{key}/tone", { params: { path: { key: steel.key } }, body: { tone } }))
      .then((list) => queries.setQueryData(KEY, list))
      .catch((e: Error) => setProblem(e.message));
  };
  const tone = steel.shop_tone ?? steel.tone;
  return (
    <tr className="border-b border-line align-top last:border-0">
      <td className="p-3">
        <span className="flex items-center gap-3 font-semibold">
          <span aria-hidden className="h-9 w-9 rounded-md border border-edge" style={{ background: greyOf(steel.grey) }} />
          {steel.name}
        </span>
      </td>
      <td className="p-3">
        <span className="font-mono text-sm">
          {Object.entries(steel.composition)
            .map(([el, share]) => `${el} ${share}`)
            .join("  ")}
        </span>
        <span className="block text-sm text-quiet">{steel.sources.composition}</span>
      </td>
      <td className="p-3">{steel.hardens}</td>
      <td className="p-3 text-right font-mono text-sm">
        {steel.density} kg/m³<span className="block font-sans text-quiet">{steel.sources.density}</span>
      </td>
      <td className="w-72 p-3">
        <div className="flex items-center gap-2">
          <input
            type="range"
            min={0}
            max={10}
            step={0.5}
            defaultValue={tone}
            key={tone}
            aria-label={`Etched tone of ${steel.name}, 0 black to 10 mirror`}
            onPointerUp={(e) => set(Number(e.currentTarget.value))}
            onKeyUp={(e) => set(Number(e.currentTarget.value))}
            className="w-28"
          />
          <span className="w-8 font-mono">{tone}</span>
          {steel.shop_tone !== null ? <Button onClick={() => set(null)}>Use {steel.tone}</Button> : null}
        </div>
        <span className="block text-sm text-quiet">
          {steel.shop_tone !== null ? "Your shop's own." : `Indicative: ${steel.why_tone}.`}
        </span>
        {problem ? <Notice tone="stop">{problem}</Notice> : null}
      </td>
    </tr>
  );
}
