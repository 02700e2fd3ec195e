import { useState } from "react";
import { useUnit } from "../../app/session";
import { length } from "../../lib/units";
import { Button } from "../../ui";
import { Measure } from "../design/fields/Measure";
import type { Turn } from "./attempt";

/** One sum at a time; those that were worked below, with what they come to. */
export function SumsByHand({ shown, act, busy }: Turn<"sums">) {
  const unit = useUnit();
  const [value, setValue] = useState<number | null>(null);
  const text = (v: number, of: string) => (of === "mm" ? length(v, unit) : `${Number(v.toPrecision(4))}${of ? ` ${of}` : ""}`);
  const now = shown.now;
  return (
    <div className="grid gap-6 min-[900px]:grid-cols-2">
      {now ? (
        <form
          aria-label="The sum"
          className="rounded-xl border border-line bg-panel p-4"
          onSubmit={(e) => {
            e.preventDefault();
            if (value !== null) act({ do: "answer", value });
          }}
        >
          <p className="text-sm text-quiet">
            {shown.before.length + 1} of {shown.rounds}
          </p>
          <h2 className="text-xl font-bold">{now.title}</h2>
          <dl className="my-3 grid grid-cols-[1fr_auto] gap-x-4 gap-y-1">
            {now.known.map((k) => (
              <Row key={k.label} label={k.label} text={text(k.value, k.unit)} />
            ))}
          </dl>
          <Measure label={now.label} unit={now.unit} optional min={-1e6} value={value} onChange={setValue} />
          <div className="mt-3">
            <Button kind="main" type="submit" disabled={busy}>
              That is it
            </Button>
          </div>
          <details className="mt-3">
            <summary className="min-h-11 cursor-pointer content-center text-quiet">The formula, if you must</summary>
            <p className="font-mono">{now.formula}</p>
          </details>
        </form>
      ) : (
        <p>All of them are worked.</p>
      )}
      <ol aria-label="Worked" className="flex flex-col gap-2">
        {shown.before.map((b) => (
          <li key={b.title} className="rounded-lg border border-line p-3">
            <p className="font-semibold">
              <span aria-hidden className={b.points === 1 ? "text-accent" : "text-stop"}>
                {b.points === 1 ? "✓" : b.points ? "◆" : "■"}
              </span>{" "}
              {b.title}: {b.points === 1 ? "right" : b.points ? "nearly" : "not right"}
            </p>
            <p className="text-sm text-quiet">
              {b.known.map((k) => `${k.label.toLowerCase()} ${text(k.value, k.unit)}`).join(", ")}
            </p>
            <p className="font-mono text-sm">{b.formula}</p>
            <p>
              {b.label}: <b className="font-mono">{text(b.value ?? 0, b.unit)}</b>, you said{" "}
              <span className="font-mono">{text(b.said ?? 0, b.unit)}</span>
            </p>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Row({ label, text }: { label: string; text: string }) {
  return (
    <>
      <dt className="text-quiet">{label}</dt>
      <dd className="text-right font-mono">{text}</dd>
    </>
  );
}
