import { useEffect, useState } from "react";
import { Button, Segments } from "../../ui";
import { Measure } from "../design/fields/Measure";
import type { Turn } from "./attempt";

/** A face; four ways it may have been made; then its numbers, with one's own face under it. */
export function ReadFace({ attempt, shown, act, busy }: Turn<"read_face">) {
  const [values, setValues] = useState<Record<string, number>>({});
  const said = JSON.stringify(shown.numbers.map((n) => [n.key, n.value]));
  useEffect(() => setValues(Object.fromEntries(JSON.parse(said) as [string, number][])), [said]);
  const at = `/api/practice/${attempt.id}`;
  return (
    <div className="grid gap-6 min-[900px]:grid-cols-[minmax(0,1fr)_22rem]">
      <section aria-label="The faces" className="flex flex-col gap-3">
        <figure>
          <img className="w-full rounded-lg bg-plate" src={`${at}/target.png`} alt="The face that is to be read" />
          <figcaption className="text-sm text-quiet">The face, 90 mm of it</figcaption>
        </figure>
        {shown.family ? (
          <figure>
            <img className="w-full rounded-lg bg-plate" src={`${at}/guess.png?after=${attempt.done}`} alt="Your own face" />
            <figcaption className="text-sm text-quiet">
              Yours
              {shown.like === null || shown.like === undefined
                ? ""
                : `: likeness ${shown.like.toFixed(2)}, ${shown.tries} ${shown.tries === 1 ? "try" : "tries"}`}
            </figcaption>
          </figure>
        ) : null}
      </section>
      <section aria-label="How it was made" className="flex flex-col gap-3">
        {shown.family ? (
          <>
            <h2 className="text-lg font-bold">{shown.choices.find((c) => c.key === shown.family)?.title}</h2>
            {shown.numbers.map((n) =>
              n.key === "hand" ? (
                <Segments
                  key={n.key}
                  titled
                  label="Twisted"
                  value={String(values.hand ?? n.value)}
                  options={[
                    { value: "-1", label: "left" },
                    { value: "1", label: "right" },
                  ]}
                  onChange={(v) => setValues({ ...values, hand: Number(v) })}
                />
              ) : (
                <Measure
                  key={n.key}
                  label={n.label}
                  unit={n.unit}
                  slider
                  span={[n.low, n.high, n.step]}
                  value={values[n.key] ?? n.value}
                  onChange={(v) => setValues({ ...values, [n.key]: Math.min(n.high, Math.max(n.low, v ?? n.value)) })}
                />
              ),
            )}
            {attempt.ended ? null : (
              <div className="flex gap-2">
                <Button kind="main" disabled={busy} onClick={() => act({ do: "try", values })}>
                  Forge it so
                </Button>
                <Button disabled={busy || !shown.tries} onClick={() => act({ do: "done" })}>
                  Like enough
                </Button>
              </div>
            )}
          </>
        ) : (
          <>
            <h2 className="text-lg font-bold">What made it?</h2>
            <ul className="flex flex-col gap-2">
              {shown.choices.map((c) => (
                <li key={c.key}>
                  <button
                    type="button"
                    disabled={busy || c.wrong}
                    onClick={() => act({ do: "name", family: c.key })}
                    className="min-h-14 w-full rounded-lg border border-edge bg-well px-4 text-left text-lg disabled:opacity-50"
                  >
                    {c.title} {c.wrong ? <span className="text-sm text-stop">it is not</span> : null}
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
        {attempt.ended ? (
          <ul className="mt-2 text-sm">
            {shown.choices.map((c) => (
              <li key={c.key}>
                <b>{c.title}:</b> {c.tells}
              </li>
            ))}
          </ul>
        ) : null}
      </section>
    </div>
  );
}
