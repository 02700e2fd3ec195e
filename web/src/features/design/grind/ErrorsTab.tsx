import type { Blade, Document, ProblemItem } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button } from "../../../ui";
import type { Change } from "../draft";
import { Measure } from "../fields/Measure";
import { sentence } from "../fields/problems";
import { anyError, ERRORS, type ErrorKind, mean, single } from "./errors";

/** Errors as numbers and sliders, the line moving under the hand. */
export function ErrorSliders({
  document,
  blade,
  problems,
  change,
}: {
  document: Document;
  blade: Blade;
  problems: ProblemItem[];
  change: (c: Change) => void;
}) {
  const unit = useUnit();
  const put = (name: ErrorKind["name"], value: number) =>
    change({ type: "blade", blade: { ...blade, errors: { ...blade.errors, [name]: value } }, what: `errors.${name}` });
  const says = (e: ErrorKind, v: number) => {
    const sign = v > 0 ? "+" : "";
    if (e.percent) return `${sign}${Math.round(v * 1000) / 10} %`;
    return e.unit === "deg" ? `${sign}${Math.round(v * 100) / 100}°` : `${sign}${length(v, unit)}`;
  };
  const forged = (document.blade?.forging?.share ?? 0) > 0;
  return (
    <>
      {ERRORS.map((e) => {
        const value = single(blade, e.name);
        return (
          <div key={e.name} className={value === null ? "col-span-full" : ""}>
            {value === null ? (
              <div className="flex items-center justify-between gap-2 text-sm text-quiet">
                <span>
                  {e.label}: given along the blade, <span className="font-mono text-ink">{says(e, mean(blade, e.name))}</span> in
                  the mean
                </span>
                <Button compact kind="quiet" onClick={() => put(e.name, Math.round(mean(blade, e.name) * 1e4) / 1e4)}>
                  Even it
                </Button>
              </div>
            ) : (
              <Measure
                label={e.label}
                unit={e.percent ? "%" : e.unit}
                value={e.percent ? Math.round(value * 1e4) / 100 : value}
                min={-1000}
                span={e.percent ? [-100 * e.reach, 100 * e.reach, 100 * e.step] : [-e.reach, e.reach, e.step]}
                hint={e.name === "flow" && !forged ? `${e.hint}; this one is cut from the bar` : e.hint}
                problem={problems.filter((p) => p.path === `blade.errors.${e.name}`).map(sentence)[0]}
                onChange={(v) => put(e.name, e.percent ? Math.round((v ?? 0) * 100) / 1e4 : (v ?? 0))}
              />
            )}
          </div>
        );
      })}
      <div className="col-span-full">
        <Button
          disabled={!anyError(blade)}
          onClick={() => change({ type: "blade", blade: { ...blade, errors: {} }, what: "errors.none" })}
        >
          All true again
        </Button>
      </div>
    </>
  );
}
