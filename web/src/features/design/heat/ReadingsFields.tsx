import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../../api/client";
import type { Hardening, HardeningSheet, TemperedReading } from "../../../api/types";
import { useDegrees, useSay } from "../../../app/session";
import { temperature } from "../../../lib/units";
import { Button, Choice, Segments } from "../../../ui";
import { buildAddress } from "../../build/where";
import { Measure } from "../fields/Measure";
import { useTable } from "../table";
import type { PutHardening } from "./HardeningTab";

const COLOURS: [number, string][] = [
  [205, "faint straw"],
  [215, "light straw"],
  [225, "straw"],
  [235, "dark straw"],
  [245, "yellow-brown"],
  [255, "brown"],
  [265, "red-brown"],
  [275, "purple"],
  [285, "violet"],
  [295, "dark blue"],
  [310, "mid blue"],
  [320, "light blue"],
];

/** Rockwell readings as typed: "61 62.5 61" or with commas; null when something in it is none. */
export function readHrc(text: string): number[] | null {
  const parts = text.split(/[\s;]+|,(?=\s)/).filter(Boolean);
  const values = parts.map((p) => Number(p.replace(",", ".")));
  return values.length <= 20 && values.every((v) => v >= 10 && v <= 70) ? values : null;
}

/** What the shop sheet of a build of this design was told, and the button that reckons with it here. */
function FromTheSheet({ said, put }: { said: Partial<Hardening>; put: PutHardening }) {
  const { design } = useTable();
  const heat = useDegrees();
  const read = useQuery({
    queryKey: ["read-at-the-sheet", design.id],
    queryFn: () => ask(api.GET("/api/builds/read/{design_id}", { params: { path: { design_id: design.id } } })),
  }).data;
  if (!read) return null;
  const hardened = said.hardened ?? {};
  const there = JSON.stringify([hardened.hrc ?? [], (said.tempered ?? []).map((t) => [t.celsius, t.hours, t.hrc ?? []])]);
  const told = JSON.stringify([read.hrc, read.tempered.map((t) => [t.celsius, t.hours, t.hrc ?? []])]);
  return (
    <div className="border-l-4 border-note bg-note-wash px-3 py-1.5">
      <p>
        At the sheet of{" "}
        <Link className="underline" to={buildAddress(read.build)}>
          {read.title}
        </Link>
        : {read.hrc.length ? `${read.hrc.join(", ")} HRC after the quench` : "nothing read after the quench"}
        {read.tempered.map(
          (t) => `; tempered at ${temperature(t.celsius, heat)}${t.hrc?.length ? `, then ${t.hrc.join(", ")} HRC` : ""}`,
        )}
        .
      </p>
      {there === told ? (
        <p className="text-sm text-quiet">The plan here reckons with these readings.</p>
      ) : (
        <Button
          compact
          onClick={() => put({ hardened: { ...hardened, hrc: read.hrc }, tempered: read.tempered }, "hardened.from-the-sheet")}
        >
          Use these readings here
        </Button>
      )}
    </div>
  );
}

/** What was found: after the quench, and after each temper. It changes what the next step says. */
export function ReadingsFields({ said, sheet, put }: { said: Partial<Hardening>; sheet: HardeningSheet; put: PutHardening }) {
  const say = useSay();
  const heat = useDegrees();
  const hardened = said.hardened ?? {};
  const tempered = said.tempered ?? [];
  const setTempered = (next: TemperedReading[], what: string) => put({ tempered: next }, `tempered.${what}`);
  const learnt = [
    Math.abs(sheet.shift) > 0.05
      ? `Readings put the edge ${Math.abs(sheet.shift).toFixed(1)} HRC ${sheet.shift < 0 ? "softer" : "harder"} than calculated.`
      : "",
    Math.abs(sheet.oven) > 0.5
      ? say(`The oven is ${Math.abs(sheet.oven).toFixed(0)} C° ${sheet.oven > 0 ? "hotter" : "colder"} than it says.`)
      : "",
  ].filter(Boolean);
  return (
    <section aria-label="What was read" className="space-y-3">
      <h3 className="text-lg font-bold">What you read</h3>
      <FromTheSheet said={said} put={put} />
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <HrcField
          label="After the quench"
          values={hardened.hrc ?? []}
          onChange={(hrc) => put({ hardened: { ...hardened, hrc } }, "hardened.hrc")}
        />
      </div>
      <div>
        <Segments<"none" | "skates" | "slips" | "bites">
          titled
          label="A file on the edge"
          snug
          value={hardened.file ?? "none"}
          onChange={(file) => put({ hardened: { ...hardened, file: file === "none" ? null : file } }, "hardened.file")}
          options={[
            { value: "none", label: "not tried" },
            { value: "skates", label: "skates" },
            { value: "slips", label: "slips" },
            { value: "bites", label: "bites" },
          ]}
        />
      </div>
      {tempered.map((t, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: tempers have no other name
        <div key={i} className="grid grid-cols-2 gap-x-3 gap-y-2 rounded-lg border border-line p-2">
          <Measure
            label={`Temper ${i + 1}, oven`}
            unit="C"
            value={t.celsius}
            onChange={(v) =>
              setTempered(
                tempered.map((o, k) => (k === i ? { ...o, celsius: Math.min(700, Math.max(100, v ?? 200)) } : o)),
                `${i}.celsius`,
              )
            }
          />
          <Measure
            label="Hours in all"
            unit="h"
            value={t.hours ?? 2}
            onChange={(v) =>
              setTempered(
                tempered.map((o, k) => (k === i ? { ...o, hours: Math.min(48, Math.max(0.1, v ?? 2)) } : o)),
                `${i}.hours`,
              )
            }
          />
          <HrcField
            label="Read then"
            values={t.hrc ?? []}
            onChange={(hrc) =>
              setTempered(
                tempered.map((o, k) => (k === i ? { ...o, hrc } : o)),
                `${i}.hrc`,
              )
            }
          />
          <div>
            <span className="mb-0.5 block text-sm text-quiet">Run colour</span>
            <Choice
              label={`Run colour of temper ${i + 1}`}
              value={String(t.colour ?? "")}
              options={[
                { value: "", label: "not looked at" },
                ...COLOURS.map(([c, word]) => ({ value: String(c), label: `${word}, ${temperature(c, heat)}`, short: word })),
              ]}
              onChange={(c) =>
                setTempered(
                  tempered.map((o, k) => (k === i ? { ...o, colour: c ? Number(c) : null } : o)),
                  `${i}.colour`,
                )
              }
            />
          </div>
          <div className="col-span-full">
            <Button
              kind="quiet"
              onClick={() =>
                setTempered(
                  tempered.filter((_, k) => k !== i),
                  "out",
                )
              }
            >
              Take this temper out
            </Button>
          </div>
        </div>
      ))}
      {tempered.length < 12 ? (
        <Button
          onClick={() =>
            setTempered(
              [
                ...tempered,
                { celsius: sheet.set_oven ?? tempered.at(-1)?.celsius ?? 200, hours: tempered.length ? 1 : 2, hrc: [] },
              ],
              "in",
            )
          }
        >
          A temper was done
        </Button>
      ) : null}
      {learnt.length ? <p className="text-quiet">{learnt.join(" ")} The temper above goes by it.</p> : null}
    </section>
  );
}

function HrcField({ label, values, onChange }: { label: string; values: number[]; onChange: (values: number[]) => void }) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && readHrc(typed) === null;
  const take = () => {
    if (typed === null) return;
    const found = readHrc(typed);
    if (!found) return;
    setTyped(null);
    if (found.join() !== values.join()) onChange(found);
  };
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-quiet">
        {label}, HRC
      </label>
      <input
        id={id}
        className={`min-h-11 w-full rounded-lg border bg-well px-3 font-mono ${wrong ? "border-stop" : "border-edge"}`}
        value={typed ?? values.join(" ")}
        placeholder="61 62 60.5"
        aria-invalid={wrong}
        autoComplete="off"
        onChange={(e) => setTyped(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === "Enter") take();
          if (e.key === "Escape") setTyped(null);
        }}
      />
      {wrong ? (
        <p role="alert" className="text-sm text-stop">
          Readings from 10 to 70, a space between
        </p>
      ) : null}
    </div>
  );
}
