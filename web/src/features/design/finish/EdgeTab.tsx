import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { EdgeAdvice } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Notice, Segments } from "../../../ui";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";
import { Columns, Shell } from "../Panel";
import { useFinish } from "./finish";

type Test = "paper" | "hair" | "rope" | "wood" | "brass" | "flex";
type Seen = "fine" | "rolled" | "chipped" | "dull";
const TESTS: { value: Test; label: string }[] = [
  { value: "paper", label: "paper" },
  { value: "hair", label: "hair" },
  { value: "rope", label: "rope" },
  { value: "wood", label: "wood" },
  { value: "brass", label: "brass rod" },
  { value: "flex", label: "flex" },
];
const SEEN: { value: Seen; label: string }[] = [
  { value: "fine", label: "it stood" },
  { value: "rolled", label: "rolled" },
  { value: "chipped", label: "chipped" },
  { value: "dull", label: "dull soon" },
];
const USES = ["slicing", "general", "chopping", "sword"] as const;
const MARK: Record<EdgeAdvice["verdict"], { mark: string; word: string; ink: string }> = {
  so: { mark: "■", word: "this is it", ink: "text-stop" },
  look: { mark: "◆", word: "look", ink: "text-care" },
  not: { mark: "○", word: "not this", ink: "text-quiet" },
};

/** The edge's bevel, and what follows from its test, in the order to check. */
export function EdgeTab() {
  const { sheet, plan, put, asked } = useFinish();
  const [test, setTest] = useState<Test>("brass");
  const [seen, setSeen] = useState<Seen>("fine");
  const [hrc, setHrc] = useState<number | null>(null);
  const [behind, setBehind] = useState<number | null>(null);
  const say = useSay();
  const unit = useUnit();
  const edge = sheet.data?.edge;
  const body = { document: asked.document as never, test: { test, seen, hrc: hrc === null ? [] : [hrc], behind } };
  const found = useQuery({
    queryKey: ["edge-test", JSON.stringify(body)],
    queryFn: () => ask(api.POST("/api/finish/edge-test", { body })),
    enabled: seen !== "fine",
    retry: false,
  });
  return (
    <Columns
      name="Edge and test"
      scrolls
      left={
        <Shell title="The edge">
          <div className="col-span-full">
            <Segments
              snug
              titled
              label="It is for"
              value={plan.use ?? "general"}
              options={USES.map((value) => ({ value, label: value }))}
              onChange={(use) => put({ use }, "use")}
            />
          </div>
          <MeasureRows
            of={plan}
            put={put}
            rows={[{ name: "angle", label: "Angle, both sides", unit: "deg", usual: 32, least: 8, most: 70 }]}
          />
          {edge ? (
            <p className="self-center text-sm text-quiet">
              {edge.angles[0]} to {edge.angles[1]}° for this use
            </p>
          ) : null}
          {edge ? (
            <dl className="col-span-full grid grid-cols-[1fr_auto] gap-x-3">
              <dt className="text-quiet">Bevel, a side</dt>
              <dd className="text-right font-mono">{length(edge.width, unit)}</dd>
              <dt className="text-quiet">Behind it</dt>
              <dd className="text-right font-mono">{length(edge.behind, unit)}</dd>
              <dt className="text-quiet">This use wants</dt>
              <dd className="text-right font-mono">
                {length(edge.wanted[0] ?? 0, unit)} to {length(edge.wanted[1] ?? 0, unit)}
              </dd>
            </dl>
          ) : (
            <p className="col-span-full text-sm text-quiet">
              The faces meet in the edge: nothing is left for a bevel of its own.
            </p>
          )}
          {edge ? <p className="col-span-full text-sm">{say(edge.stones)}</p> : null}
        </Shell>
      }
      right={<Notice tone="care">{edge ? say(edge.caution) : "Never near anyone; the work clamped, eyes covered."}</Notice>}
    >
      <h3 className="text-lg font-bold">The test</h3>
      <Segments label="Test" value={test} options={TESTS} onChange={setTest} />
      <p className="text-quiet">{say(sheet.data?.edge_tests[test] ?? "")}</p>
      <Segments titled label="What was seen" value={seen} options={SEEN} onChange={setSeen} />
      {seen === "fine" ? (
        <p>Then it is done: write it into the last look of the build.</p>
      ) : (
        <>
          <div className="grid max-w-md grid-cols-2 gap-3">
            <Measure label="Hardness read, mean" unit="HRC" optional value={hrc} onChange={setHrc} />
            <Measure label="Thick behind the edge" unit="mm" optional value={behind} onChange={setBehind} />
          </div>
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
      )}
    </Columns>
  );
}

function number(value: number, of: string, unit: Parameters<typeof length>[1]): string {
  if (of === "mm") return length(value, unit);
  return `${value.toFixed(of === "HRC" ? 1 : 0)}${of ? ` ${of}` : ""}`;
}
