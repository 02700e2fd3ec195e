import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered } from "../../api/answered";
import { api, ask, whatWentWrong } from "../../api/client";
import type { ShopNumber } from "../../api/types";
import { forgetWorked } from "../../api/worked";
import { useSay } from "../../app/session";
import { Button, Notice } from "../../ui";
import { Measure } from "../design/fields/Measure";

const GROUPS: Record<string, [string, string]> = {
  scale: [
    "What the fire takes",
    "Against the law for iron in free air. Weigh a billet before and after its heats, and put in what you find.",
  ],
  soak: ["How the fire heats", "Time how long your fire takes until the middle of a bar is as bright as its skin."],
  draw: ["How the shop works", "What your press or hammer does in one heat."],
  harden: ["Hardening", "What your own quenches and tempers have shown."],
  time: ["Time", "How long each kind of work takes you, and the hours you have. Indicative until you time a few."],
  money: ["Money", "What an hour, gas, power and what is used up cost you, in your own money."],
  stock: ["Stock", "What is cut off, kept and set aside between the pile and the blade."],
};

/** Every indicative number the fire is reckoned with; the shop puts in its own. */
export function Numbers() {
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const list = useQuery({ queryKey: ["figures"], queryFn: () => ask(api.GET("/api/figures")) }).data ?? [];
  const set = (key: string, value: number | null) => {
    setProblem("");
    ask(api.PUT("/api/figures/{key}", { params: { path: { key } }, body: { value } }))
      .then(async (next) => {
        await answered(queries, ["figures"], next);
        void queries.invalidateQueries({ queryKey: ["pairing"] });
        forgetWorked(queries);
      })
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  return (
    <>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      {[...new Set(list.map((f) => f.group))].map((group) => (
        <section key={group} className="mb-8">
          <h2 className="text-xl font-bold">{GROUPS[group]?.[0] ?? group}</h2>
          <p className="mt-1 mb-3 max-w-3xl text-quiet">{GROUPS[group]?.[1]}</p>
          <ul className="grid grid-cols-3 gap-x-6 gap-y-4 max-[1000px]:grid-cols-2 max-[640px]:grid-cols-1">
            {list
              .filter((f) => f.group === group)
              .map((f) => (
                <Line key={f.key} figure={f} onSet={(v) => set(f.key, v)} />
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function Line({ figure, onSet }: { figure: ShopNumber; onSet: (value: number | null) => void }) {
  const say = useSay();
  const usual = say(`${figure.usual} ${figure.unit}`).trim();
  return (
    <li>
      <Measure label={figure.label} unit={figure.unit} value={figure.now} hint={figure.hint || undefined} onChange={onSet} />
      <div className="flex min-h-11 items-center justify-between gap-2 text-sm text-quiet">
        <span>{figure.own ? `Your own; ours is ${usual}.` : say(`Indicative: ${figure.source}.`)}</span>
        {figure.own ? <Button onClick={() => onSet(null)}>Use {usual}</Button> : null}
      </div>
    </li>
  );
}
