import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { BarId, Document, StepId, SumItem } from "../../api/types";
import { useCalm, useWorkedOut } from "../../api/worked";
import { useSay, useUnit } from "../../app/session";
import { useSettled } from "../../lib/rest";
import { length, lengthText, percent } from "../../lib/units";
import { Button } from "../../ui";
import { Measure } from "./fields/Measure";
import { Fold } from "./Panel";

/** Sums done on the back of an envelope, beside the step that needs them: any quantity can be the unknown. */
export function Sums({
  document,
  bar,
  step,
  onUse,
}: {
  document: Document;
  bar: BarId;
  step: StepId | null;
  onUse: (field: string, value: number) => void;
}) {
  const calm = useCalm(document);
  const body = { document: { recipe: calm.recipe, off: calm.off }, bar, step };
  const found = useWorkedOut<SumItem[]>("sums", body, (b, signal) => ask(api.POST("/api/predict/sums", { body: b, signal })));
  const sums = found.data ?? [];
  if (!sums.length) return null;
  return (
    <Fold title={`Work it out: ${sums.map((s) => s.title.toLowerCase()).join(", ")}`}>
      <div className="col-span-full flex flex-col gap-3">
        {sums.map((sum) => (
          <OneSum key={`${sum.key}-${step}`} sum={sum} onUse={onUse} />
        ))}
      </div>
    </Fold>
  );
}

export function OneSum({ sum, onUse }: { sum: SumItem; onUse: (field: string, value: number) => void }) {
  const unit = useUnit();
  const [unknown, setUnknown] = useState(sum.unknown);
  const [own, setOwn] = useState<Record<string, number | null>>({});
  const values = Object.fromEntries(sum.quantities.map((q) => [q.key, q.key in own ? (own[q.key] ?? null) : q.value]));
  const missing = sum.quantities.filter((q) => q.key !== unknown && values[q.key] === null);
  const body = { key: sum.key, unknown, values };
  const key = JSON.stringify(body);
  const asked = useSettled(key, 200);
  const answer = useQuery({
    queryKey: ["sum", asked],
    queryFn: () => ask(api.POST("/api/predict/solve", { body: JSON.parse(asked) })),
    enabled: missing.length === 0,
    retry: false,
    placeholderData: (old) => old,
  });
  const wanted = sum.quantities.find((q) => q.key === unknown);
  const solved = missing.length === 0 && !answer.error && answer.data ? answer.data : null;
  const say = (value: number, of: string) =>
    of === "mm" ? length(value, unit) : of === "share" ? percent(value) : `${Number(value.toPrecision(5))}${of ? ` ${of}` : ""}`;
  const inOwn = useSay();
  return (
    <section aria-label={sum.title} className="rounded-lg border border-line p-2">
      <h3 className="font-semibold">{sum.title}</h3>
      <p className="font-mono text-sm">{sum.formula}</p>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {sum.quantities.map((q) =>
          q.key === unknown ? (
            <div key={q.key}>
              <span className="mb-0.5 block text-sm text-quiet">{q.label}</span>
              <output className="flex min-h-11 items-center rounded-lg border-2 border-ink bg-well px-3 font-mono font-bold">
                {solved ? (q.unit === "mm" ? length(solved.value, unit) : say(solved.value, q.unit)) : "?"}
              </output>
            </div>
          ) : (
            <div key={q.key} className="flex items-end gap-1">
              <div className="min-w-0 flex-1">
                <Measure
                  label={q.label}
                  unit={q.unit}
                  optional
                  value={values[q.key] ?? null}
                  onChange={(v) => setOwn({ ...own, [q.key]: v })}
                />
              </div>
              {q.given ? null : (
                <Button
                  kind="quiet"
                  compact
                  label={`Find this instead: ${q.label}`}
                  onClick={() => {
                    // what was worked out stays as a value of its own
                    if (solved) setOwn({ ...own, [unknown]: Number(solved.value.toPrecision(6)) });
                    setUnknown(q.key);
                  }}
                >
                  ?
                </Button>
              )}
            </div>
          ),
        )}
      </div>
      {missing.length ? (
        <p className="mt-1 text-sm text-quiet">Still wanted: {missing.map((q) => q.label.toLowerCase()).join(", ")}.</p>
      ) : null}
      {answer.error ? (
        <p role="alert" className="mt-1 text-sm text-stop">
          {whatWentWrong(answer.error)}
        </p>
      ) : null}
      {solved?.lines.length ? (
        <dl className="mt-1 text-sm">
          {solved.lines.map((line) => (
            <div key={line.label} className="flex justify-between gap-2">
              <dt className="text-quiet">{line.label}</dt>
              <dd className="shrink-0 font-mono">{say(line.value, line.unit ?? "")}</dd>
            </div>
          ))}
        </dl>
      ) : null}
      {sum.note ? <p className="mt-1 text-sm leading-tight text-quiet">{inOwn(sum.note)}</p> : null}
      {solved && wanted?.fills ? (
        <div className="mt-1">
          <Button
            compact
            onClick={() =>
              onUse(wanted.fills, wanted.whole ? Math.floor(solved.value + 1e-9) : Number(solved.value.toPrecision(6)))
            }
          >
            Use{" "}
            {wanted.unit === "mm"
              ? lengthText(solved.value, unit)
              : say(wanted.whole ? Math.floor(solved.value + 1e-9) : solved.value, "")}{" "}
            in the step
          </Button>
        </div>
      ) : null}
      {sum.key === "layer_count" ? <Ways wanted={unknown === "count" ? null : (values.count ?? null)} /> : null}
    </section>
  );
}

/** The other way round: a wanted count of layers, and the ways to get there. */
function Ways({ wanted }: { wanted: number | null }) {
  const [count, setCount] = useState<number | null>(wanted ?? 300);
  const found = useQuery({
    queryKey: ["layer-ways", count],
    queryFn: () => ask(api.POST("/api/predict/layer-ways", { body: { wanted: count ?? 300, like_meets_like: true } })),
    enabled: count !== null && count >= 2,
    placeholderData: (old) => old,
  });
  return (
    <div className="mt-2 border-t border-line pt-2">
      <Measure label="Layers wanted" unit="" whole min={2} value={count} onChange={setCount} />
      <ul className="mt-1 text-sm">
        {(found.data ?? []).slice(0, 6).map((w) => (
          <li key={`${w.layers}-${w.pieces}`}>
            <span className="font-mono">{w.layers}</span> in the pile
            {w.pieces.length ? `, cut in ${w.pieces.join(", then ")}` : ""}: <span className="font-mono">{w.count}</span>
          </li>
        ))}
      </ul>
      <p className="text-sm text-quiet">Outer layers alike, becoming one at each weld.</p>
    </div>
  );
}
