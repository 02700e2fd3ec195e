import { api, ask } from "../../../api/client";
import type { Document, Hardening, HardeningSheet, PlanStep, ProblemItem } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useDegrees, useSay } from "../../../app/session";
import { degrees, span, temperature } from "../../../lib/units";
import { Choice, Notice, Segments } from "../../../ui";
import { QUENCH } from "../../steels/words";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { MeasureRows } from "../fields/MeasureRows";
import { FLOW } from "../flow";
import { Fold, Shell } from "../Panel";
import { ReadingsFields } from "./ReadingsFields";
import { StraightenFields } from "./StraightenFields";
import { TemperChart } from "./TemperChart";

type Props = { document: Document; problems: ProblemItem[]; change: (c: Change) => void };
export type PutHardening = (next: Partial<Hardening>, what: string) => void;

/** The hardening of the blade: what is wanted, step by step what to do, and what readings change. */
export function HardeningTab({ document, change }: Props) {
  const { recipe, blade, off, fire, hardening } = document;
  const answer = useWorkedOut<HardeningSheet>(
    "hardening",
    { document: { recipe, blade, off, fire, hardening } },
    (body, signal) => ask(api.POST("/api/heat/hardening", { body, signal })),
  );
  const put: PutHardening = (next, what) =>
    change({ type: "plan", plan: { hardening: { ...hardening, ...next } as Hardening }, what: `hardening.${what}` });
  const sheet = answer.data;
  const refused = answer.failure?.kind === "invalid" ? answer.failure.problems : [];
  return (
    <div className={`${FLOW.grid} grid-cols-[17rem_minmax(0,1fr)_23rem] max-[1100px]:grid-cols-[17rem_minmax(0,1fr)]`}>
      <div className={`no-print flex min-h-0 flex-col border-r border-line ${FLOW.left}`}>
        <Shell title="What is wanted">
          <Wanted said={hardening ?? {}} sheet={sheet} put={put} />
        </Shell>
      </div>
      <section
        aria-label="Step by step"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        className={`min-h-0 overflow-y-auto p-4 ${FLOW.middle}`}
      >
        {refused.length ? <Findings findings={[]} problems={refused} /> : null}
        {sheet && !refused.length ? (
          sheet.steps.length ? (
            <ol className="space-y-4">
              {sheet.steps.map((s, i) => (
                <OneStep key={s.key} step={s} number={i + 1} />
              ))}
            </ol>
          ) : (
            <p className="m-auto max-w-md text-center text-quiet">
              Nothing in this blade hardens: there is too little carbon in it. Put a high-carbon steel at the edge.
            </p>
          )
        ) : refused.length ? null : (
          <p className="animate-pulse text-quiet">Working out the hardening…</p>
        )}
      </section>
      <aside
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        aria-label="What it comes to, and what was read"
        className={`min-h-0 space-y-4 overflow-y-auto p-3 ${FLOW.right}`}
      >
        {sheet?.steps.length ? (
          <>
            <TemperChart sheet={sheet} wanted={hardening?.wanted ?? 60} tempered={hardening?.tempered ?? []} />
            <Parts sheet={sheet} />
            <StraightenFields said={hardening ?? {}} sheet={sheet} put={put} />
            <ReadingsFields said={hardening ?? {}} sheet={sheet} put={put} />
          </>
        ) : null}
      </aside>
    </div>
  );
}

function Wanted({ said, sheet, put }: { said: Partial<Hardening>; sheet: HardeningSheet | null; put: PutHardening }) {
  const heat = useDegrees();
  return (
    <>
      <MeasureRows<Hardening>
        of={said}
        put={put}
        rows={[
          { name: "wanted", label: "At the edge", unit: "HRC", span: [52, 66, 0.5], usual: 60, least: 40, most: 67 },
          {
            name: "celsius",
            label: "Harden from",
            unit: "C",
            placeholder: sheet ? degrees(sheet.heat, heat) : "",
            hint: said.celsius ? "yours" : sheet?.window ? `window ${span(sheet.window, heat)}` : "worked out",
          },
        ]}
      />
      <div className="col-span-full">
        <Segments<NonNullable<Hardening["school"]>>
          titled
          label="Heated"
          value={said.school ?? "kiln"}
          onChange={(school) => put({ school }, "school")}
          options={[
            { value: "kiln", label: "in a kiln" },
            { value: "magnet", label: "by magnet, colour" },
          ]}
        />
      </div>
      <div className="col-span-full">
        <Choice<NonNullable<Hardening["quench"]> | "auto">
          titled
          label="Quenched in"
          value={said.quench ?? "auto"}
          options={[
            { value: "auto", label: `${sheet ? QUENCH[sheet.quench] : "…"} (worked out)` },
            ...(Object.keys(QUENCH) as (keyof typeof QUENCH)[]).map((value) => ({ value, label: QUENCH[value] })),
          ]}
          onChange={(q) => put({ quench: q === "auto" ? null : q }, "quench")}
        />
      </div>
      <div className="col-span-full">
        <Segments<NonNullable<Hardening["bevels"]>>
          titled
          label="Bevels ground"
          value={said.bevels ?? "before"}
          onChange={(bevels) => put({ bevels }, "bevels")}
          options={[
            { value: "before", label: "mostly before" },
            { value: "after", label: "after" },
          ]}
        />
      </div>
      <div className="col-span-full">
        <Segments<NonNullable<Hardening["back"]>>
          titled
          label="The back"
          value={said.back ?? "even"}
          onChange={(back) => put({ back }, "back")}
          options={[
            { value: "even", label: "as hard as the edge" },
            { value: "soft", label: "soft" },
          ]}
        />
      </div>
      <div className="col-span-full">
        <Segments<NonNullable<Hardening["guarded"]>>
          titled
          label="In the kiln"
          value={said.guarded ?? "bare"}
          onChange={(guarded) => put({ guarded }, "guarded")}
          options={[
            { value: "bare", label: "bare" },
            { value: "paste", label: "pasted" },
            { value: "foil", label: "in foil" },
          ]}
        />
      </div>
      <Fold title="soak, edge, cold">
        <MeasureRows<Hardening>
          of={said}
          put={put}
          rows={[
            { name: "soak", label: "Soak at heat", unit: "min", placeholder: sheet?.soak.toFixed(0) },
            { name: "edge", label: "Edge left", unit: "mm", placeholder: sheet?.edge.toFixed(2) },
          ]}
        />
        <div className="col-span-full">
          <Segments<NonNullable<Hardening["cold"]>>
            titled
            label="Cold after the quench"
            value={said.cold ?? "auto"}
            onChange={(cold) => put({ cold }, "cold")}
            options={[
              { value: "auto", label: "if it asks for it" },
              { value: "yes", label: "yes" },
              { value: "no", label: "no" },
            ]}
          />
        </div>
      </Fold>
    </>
  );
}

function OneStep({ step, number }: { step: PlanStep; number: number }) {
  const say = useSay();
  return (
    <li className="grid grid-cols-[2rem_1fr] gap-x-2">
      <span
        aria-hidden
        className={`grid h-7 w-7 place-items-center rounded-full border font-bold ${step.done ? "border-accent bg-accent text-on-accent" : "border-edge"}`}
      >
        {step.done ? "✓" : number}
      </span>
      <div>
        <h3 className="font-bold">
          {step.title}
          {step.done ? <span className="font-normal text-quiet"> · readings entered</span> : null}
        </h3>
        <p>{say(step.do)}</p>
        <p className="text-sm text-quiet">{say(step.why)}</p>
        {step.caution ? (
          <div className="mt-1">
            <Notice tone="care">{say(step.caution)}</Notice>
          </div>
        ) : null}
        {(step.findings ?? []).length ? (
          <div className="mt-2">
            <Findings findings={step.findings ?? []} problems={[]} />
          </div>
        ) : null}
      </div>
    </li>
  );
}

function Parts({ sheet }: { sheet: HardeningSheet }) {
  const heat = useDegrees();
  return (
    <div>
      <table className="w-full text-left text-sm">
        <thead className="text-quiet">
          <tr className="border-b border-line">
            <th className="py-1 font-normal">Steel</th>
            <th className="pr-2 text-right font-normal">C, dissolved</th>
            <th className="pr-2 text-right font-normal">Ms, left</th>
            <th className="text-right font-normal">HRC</th>
          </tr>
        </thead>
        <tbody>
          {sheet.parts.map((p) => (
            <tr key={p.key} className="border-b border-line align-top last:border-0">
              <td className="py-1 pr-2">
                {p.name}
                <span className="block text-quiet">{p.edge ? "at the edge" : "not at the edge"}</span>
              </td>
              <td className="pr-2 text-right font-mono">
                {p.carbon.toFixed(2)}
                {p.in_solution != null ? <span className="block">{p.in_solution.toFixed(2)} %</span> : null}
              </td>
              <td className="pr-2 text-right font-mono whitespace-nowrap">
                {p.ms != null ? temperature(p.ms, heat) : "–"}
                {p.retained ? (
                  <span className="block">
                    {Math.round(100 * (p.retained[0] ?? 0))}–{Math.round(100 * (p.retained[1] ?? 0))} %
                  </span>
                ) : null}
              </td>
              <td className="text-right font-mono whitespace-nowrap">
                {p.hardens && p.tempered != null ? (
                  <>
                    {p.quenched?.toFixed(0)}
                    <span className="block font-semibold">→ {p.tempered.toFixed(1)}</span>
                  </>
                ) : p.hardens && p.quenched == null ? (
                  "not known"
                ) : (
                  "soft"
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-quiet">
        Dissolved: carbon in solution at the heat. Ms: where martensite begins. Left: austenite that stays. HRC: quenched, then
        tempered, within {sheet.sure.toFixed(1)}.
      </p>
    </div>
  );
}
