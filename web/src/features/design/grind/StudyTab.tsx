import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import type { CoreLine, Document, ProblemItem, Study } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { Change } from "../draft";
import { under } from "../fields/problems";
import { SchemaFields } from "../fields/SchemaFields";
import type { Field, Values } from "../fields/schema";
import type { StudyRun } from "./useStudy";

/** How large the smith's errors usually are. */
export function SizeFields({
  document,
  fields,
  problems,
  change,
}: {
  document: Document;
  fields: Field[];
  problems: ProblemItem[];
  change: (c: Change) => void;
}) {
  return (
    <>
      <p className="col-span-full -mt-1 text-sm text-quiet">
        How far off your work usually is: two blades in three are nearer than this. Ours are a guess; put in your own.
      </p>
      <Learned document={document} change={change} />
      <SchemaFields
        fields={fields}
        values={(document.sizes ?? {}) as Values}
        problems={under(problems, "sizes")}
        onChange={(sizes, what) => change({ type: "plan", plan: { sizes: sizes as Document["sizes"] }, what: `sizes.${what}` })}
      />
    </>
  );
}

/** What the shop's own blades say of them: offered from three read ones on. */
function Learned({ document, change }: { document: Document; change: (c: Change) => void }) {
  const toast = useToast();
  const found = useQuery({ queryKey: ["learned-sizes"], queryFn: () => ask(api.GET("/api/builds/learned-sizes")) }).data;
  const n = found?.[0]?.n ?? 0;
  if (!found || !n) return null;
  const mine = Object.fromEntries(found.map((s) => [s.key, Number(s.learned.toPrecision(2))]));
  const now = (document.sizes ?? {}) as Record<string, number>;
  const used = Object.entries(mine).every(([key, value]) => now[key] === value);
  const blades = `${n} ${n === 1 ? "blade" : "blades"}`;
  return (
    <div className="col-span-full">
      <p className="text-sm">
        {blades} of your book {n === 1 ? "was" : "were"} read
        {found[0]?.offered ? "." : ": from three on they are offered here."}
      </p>
      {found[0]?.offered && !used ? (
        <Button
          compact
          onClick={() => {
            change({ type: "plan", plan: { sizes: { ...document.sizes, ...mine } as Document["sizes"] }, what: "sizes" });
            toast(`Your usual errors are now those of ${blades}.`);
          }}
        >
          Use what your {blades} say
        </Button>
      ) : null}
      {used ? <p className="text-sm text-quiet">These are what your blades say.</p> : null}
    </div>
  );
}

/** Start, progress and stop. */
export function StudyStart({
  run,
  stale,
  onStart,
  onCancel,
}: {
  run: StudyRun;
  stale: boolean;
  onStart: () => void;
  onCancel: () => void;
}) {
  if (run.state === "running") {
    return (
      <div className="flex items-center gap-3">
        <progress className="h-3 flex-1 accent-accent" value={run.done} max={1} aria-label="Blades worked out" />
        <span className="w-14 text-right font-mono text-sm">{Math.round(run.done * 100)} %</span>
        <Button onClick={onCancel}>Stop</Button>
      </div>
    );
  }
  return (
    <div className="flex flex-col gap-2">
      {run.why ? <Notice tone="stop">{run.why}</Notice> : null}
      {run.study && stale ? <p className="text-sm text-care">The design has changed since: work it out again.</p> : null}
      <Button kind="main" onClick={onStart}>
        {run.study ? "Work out 10 000 blades again" : "Work out 10 000 blades"}
      </Button>
    </div>
  );
}

/** The chance of a first-grade blade, what keeps others from it, and which error matters most. */
export function StudySays({ study, band, fields }: { study: Study; band: CoreLine["band"] | null; fields: Field[] }) {
  const unit = useUnit();
  const chance = Math.round(study.first * 100);
  const reasons: [string, number][] = [
    ["left and right too far apart", study.reasons.apart],
    ["line too low", study.reasons.low],
    ["line too high", study.reasons.high],
    ["no core at the edge", study.reasons.none],
  ];
  const main = study.matters.apart;
  const most = Math.max(0.01, ...main.map((m) => m[1]));
  return (
    <section className="flex flex-col gap-3" aria-label="What the study says">
      <p>
        <span className="font-mono text-3xl font-bold">{chance} %</span>{" "}
        <span>
          of your blades would be of first grade
          <span className="text-quiet"> (± {Math.max(1, Math.round(study.first_error * 196))} %)</span>
        </span>
      </p>
      <div>
        <h3 className="text-sm font-semibold text-quiet">What spoils the others (several may at once)</h3>
        <ul>
          {reasons
            .filter((r) => r[1] > 0.0005)
            .sort((a, b) => b[1] - a[1])
            .map(([name, share]) => (
              <li key={name} className="flex justify-between gap-2 border-b border-line py-0.5">
                <span>{name}</span>
                <span className="font-mono">{share < 0.01 ? "< 1" : Math.round(share * 100)} %</span>
              </li>
            ))}
        </ul>
      </div>
      <div>
        <h3 className="text-sm font-semibold text-quiet">What parts left from right</h3>
        <ul className="flex flex-col gap-1 pt-1">
          {main
            .filter((m) => m[1] >= 0.005)
            .map(([name, share]) => (
              <li key={name} className="grid grid-cols-[7.5rem_1fr_2.6rem] items-center gap-2">
                <span className="leading-tight">{fields.find((f) => f.name === name)?.label ?? name}</span>
                <span className="h-3 rounded-sm bg-line">
                  <span className="block h-3 rounded-sm bg-accent" style={{ width: `${(share / most) * 100}%` }} />
                </span>
                <span className="text-right font-mono text-sm">{Math.round(share * 100)} %</span>
              </li>
            ))}
        </ul>
        <p className="mt-1 text-sm text-quiet">
          Share of the spread that would go if this error alone were nil (with what it does together with others).
        </p>
      </div>
      {band ? (
        <p className="text-sm text-quiet">
          First grade: the line between {length(band.low, unit)} and {length(band.high, unit)} on both sides, left and right
          within {length(band.difference, unit)}.
        </p>
      ) : null}
    </section>
  );
}
