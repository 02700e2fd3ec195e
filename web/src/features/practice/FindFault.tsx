import { useState } from "react";
import { useSay } from "../../app/session";
import { Button } from "../../ui";
import { FaultDrawing } from "../faults/FaultDrawing";
import { Moves } from "./AttemptPage";
import type { Turn } from "./attempt";

/** What is seen and read; looks that cost minutes; the cause to be named. */
export function FindFault({ attempt, shown, act, busy }: Turn<"find_fault">) {
  const say = useSay();
  const [naming, setNaming] = useState("");
  const over = attempt.ended;
  return (
    <div className="grid gap-6 min-[900px]:grid-cols-[20rem_minmax(0,1fr)]">
      <section aria-label="The story">
        <div className="flex gap-3">
          <FaultDrawing of={shown.seen} />
          <div>
            <h2 className="text-xl font-bold">{shown.says}</h2>
            <p className="text-quiet">{shown.look}</p>
          </div>
        </div>
        <h3 className="mt-4 font-bold">What is known</h3>
        <ul className="list-disc pl-5">
          {shown.readings.map((r) => (
            <li key={r}>{say(r)}</li>
          ))}
        </ul>
        {attempt.moves.length && !over ? (
          <div className="mt-4">
            <Moves name="So far" moves={attempt.moves} />
          </div>
        ) : null}
      </section>
      <section aria-label="Causes">
        <p className="mb-2 text-quiet">Each look costs its minutes; a cure of the wrong thing half an hour.</p>
        <ul className="flex flex-col gap-2">
          {shown.causes.map((c) => (
            <li key={c.key} className={`rounded-lg border border-line p-3 ${c.wrong ? "opacity-60" : "bg-panel"}`}>
              <p className="font-semibold">
                {say(c.says)} {c.wrong ? <span className="text-stop">it is not that</span> : null}
              </p>
              <p className="text-sm">
                {say(c.ask)}{" "}
                {c.answer === null || c.answer === undefined ? null : <b className="text-accent">{c.answer ? "Yes." : "No."}</b>}
              </p>
              {over ? null : (
                <p className="mt-2 flex flex-wrap gap-2">
                  {c.answer === null || c.answer === undefined ? (
                    <Button
                      compact
                      disabled={busy}
                      label={`Look, ${c.minutes} min: ${c.ask}`}
                      onClick={() => act({ do: "look", cause: c.key })}
                    >
                      Look, {c.minutes} min
                    </Button>
                  ) : null}
                  {c.wrong ? null : naming === c.key ? (
                    <Button
                      compact
                      kind="main"
                      disabled={busy}
                      label={`Cure it: ${c.says}`}
                      onClick={() => act({ do: "name", cause: c.key })}
                    >
                      Cure it
                    </Button>
                  ) : (
                    <Button compact kind="quiet" label={`It is this: ${c.says}`} onClick={() => setNaming(c.key)}>
                      It is this
                    </Button>
                  )}
                </p>
              )}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
