import type { Blade, Document } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button } from "../../../ui";
import { Dial } from "../looks/Dial";
import type { Change } from "../draft";
import { anyError, ERRORS, type ErrorKind, mean, single } from "./errors";

/** Errors as sliders, the line moving under the hand. */
export function ErrorSliders({ document, blade, change }: { document: Document; blade: Blade; change: (c: Change) => void }) {
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
          <div key={e.name} className="col-span-full">
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
              <>
                <Dial
                  label={e.label}
                  value={value}
                  min={-e.reach}
                  max={e.reach}
                  step={e.step}
                  says={says(e, value)}
                  onChange={(v) => put(e.name, Math.round(v * 1e4) / 1e4)}
                />
                <p className="-mt-0.5 text-[0.8rem] leading-tight text-quiet">
                  {e.hint}
                  {e.name === "flow" && !forged ? "; this one is cut from the bar" : ""}
                </p>
              </>
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
