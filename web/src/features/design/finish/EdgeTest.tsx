import { useQuery } from "@tanstack/react-query";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Document, EdgeAdvice } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Notice, Segments } from "../../../ui";
import { Measure } from "../fields/Measure";
import { SEEN, type Seen, TESTS, type Test } from "./words";

/** A test of the edge as it is being told. */
export type Told = { test: Test; seen: Seen; times: number; hrc: number | null; behind: number | null };
export const UNTESTED: Told = { test: "brass", seen: "fine", times: 1, hrc: null, behind: null };
const COUNTED: readonly Test[] = ["rope", "wood", "brass"];

/** As the core reads it. */
export const testOf = (told: Told) => ({ ...told, hrc: told.hrc === null ? [] : [told.hrc] });

/** What was done, and what was seen. */
export function EdgeTestFields({
  told,
  set,
  says,
}: {
  told: Told;
  set: (told: Told) => void;
  /** How each test is done. */
  says?: Record<string, string>;
}) {
  const say = useSay();
  return (
    <>
      <Segments label="Test" value={told.test} options={TESTS} onChange={(test) => set({ ...told, test, times: 1 })} />
      {says ? <p className="text-quiet">{say(says[told.test] ?? "")}</p> : null}
      <Segments titled label="What was seen" value={told.seen} options={SEEN} onChange={(seen) => set({ ...told, seen })} />
      <div className="grid max-w-xl grid-cols-2 gap-3">
        {COUNTED.includes(told.test) ? (
          <Measure
            label="How often"
            unit="times"
            whole
            value={told.times}
            onChange={(v) => set({ ...told, times: Math.min(100_000, Math.max(1, v ?? 1)) })}
          />
        ) : null}
        {told.seen === "fine" ? null : (
          <>
            <Measure
              label="Hardness read, mean"
              unit="HRC"
              optional
              min={10}
              max={70}
              value={told.hrc}
              onChange={(hrc) => set({ ...told, hrc })}
            />
            <Measure
              label="Thick behind the edge"
              unit="mm"
              optional
              value={told.behind}
              onChange={(behind) => set({ ...told, behind })}
            />
          </>
        )}
      </div>
    </>
  );
}

const MARK: Record<EdgeAdvice["verdict"], { mark: string; word: string; ink: string }> = {
  so: { mark: "■", word: "this is it", ink: "text-stop" },
  look: { mark: "◆", word: "look", ink: "text-care" },
  not: { mark: "○", word: "not this", ink: "text-quiet" },
};

/** What follows from a test that did not stand, in the order to check, each with the number of this blade that decides. */
export function WhatFollows({ document, told }: { document: Partial<Document> | undefined; told: Told }) {
  const say = useSay();
  const unit = useUnit();
  const body = { document: document as never, test: testOf(told) };
  const found = useQuery({
    queryKey: ["edge-test", JSON.stringify(body)],
    queryFn: () => ask(api.POST("/api/finish/edge-test", { body })),
    enabled: told.seen !== "fine" && !!document,
    retry: false,
  });
  if (told.seen === "fine") return null;
  return (
    <>
      {found.error ? <Notice tone="stop">{whatWentWrong(found.error)}</Notice> : null}
      <ol aria-label="What follows, in the order to check" className="flex flex-col gap-2">
        {(found.data ?? []).map((a, i) => (
          <li key={a.key} className="rounded-lg border border-line p-3">
            <p className={`text-sm font-semibold ${MARK[a.verdict].ink}`}>
              <span aria-hidden>{MARK[a.verdict].mark}</span> {i + 1}. {MARK[a.verdict].word}
            </p>
            <p className="font-semibold">{say(a.says)}</p>
            {a.limit !== null && a.limit !== undefined ? (
              <p className="font-mono text-sm">
                {a.value === null || a.value === undefined ? "not read" : number(a.value, a.unit, unit)} against{" "}
                {number(a.limit, a.unit, unit)}
              </p>
            ) : null}
            <p>{say(a.do)}</p>
            <p className="text-sm text-quiet">It costs: {say(a.costs)}.</p>
          </li>
        ))}
      </ol>
    </>
  );
}

function number(value: number, of: string, unit: Parameters<typeof length>[1]): string {
  if (of === "mm") return length(value, unit);
  return `${value.toFixed(of === "HRC" ? 1 : 0)}${of ? ` ${of}` : ""}`;
}
