import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Factor } from "../../api/types";
import { Only, RoleNote } from "../../app/session";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { along, factorText, offerText, TICKS } from "./learned";

const KEY = ["learned"];

/** How the shop's work departs from our numbers, by its log: offered, never put in by itself. */
export function LearnedNumbers() {
  const found = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET("/api/builds/learned")) });
  if (found.error) return <Notice tone="stop">{whatWentWrong(found.error)}</Notice>;
  if (!found.data) return <p className="animate-pulse text-quiet">Reading the log…</p>;
  return (
    <>
      <p className="mb-3 max-w-3xl text-quiet">
        What the work took, and came out at, against what our numbers would have planned: each dot a build. Eight in ten of the
        next lie in the dark band; the pale one is what we held before anything was timed or measured. From three builds on a
        number is offered; nothing is put in by itself.
      </p>
      <RoleNote needs="smith" what="A smith takes numbers over." />
      <ul className="flex flex-col gap-2">
        {found.data.map((f) => (
          <Line key={f.kind} factor={f} />
        ))}
      </ul>
    </>
  );
}

/** Why nothing is put in for it. */
const ALONE: Record<string, string> = {
  minutes: "Fires, soaks and hands together: no one number alone stands for it.",
  heats: "Fire, tool and hand together: fewer or more heats follow from all three.",
  length: "Shorter is steel lost as scale: say it at the step, and the plan follows.",
  thickness: "Your habit at the grinder: nothing is planned with it.",
};

function Line({ factor }: { factor: Factor }) {
  const queries = useQueryClient();
  const toast = useToast();
  const again = () => {
    void queries.invalidateQueries({ queryKey: KEY });
    void queries.invalidateQueries({ queryKey: ["figures"] });
  };
  const put = (values: { key: string; value: number }[]) =>
    Promise.all(
      values.map((v) => ask(api.PUT("/api/figures/{key}", { params: { path: { key: v.key } }, body: { value: v.value } }))),
    );
  const use = () =>
    put(factor.figures.map((f) => ({ key: f.key, value: f.learned })))
      .then(() => {
        again();
        toast(`Planned so from now on: ${factor.says}.`, () => {
          void put(factor.figures.map((f) => ({ key: f.key, value: f.now }))).then(again, (e) => toast(whatWentWrong(e)));
        });
      })
      .catch((e) => toast(whatWentWrong(e)));
  const odd = factor.dots.filter((d) => d.odd || d.kept);
  return (
    <li className="rounded-xl border border-line bg-panel px-4 py-2" aria-label={factor.says}>
      <div className="grid items-center gap-x-6 gap-y-1 min-[900px]:grid-cols-[14rem_minmax(0,1fr)_19rem]">
        <div>
          <p className="font-bold">{factor.says}</p>
          <p className="text-sm text-quiet">{factorText(factor)}</p>
        </div>
        <Strip factor={factor} />
        <div className="text-sm">
          {factor.figures.map((f) => (
            <p key={f.key}>
              {f.label}: ours <b className="font-mono">{f.ours}</b>, yours{" "}
              <b className="font-mono">{Math.abs(f.now - f.ours) < 1e-9 ? "the same" : f.now}</b>
              {factor.n ? (
                <>
                  , learned <b className="font-mono">{f.learned}</b>
                </>
              ) : null}{" "}
              {f.unit}
            </p>
          ))}
          {factor.figures.length ? (
            factor.used && factor.n ? (
              <p className="text-quiet">You plan with it.</p>
            ) : factor.offered ? (
              <Only needs="smith">
                <Button compact onClick={() => void use()}>
                  {offerText(factor)}
                </Button>
              </Only>
            ) : null
          ) : (
            <p className="text-quiet">{ALONE[factor.quantity] ?? ALONE.minutes}</p>
          )}
        </div>
      </div>
      {odd.length ? (
        <ul className="mt-1 text-sm">
          {odd.map((d) => (
            <li key={d.build} className="flex min-h-11 items-center gap-3">
              <span>
                {d.title}: {d.ratio.toFixed(2)} times, far from all others{d.kept ? ", counted" : ", left out"}.
              </span>
              <Only needs="smith">
                <Keep factor={factor} build={d.build} kept={d.kept} onDone={again} />
              </Only>
            </li>
          ))}
        </ul>
      ) : null}
    </li>
  );
}

function Keep({ factor, build, kept, onDone }: { factor: Factor; build: string; kept: boolean; onDone: () => void }) {
  const toast = useToast();
  const set = () =>
    ask(
      api.POST("/api/builds/{build_id}/odd", {
        params: { path: { build_id: Number(build) } },
        body: { kind: factor.kind, kept: !kept },
      }),
    ).then(onDone, (e) => toast(whatWentWrong(e)));
  return (
    <Button compact kind="quiet" onClick={() => void set()}>
      {kept ? "Leave it out" : "Count it"}
    </Button>
  );
}

/** Ratios along a line on which twice and half lie equally far. */
function Strip({ factor }: { factor: Factor }) {
  const band = (low: number, high: number) => ({ left: `${along(low)}%`, width: `${along(high) - along(low)}%` });
  return (
    <div className="relative h-11" role="img" aria-label={factorText(factor)}>
      <span className="absolute top-2 h-4 rounded bg-line" style={band(factor.ours_low, factor.ours_high)} />
      {factor.n ? <span className="absolute top-2 h-4 rounded bg-accent/35" style={band(factor.low, factor.high)} /> : null}
      {factor.n ? <span className="absolute top-1 h-6 w-0.5 bg-accent" style={{ left: `${along(factor.factor)}%` }} /> : null}
      {factor.dots.map((d) => (
        <span
          key={d.build}
          title={`${d.title}: ${d.ratio.toFixed(2)} times`}
          className={`absolute top-2.5 h-3 w-3 -translate-x-1/2 rounded-full border-2 ${d.odd ? "border-care bg-panel" : "border-ink bg-ink"}`}
          style={{ left: `${along(d.ratio)}%` }}
        />
      ))}
      {TICKS.map((t) => (
        <span
          key={t}
          className={`absolute bottom-0 -translate-x-1/2 font-mono text-xs ${t === 1 ? "font-bold" : "text-quiet"}`}
          style={{ left: `${along(t)}%` }}
        >
          {t === 1 ? "1 ours" : t}
        </span>
      ))}
    </div>
  );
}
