import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered } from "../../api/answered";
import { api, ask, whatWentWrong } from "../../api/client";
import { Button, Notice } from "../../ui";
import { Measure } from "../design/fields/Measure";

const METHODS: Record<string, string> = { hammer: "Hammer by hand", press: "Press", roll: "Rolling mill" };

/** How uneven each way of working leaves the layers: what a new step is given, and the shop's own figures for it. */
export function Hands() {
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const list = useQuery({ queryKey: ["hands"], queryFn: () => ask(api.GET("/api/hands")) }).data ?? [];
  const set = (method: string, body: { amount?: number | null; wavelength?: number | null }) => {
    setProblem("");
    ask(api.PUT("/api/hands/{method}", { params: { path: { method } }, body }))
      .then(async (next) => {
        await answered(queries, ["hands"], next);
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
