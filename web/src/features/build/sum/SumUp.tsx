import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Build } from "../../../api/types";
import { Only, useGrams, useSay, useUnits } from "../../../app/session";
import { percent } from "../../../lib/units";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { hoursText } from "../../design/stock/time";
import { Picture } from "../../design/views/Picture";
import { useFaultName } from "../../faults/useFaultName";
import { differs } from "../log/words";
import { PrintButtons } from "../PrintButtons";
import { nameOf, textOf } from "../quantity";
import { useBuild } from "../useBuild";
import { GradeCard } from "./GradeCard";

const BOX = { width: 560, height: 150 };

/** This blade as it was made: its picture, yield, hours, where it differed from the plan. */
export function SumUp() {
  const fault = useFaultName();
  const { info, told, of, known } = useBuild();
  const grams = useGrams();
  const say = useSay();
  const units = useUnits();
  const made = useQuery({
    queryKey: ["build-made", info.id, info.plan, known.records.length],
    queryFn: () => ask(api.GET("/api/builds/{build_id}/made", { params: { path: { build_id: info.id } } })),
    enabled: known.link === "here",
    staleTime: Number.POSITIVE_INFINITY,
  });
  const s = info.summary;
  const other = told.operations.filter((o) => differs(o, of(o.id)));
  const share = s.blade && s.put_in ? s.blade / s.put_in : null;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto grid max-w-6xl gap-6 min-[900px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-label="This blade">
          <h1 className="mb-2 text-2xl font-bold">{info.title}</h1>
          <p className="mb-3 text-quiet">
            {[
              info.who ? `for ${info.who}` : "",
              info.due ? `promised for ${day(info.due)}` : "",
              info.design_name ? `after “${info.design_name}”` : "",
            ]
              .filter(Boolean)
              .join(" · ")}
          </p>
          <div className="rounded-xl bg-plate p-3 text-plate-quiet">
            {made.data ? (
              <>
                <Face
                  document={made.data.made}
                  lane="sum-made"
                  label={info.state === "done" ? "as it was made" : "as it is being made"}
                />
                {told.changed?.length || s.amended ? (
                  <Face document={made.data.planned} lane="sum-planned" label="as planned" />
                ) : null}
              </>
            ) : (
              <p className="p-6 text-center">
                {known.link === "here" ? "drawing…" : "Its picture is drawn when the server is back."}
              </p>
            )}
          </div>
          <h2 className="mt-5 mb-1 text-lg font-bold">Where it differed</h2>
          {other.length ? (
            <ul className="divide-y divide-line">
              {other.map((o) => {
                const state = of(o.id);
                const words = [
                  ...o.targets
                    .filter((t) => t.off)
                    .map((t) => `${nameOf(t)} ${textOf(t.quantity, t.measured ?? 0, units)}: ${say(t.off ?? "")}`),
                  ...state.faults.map((f) => (f.kind === "fault" ? `went wrong: ${f.text || fault(f.fault ?? "")}` : "")),
                  ...(state.standing === "skipped" ? [`skipped: ${state.why}`] : []),
                  ...(state.times > 1 ? [`done ${state.times} times`] : []),
                ];
                return (
                  <li key={o.id} className="py-2">
                    <span className="font-semibold">{say(o.title)}</span>
                    {words.map((w) => (
                      <span key={w} className="block">
                        {w}
                      </span>
                    ))}
                  </li>
                );
              })}
            </ul>
          ) : (
            <p className="text-quiet">Nowhere so far by more than its tolerance.</p>
          )}
          {told.amended.length ? (
            <>
              <h2 className="mt-5 mb-1 text-lg font-bold">Changed on the way</h2>
              <ul>
                {told.amended.map((a) => (
                  <li key={a.id}>{say(a.why)}</li>
                ))}
              </ul>
            </>
          ) : null}
        </section>
        <section aria-label="Figures">
          <State />
          <GradeCard />
          <dl className="mt-4 grid grid-cols-[1fr_auto] gap-x-4 gap-y-2">
            <dt>Operations done</dt>
            <dd className="text-right font-mono">
              {s.done} of {s.total}
              {s.skipped ? `, ${s.skipped} skipped` : ""}
            </dd>
            <dt>Hands on it, of what was timed</dt>
            <dd className="text-right font-mono">{s.took ? hoursText(s.took) : "not said"}</dd>
            {s.took ? (
              <>
                <dt>Planned for the same</dt>
                <dd className="text-right font-mono">{hoursText(s.planned_of_said)}</dd>
              </>
            ) : null}
            <dt>Planned for all of it</dt>
            <dd className="text-right font-mono">{hoursText(s.planned)}</dd>
            <dt>Steel put in</dt>
            <dd className="text-right font-mono">{s.put_in ? grams(s.put_in) : "not weighed"}</dd>
            <dt>Blade</dt>
            <dd className="text-right font-mono">{s.blade ? grams(s.blade) : "not weighed"}</dd>
            <dt>Yield</dt>
            <dd className="text-right font-mono">{share === null ? "weigh both" : percent(share)}</dd>
            <dt>Went wrong</dt>
            <dd className="text-right font-mono">{s.faults.length}</dd>
          </dl>
          <p className="mt-4">
            <Link className="underline" to="/book?show=learned">
              What the book has learned of your own times
            </Link>
          </p>
          <h2 className="mt-6 mb-2 text-lg font-bold">On paper, and as a file</h2>
          <PrintButtons
            title={info.title}
            lines={info.who ? [`for ${info.who}`] : []}
            operations={told.operations.filter((o) => !o.gone)}
            document={async () =>
              (await ask(api.GET("/api/builds/{build_id}/made", { params: { path: { build_id: info.id } } }))).made
            }
            build={info.id}
          />
          <p className="mt-2">
            <a className="underline" href={`/api/builds/${info.id}/file.zip`} download>
              All of it as a file, with its photos
            </a>
          </p>
        </section>
      </div>
    </main>
  );
}

const day = (iso: string) =>
  new Date(`${iso}T00:00`).toLocaleDateString(undefined, { day: "numeric", month: "long", year: "numeric" });

function Face({
  document,
  lane,
  label,
}: {
  document: { recipe: object; blade?: object | null; off?: string[] };
  lane: string;
  label: string;
}) {
  const { recipe, blade, off } = document;
  if (!blade) return null;
  return (
    <figure className="mb-2">
      <Picture
        path="/api/predict/blade.png"
        lane={lane}
        label={`Right face, ${label}`}
        box={BOX}
        body={{ document: { recipe, blade, off }, side: "right", margin: 2, book: true }}
      />
      <figcaption className="text-sm">{label}</figcaption>
    </figure>
  );
}

const NEXT: Record<Build["state"], { to: Build["state"]; say: string; main?: boolean }[]> = {
  planned: [{ to: "given up", say: "Give it up" }],
  "in work": [
    { to: "done", say: "It is done", main: true },
    { to: "resting", say: "Let it rest" },
    { to: "given up", say: "Give it up" },
  ],
  resting: [
    { to: "in work", say: "Take it up again", main: true },
    { to: "given up", say: "Give it up" },
  ],
  done: [{ to: "in work", say: "Not done yet" }],
  "given up": [{ to: "in work", say: "Take it up again" }],
};

/** Where the build stands, and where it may go from there. */
function State() {
  const { info, keeper } = useBuild();
  const toast = useToast();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const path = { build_id: info.id };
  const done = async (asking: Promise<unknown>, said: string, undo?: () => void) => {
    setBusy(true);
    await asking
      .then(async () => {
        await keeper.sync();
        void queries.invalidateQueries({ queryKey: ["book"] });
        toast(said, undo);
      })
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => setBusy(false));
  };
  const set = (state: Build["state"], undo?: () => void) =>
    done(ask(api.PATCH("/api/builds/{build_id}", { params: { path }, body: { state } })), `The build is ${state}.`, undo);
  return (
    <div className="rounded-xl border border-line bg-panel p-4">
      <p className="mb-2 text-lg">
        This build is <b>{info.state}</b>.
      </p>
      <Only needs="smith">
        <div className="flex flex-wrap gap-2">
          {NEXT[info.state].map((n) => (
            <Button
              key={n.to}
              kind={n.main ? "main" : "plain"}
              disabled={busy}
              onClick={() => void set(n.to, () => void set(info.state))}
            >
              {n.say}
            </Button>
          ))}
          {info.state === "given up" && info.laid_aside ? (
            <Button
              disabled={busy}
              onClick={() =>
                void done(
                  ask(api.POST("/api/builds/{build_id}/put-back", { params: { path } })),
                  "Its steel is back in the rack.",
                )
              }
            >
              Put its steel back
            </Button>
          ) : null}
        </div>
      </Only>
    </div>
  );
}
