import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { FinishSheet } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { percent } from "../../../lib/units";
import { Button, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { BATHS_KEY } from "../../baths/key";
import { Findings } from "../Findings";
import { useTable } from "../table";
import { First } from "./First";
import { useFinish } from "./finish";
import { useCountdown } from "./useCountdown";
import { micro, minutes } from "./words";

/** Cautions first, then cycle by cycle with a clock each; what it is covered with, the tank, the waste. */
export function Cycles({ sheet }: { sheet: FinishSheet }) {
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
