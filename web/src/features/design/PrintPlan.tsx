import { api, ask } from "../../api/client";
import type { Document, PlanBar } from "../../api/types";
import { useCalm, useWorkedOut } from "../../api/worked";
import { useSay, useUnit } from "../../app/session";
import { barAt, numberOf, stepsOf } from "./bars";
import { barSize, GRADES } from "./words";

/** Every step of every bar, in the order of the work: only on paper, where one panel of the screen would be no plan. */
export function PrintPlan({ document, name }: { document: Document; name: string }) {
  const say = useSay();
  const unit = useUnit();
  const calm = useCalm(document);
  const { recipe, off } = calm;
  const plan = useWorkedOut<PlanBar[]>("plan", { document: { recipe, off } }, (body, signal) =>
    ask(api.POST("/api/predict/plan", { body, signal })),
  ).data;
  if (!plan) return null;
  return (
    <section aria-label="The whole plan" className="print-only">
      <h2 className="text-xl font-bold">{name}: the plan</h2>
      {plan.map((bar) => (
        <section key={bar.bar}>
          <h3 className="mt-3 font-bold">
            {numberOf(calm, bar.bar) ? `Bar ${numberOf(calm, bar.bar)}: ` : plan.length > 1 ? "The whole: " : ""}
            {bar.label}
          </h3>
          <ol>
            {bar.rows.map((r) => (
              <li key={r.step ?? "start"} className="break-inside-avoid border-t border-line py-1">
                <p>
                  <b>
                    {r.step === null ? "Start" : stepsOf(barAt(calm, bar.bar)).findIndex((s) => s.id === r.step) + 1}.{" "}
                    {say(r.title)}
                  </b>{" "}
                  <span className="font-mono text-sm">{barSize(r as never, unit)}</span>
                </p>
                <p>{say(r.instruction)}</p>
                {r.findings.map((f) => (
                  <p key={f.code} className="text-sm">
                    {GRADES[f.grade].mark} {say(`${f.what} ${f.do}`)}
                  </p>
                ))}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </section>
  );
}
