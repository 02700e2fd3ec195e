import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Document, JobFile, Parameter, Variation } from "../../api/types";
import { JobBar } from "../../app/JobBar";
import { useUnit } from "../../app/session";
import { useJob } from "../../app/useJob";
import { length, percent } from "../../lib/units";
import { Button, Choice, Modal, Notice } from "../../ui";
import { Measure } from "./fields/Measure";

/** What if: one or two numbers run through a range; a sheet of pictures; a click takes one over. */
export function WhatIf({
  document,
  open,
  onClose,
  onTake,
}: {
  document: Document;
  open: boolean;
  onClose: () => void;
  onTake: (document: Document, said: string) => void;
}) {
  return (
    <Modal open={open} onClose={onClose} title="What if" huge>
      {open ? <Body document={document} onTake={onTake} /> : null}
    </Modal>
  );
}

function Body({ document, onTake }: { document: Document; onTake: (document: Document, said: string) => void }) {
  const unit = useUnit();
  const [base] = useState(document);
  const parameters = useQuery({
    queryKey: ["parameters", JSON.stringify(base)],
    queryFn: () => ask(api.POST("/api/predict/parameters", { body: { document: base } })),
    retry: false,
  });
  const list = parameters.data ?? [];
  const [axes, setAxes] = useState<Variation[]>([]);
  useEffect(() => {
    // the numbers that make a pattern come before those that only make a size
    const first =
      ["turns", "pitch", "drag", "angle", "thickness"]
        .map((key) => list.find((p) => p.path.includes(".steps[") && p.path.endsWith(`.${key}`) && p.value !== 0))
        .find(Boolean) ??
      list.find((p) => p.value !== 0) ??
      list.at(-1);
    if (!axes.length && first) setAxes([around(first, 12)]);
  }, [list, axes.length]);
  const working = useJob("what_if");
  const { job, busy } = working;
  const sheetAxes = job?.about.kind === "what_if" ? job.about.axes : [];
  const say = (value: number, path: string) => {
    const of = list.find((p) => p.path === path)?.unit ?? "";
    return of === "mm"
      ? length(value, unit)
      : of === "share"
        ? percent(value)
        : `${Number(value.toPrecision(4))}${of === "deg" ? "°" : ""}`;
  };
  const take = (values: number[]) => {
    const next = structuredClone(base);
    const said: string[] = [];
    for (const [i, axis] of sheetAxes.entries()) {
      const value = values[i];
      if (value === undefined) continue;
      setAt(next, axis.path, value);
      said.push(`${list.find((p) => p.path === axis.path)?.label ?? "the number"} ${say(value, axis.path)}`);
    }
    onTake(next, said.join(", "));
  };
  const pictures = axes.reduce((n, a) => n * a.count, 1);
  if (parameters.error) return <Notice tone="stop">{whatWentWrong(parameters.error)}</Notice>;
  return (
    <div className="flex max-h-[80vh] flex-col gap-3">
      <p className="text-quiet">
        Choose one or two numbers and how far they go. Every picture is the blade as it would be; click the one you want.
      </p>
      {axes.map((axis, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: the first and the second
          key={i}
          className="grid grid-cols-[minmax(0,1fr)_8rem_8rem_7rem_auto] items-end gap-2 max-[800px]:grid-cols-2"
        >
          <div className="min-w-0">
            <span className="mb-0.5 block text-sm text-quiet">{i ? "and, row by row" : "Vary"}</span>
            <Choice
              label={i ? "Second number" : "First number"}
              value={axis.path}
              options={list.map((p) => ({ value: p.path, label: p.label, hint: `now ${say(p.value, p.path)}` }))}
              onChange={(path) => {
                const found = list.find((p) => p.path === path);
                if (found) setAxes(axes.map((a, k) => (k === i ? around(found, a.count) : a)));
              }}
            />
          </div>
          {(["low", "high"] as const).map((end) => (
            <Measure
              key={end}
              label={end === "low" ? "From" : "To"}
              unit={list.find((p) => p.path === axis.path)?.unit ?? ""}
              min={-20000}
              value={axis[end]}
              onChange={(v) => setAxes(axes.map((a, k) => (k === i ? { ...a, [end]: v ?? 0 } : a)))}
            />
          ))}
          <Measure
            label="Pictures"
            unit=""
            whole
            min={2}
            max={24}
            value={axis.count}
            onChange={(v) => setAxes(axes.map((a, k) => (k === i ? { ...a, count: Math.min(24, Math.max(2, v ?? 2)) } : a)))}
          />
          {i ? (
            <Button kind="quiet" onClick={() => setAxes(axes.slice(0, 1))}>
              Leave out
            </Button>
          ) : axes.length < 2 && list.length > 1 ? (
            <Button
              onClick={() => {
                const other =
                  list.find((p) => p.path !== axis.path && p.path.endsWith("thickness")) ??
                  list.find((p) => p.path !== axis.path);
                if (other) setAxes([{ ...axis, count: Math.min(axis.count, 8) }, around(other, 6)]);
              }}
            >
              And another
            </Button>
          ) : (
            <span />
          )}
        </div>
      ))}
      <div className="flex items-center gap-3">
        {busy ? null : (
          <Button kind="main" onClick={() => working.order({ kind: "what_if", document: base, axes })} disabled={!axes.length}>
            Draw {pictures} pictures
          </Button>
        )}
        <JobBar working={working} what="sheet" />
      </div>
      {job ? (
        <ol
          className="grid min-h-0 gap-2 overflow-y-auto"
          style={{ gridTemplateColumns: `repeat(${columnsOf(job.files, sheetAxes.length)}, minmax(0, 1fr))` }}
          aria-label="The sheet"
        >
          {job.files.map((cell) => (
            <li key={cell.index}>
              <button
                type="button"
                disabled={!!cell.problem}
                onClick={() => take(cell.values)}
                className="flex h-full w-full flex-col items-center gap-1 rounded-lg border-2 border-transparent bg-plate p-1 text-xs text-plate-ink enabled:hover:border-accent"
              >
                {cell.problem ? (
                  <span className="grid min-h-14 flex-1 place-items-center text-xs text-plate-quiet">{cell.problem}</span>
                ) : (
                  <img
                    src={`/api/jobs/${job.id}/files/${cell.index}`}
                    alt=""
                    width={320}
                    height={100}
                    loading="lazy"
                    className="aspect-[3.2] w-full object-contain"
                  />
                )}
                <span className="font-mono">{cell.values.map((v, i) => say(v, sheetAxes[i]?.path ?? "")).join(" · ")}</span>
              </button>
            </li>
          ))}
        </ol>
      ) : null}
    </div>
  );
}

/** From a third less to a third more than now. */
function around(p: Parameter, count: number): Variation {
  const span = Math.abs(p.value) * 0.35 || 1;
  const tidy = (v: number) => (p.whole ? Math.round(v) : Number(v.toPrecision(3)));
  const low = p.value > 0 ? Math.max(p.whole ? 1 : 0.001, p.value - span) : p.value - span;
  return { path: p.path, low: tidy(low), high: tidy(Math.max(p.value + span, low + (p.whole ? 2 : 0))), count };
}

function columnsOf(cells: JobFile[], axes: number): number {
  const first = new Set(cells.map((c) => c.values[0])).size;
  return axes === 2 ? Math.min(8, Math.max(2, first)) : 4;
}

/** Sets the number that a path names: `recipe.bar.steps[3].turns`; `[*]`: in every bar there. */
export function setAt(document: Document, path: string, value: number): void {
  const inside = (here: unknown, [key, ...rest]: string[]): void => {
    if (key === undefined) return;
    if (key === "*") {
      for (const one of here as unknown[]) inside(one, rest);
      return;
    }
    const owner = here as Record<string, unknown>;
    if (rest.length) {
      // what stands at its default is left out of the document
      if (owner[key] === undefined || owner[key] === null) owner[key] = {};
      inside(owner[key], rest);
    } else owner[key] = value;
  };
  inside(document, path.split(/\.|\[|\]\.?/).filter(Boolean));
}
