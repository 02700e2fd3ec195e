import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Document, HardeningSheet, KilnCheck, KilnProgram, KilnRun } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { Only, useDegrees, useSay } from "../../../app/session";
import { degrees, temperature } from "../../../lib/units";
import { Button, Notice, Segments } from "../../../ui";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { FLOW } from "../flow";
import { KilnChart } from "./KilnChart";
import { ProgramEditor } from "./ProgramEditor";
import { TesterButton } from "./TesterButton";
import { useRun, useRuns } from "./useKiln";

const EMPTY: KilnProgram = { name: "Temper", segments: [{ celsius: 205, rate: null, minutes: 60, through: false }] };

/** The kiln: a program, checked against what is in it; the run beside its plan; the record. */
export function KilnTab({ id, document, change }: { id: number; document: Document; change: (c: Change) => void }) {
  const { recipe, blade, off, fire, hardening } = document;
  const now = { recipe, blade, off, fire, hardening };
  const plan = useWorkedOut<HardeningSheet>("hardening", { document: now }, (body, signal) =>
    ask(api.POST("/api/heat/hardening", { body, signal })),
  );
  const [program, setProgram] = useState<KilnProgram | null>(null);
  const [speed, setSpeed] = useState(60);
  const [problem, setProblem] = useState("");
  const queries = useQueryClient();
  const runs = useRuns(id);
  const [picked, setPicked] = useState<number | null>(null);
  const latest = runs.data?.[0];
  // a run that is on comes first, and stays in sight when it ends
  const atWork = latest && (latest.state === "running" || latest.state === "held") ? latest.id : null;
  useEffect(() => {
    if (atWork !== null) setPicked((now) => now ?? atWork);
  }, [atWork]);
  const shown = picked ?? atWork;
  const { run, problem: lost, act, setSpeed: speedUp } = useRun(shown, id);
  const steps = plan.data?.steps.filter((s) => s.program?.length) ?? [];
  const fromPlan = (key: string): KilnProgram | null => {
    const s = steps.find((x) => x.key === key);
    return s ? { name: s.title, segments: (s.program ?? []).map((g) => ({ ...g })) } : null;
  };
  const shownProgram = program ?? fromPlan("heat") ?? EMPTY;
  const steels = plan.data?.parts.map((p) => p.key) ?? [];
  const check = useWorkedOut<KilnCheck>("kiln-check", { program: shownProgram, steels }, (body, signal) =>
    ask(api.POST("/api/kiln/check", { body, signal })),
  );
  const start = () => {
    setProblem("");
    ask(api.POST("/api/kiln/runs", { body: { design: id, program: shownProgram, document: now, speed } }))
      .then((made) => {
        setPicked(made.id);
        return queries.invalidateQueries({ queryKey: ["kiln-runs", id] });
      })
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  if (!plan.data && !plan.failure) return <p className="m-auto animate-pulse text-quiet">Working out the programs…</p>;
  const on = run?.state === "running" || run?.state === "held";
  const found = check.data?.findings ?? [];
  const stops = check.data?.findings.some((f) => f.grade === "stop") || check.failure?.kind === "invalid";
  return (
    <div className={`${FLOW.grid} grid-cols-[24rem_minmax(0,1fr)_19rem] max-[1100px]:grid-cols-[24rem_minmax(0,1fr)]`}>
      <section
        aria-label="Program"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        className={`min-h-0 overflow-y-auto border-r border-line p-3 ${FLOW.left}`}
      >
        <ProgramEditor
          program={shownProgram}
          steps={steps.map((s) => ({ key: s.key, title: s.title }))}
          onPlan={(key) => setProgram(fromPlan(key))}
          onChange={setProgram}
          problems={check.failure?.kind === "invalid" ? check.failure.problems : []}
        />
        {run && found.length ? (
          <div className="mt-3">
            <Findings findings={found} problems={[]} />
          </div>
        ) : null}
      </section>
      <div className="flex min-h-0 min-w-0 flex-col gap-2 p-3 max-[1100px]:h-96">
        <KilnChart run={run} corners={run ? run.corners : (check.data?.corners ?? [])} />
        {run ? (
          <Now run={run} />
        ) : (
          <p className="text-quiet">{check.data ? `Planned: ${hours(check.data.hours * 60)}, if the kiln keeps up.` : ""}</p>
        )}
      </div>
      <aside
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        aria-label="The run"
        className={`min-h-0 space-y-3 overflow-y-auto p-3 ${FLOW.right}`}
      >
        {problem || lost ? <Notice tone="stop">{problem || lost}</Notice> : null}
        {run ? (
          <RunControls run={run} act={act} onSpeed={speedUp} onClose={() => setPicked(null)} />
        ) : (
          <>
            <SpeedChoice speed={speed} onChange={setSpeed} />
            <Only needs="smith">
              <Button kind="main" onClick={start} disabled={!!stops}>
                Start the kiln
              </Button>
            </Only>
            {found.length ? <Findings findings={found} problems={[]} /> : null}
            <p className="text-sm text-quiet">
              A simulated kiln stands in for yours: it overshoots, lags, and an element can be made to fail. Hot kilns burn and
              start fires: stay near, and follow your local rules.
            </p>
          </>
        )}
        {on ? null : <TesterButton document={now} hardening={hardening ?? {}} change={change} />}
        <Records runs={runs.data ?? []} shown={shown} onShow={setPicked} />
      </aside>
    </div>
  );
}

export function hours(minutes: number): string {
  const h = Math.floor(minutes / 60);
  const m = Math.round(minutes - 60 * h);
  return h ? `${h} h ${m} min` : `${m} min`;
}

function SpeedChoice({ speed, onChange }: { speed: number; onChange: (s: number) => void }) {
  return (
    <div>
      <Segments<string>
        titled
        label="How fast the clock runs"
        value={String(speed)}
        onChange={(s) => onChange(Number(s))}
        options={[
          { value: "1", label: "true" },
          { value: "60", label: "60 ×" },
          { value: "600", label: "600 ×" },
        ]}
      />
    </div>
  );
}

function Now({ run }: { run: KilnRun }) {
  const heat = useDegrees();
  const [seconds = 0, wanted = 0, chamber = 0, , power = 0, segment = 0, left = 0] = run.reading;
  const goal = run.program.segments[segment];
  return (
    <div role="status">
      <dl className="grid grid-cols-5 gap-3 text-center max-[1200px]:grid-cols-3">
        {(
          [
            ["Clock", hours(seconds / 60)],
            ["Set point", temperature(wanted, heat)],
            ["Chamber", temperature(chamber, heat)],
            ["On the blade", temperature(run.blade, heat)],
            ["Power", `${Math.round(100 * power)} %`],
          ] as const
        ).map(([k, v]) => (
          <div key={k}>
            <dt className="text-sm text-quiet">{k}</dt>
            <dd className="font-mono text-lg">{v}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-quiet">
        {run.state === "done"
          ? "Done: power off."
          : run.state === "stopped"
            ? "Stopped: power off."
            : `Segment ${segment + 1} of ${run.program.segments.length}: to ${goal ? degrees(goal.celsius, heat) : ""} °${heat}${goal?.minutes ? `, then ${left.toFixed(0)} min to hold${goal.through ? " once it is hot through" : ""}` : ""}.${run.state === "held" ? " Held by hand." : ""}`}
      </p>
    </div>
  );
}

function RunControls({
  run,
  act,
  onSpeed,
  onClose,
}: {
  run: KilnRun;
  act: ReturnType<typeof useRun>["act"];
  onSpeed: (s: number) => void;
  onClose: () => void;
}) {
  const say = useSay();
  const on = run.state === "running" || run.state === "held";
  const alarms = run.events.filter((e) => e.kind === "alarm" && run.raised.includes(e.alarm ?? ""));
  return (
    <div className="space-y-3">
      <h2 className="text-lg font-bold">{run.name}</h2>
      {alarms.map((e) => (
        <div key={`${e.alarm}${e.seconds}`} role="alert">
          <Notice tone="stop">
            <strong>Alarm.</strong> {say(e.what)}
          </Notice>
        </div>
      ))}
      {on ? (
        <>
          {/* whoever stands beside it may switch it off */}
          <Button kind="main" onClick={() => act("stop")}>
            Stop: power off
          </Button>
          <Only needs="smith">
            <SpeedChoice speed={run.speed} onChange={onSpeed} />
            <div className="grid grid-cols-2 gap-2">
              {run.state === "held" ? (
                <Button onClick={() => act("resume")}>Go on</Button>
              ) : (
                <Button onClick={() => act("hold")}>Hold here</Button>
              )}
              <Button onClick={() => act("skip")}>Next segment</Button>
              <Button onClick={() => act(run.door ? "shut" : "open")}>{run.door ? "Shut the door" : "Open the door"}</Button>
              <Button onClick={() => act(run.failed ? "mend" : "fail")}>
                {run.failed ? "Mend the element" : "Fail an element"}
              </Button>
            </div>
          </Only>
        </>
      ) : (
        <div className="flex flex-wrap gap-2">
          <a
            href={`/api/kiln/runs/${run.id}/record.csv`}
            download="kiln-record.csv"
            className="inline-flex min-h-11 items-center rounded-lg border border-edge bg-well px-4 hover:bg-panel"
          >
            Save the record
          </a>
          <Button onClick={onClose}>A new run</Button>
        </div>
      )}
      <details>
        <summary className="min-h-8 cursor-pointer text-quiet">What happened ({run.events.length})</summary>
        <ol className="mt-1 space-y-1 text-sm">
          {run.events.map((e, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: events have no other name
            <li key={i}>
              <span className="font-mono">{hours(e.seconds / 60)}</span> {say(e.what)}
            </li>
          ))}
        </ol>
      </details>
    </div>
  );
}

const STATE: Record<KilnRun["state"], string> = { running: "on", held: "held", done: "done", stopped: "stopped" };

function Records({
  runs,
  shown,
  onShow,
}: {
  runs: { id: number; name: string; started: string; state: KilnRun["state"]; minutes: number; alarms: number }[];
  shown: number | null;
  onShow: (id: number) => void;
}) {
  const [day, setDay] = useState("");
  useEffect(() => setDay(new Date().toDateString()), []);
  if (!runs.length) return null;
  return (
    <section aria-label="Records">
      <h2 className="mb-1 font-bold">Records of this blade</h2>
      <ul className="space-y-1">
        {runs.map((r) => {
          const at = new Date(r.started);
          return (
            <li key={r.id}>
              <button
                type="button"
                aria-pressed={r.id === shown}
                onClick={() => onShow(r.id)}
                className={`min-h-11 w-full rounded-lg border px-3 text-left ${r.id === shown ? "border-2 border-ink" : "border-line hover:border-edge"}`}
              >
                {r.name}
                <span className="block text-sm text-quiet">
                  {at.toDateString() === day ? at.toTimeString().slice(0, 5) : at.toLocaleDateString()}, {hours(r.minutes)},{" "}
                  {STATE[r.state]}
                  {r.alarms ? `, ${r.alarms} ${r.alarms === 1 ? "alarm" : "alarms"}` : ""}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
