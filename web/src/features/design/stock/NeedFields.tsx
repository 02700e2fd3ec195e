import type { StockPlan } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Segments, Toggle } from "../../../ui";
import { Measure } from "../fields/Measure";
import { useTable } from "../table";
import { RiskChart } from "./RiskChart";
import { useStock } from "./stock";
import { oneIn } from "./words";

const ONE_IN_20 = 0.05;

/** What is added to the blade, each where it can be changed; the reserve as a share, or by the chance of coming up short. */
export function NeedFields() {
  const { document } = useTable();
  const { sheet, plan, put, risk } = useStock();
  const unit = useUnit();
  const told = sheet.failure?.kind === "invalid" ? null : sheet.data;
  const typed = typeof plan.need === "number";
  const by = typeof plan.short === "number" ? "chance" : "share";
  const usual = told?.usual ?? {};
  return (
    <>
      {typed || !document.blade ? (
        <div className="col-span-full">
          <Measure
            label="The finished bar must be"
            unit="mm"
            value={plan.need}
            optional={!!document.blade}
            hint={document.blade ? "Leave it empty, and the blade says it." : "There is no blade yet that says it."}
            onChange={(need) => put({ need }, "need")}
          />
        </div>
      ) : (
        <Made label="The blade and its tang take" value={told ? length(told.need.occupied, unit) : "…"} />
      )}
      {typed || !document.blade ? null : (
        <>
          <Measure
            label="Stub to hold it by"
            unit="mm"
            value={plan.hold}
            optional
            placeholder={placeholder(usual.hold, (v) => length(v, unit).replace(/ .*/, ""))}
            onChange={(hold) => put({ hold }, "hold")}
          />
          <Measure
            label="Bad ends of a weld"
            unit="share"
            value={plan.ends}
            optional
            placeholder={placeholder(usual.ends, (v) => String(Math.round(100 * v)))}
            hint={told ? `of its thickness: ${length(told.need.ends, unit)} of the bar` : undefined}
            onChange={(ends) => put({ ends }, "ends")}
          />
          <div className="col-span-full">
            <Segments
              snug
              titled
              label="Reserve"
              value={by}
              options={[
                { value: "share", label: "a share" },
                { value: "chance", label: "by the risk" },
              ]}
              onChange={(next) => put(chosen(next, plan, told?.reserve), "reserve")}
            />
          </div>
          {by === "share" ? (
            <Measure
              label="Of all the rest"
              unit="share"
              value={plan.reserve ?? usual.reserve ?? 0.1}
              span={[0, 1, 0.01]}
              onChange={(reserve) => put({ reserve }, "reserve")}
            />
          ) : (
            <Measure
              label="Comes up short, at most"
              unit="share"
              value={plan.short}
              span={[0.01, 0.5, 0.01]}
              onChange={(short) => put({ short: Math.min(0.99, Math.max(0.001, short ?? ONE_IN_20)) }, "short")}
            />
          )}
          <div className="self-center">
            <span className="block font-mono font-bold">{told ? length(told.need.reserve, unit) : "…"}</span>
            <span className="text-sm">{risk.data ? `comes up short ${oneIn(risk.data.now)}` : ""}</span>
          </div>
          <div className="col-span-full">
            <RiskChart />
          </div>
          <div className="col-span-full">
            <Toggle
              label="Bars that are alike are forged as one"
              checked={!plan.apart}
              onChange={(on) => put({ apart: !on }, "apart")}
            />
          </div>
          <p className="col-span-full text-sm text-quiet">
            What is left empty is as the shop has it: see the numbers of your shop, under Steels.
          </p>
        </>
      )}
    </>
  );
}

function Made({ label, value }: { label: string; value: string }) {
  return (
    <p className="col-span-full flex items-baseline justify-between">
      <span className="text-sm text-quiet">{label}</span>
      <span className="font-mono font-bold">{value}</span>
    </p>
  );
}

function placeholder(value: number | undefined, say: (v: number) => string): string | undefined {
  return value === undefined ? undefined : say(value);
}

function chosen(next: "share" | "chance", plan: StockPlan, reserve: number | undefined): Partial<StockPlan> {
  if (next === "chance") return { short: plan.short ?? ONE_IN_20 };
  return { short: null, reserve: plan.reserve ?? (reserve === undefined ? null : Math.round(100 * reserve) / 100) };
}
