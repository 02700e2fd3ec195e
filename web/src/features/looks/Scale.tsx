import { X } from "lucide-react";
import { useUnit } from "../../app/session";
import { length } from "../../lib/units";
import { Button, Segments } from "../../ui";
import { type Example, type Feature, faceOf, fromScale, inWords, onScale, type Sure, type Want } from "./scale";

/** One feature: five faces along it, a slider under them, and how sure one is. Without a value it does not matter. */
export function Scale({
  feature,
  examples,
  want,
  mark,
  onWant,
}: {
  feature: Feature;
  examples: Example[];
  want: Want | undefined;
  mark: string;
  onWant: (next: Omit<Want, "feature"> | null) => void;
}) {
  const unit = useUnit();
  const at = want ? onScale(feature, want.value) : null;
  const set = (share: number) => onWant({ value: fromScale(feature, share), sure: want?.sure ?? "near" });
  return (
    <section aria-label={feature.title} className="border-b border-line py-2">
      <h2 className="flex min-h-8 items-baseline justify-between gap-2">
        <span className="font-semibold" title={feature.about}>
          {feature.title}
        </span>
        <output className={at === null ? "text-sm text-quiet" : "text-sm font-semibold"}>
          {at === null || !want ? "does not matter" : `${inWords(feature, at)} (${told(feature, want.value, unit)})`}
        </output>
      </h2>
      <div className="grid grid-cols-5 gap-1">
        {examples.map((e, i) => (
          <button
            key={e.at}
            type="button"
            onClick={() => set(e.at)}
            aria-pressed={at !== null && Math.abs(at - e.at) < 0.125}
            aria-label={`${feature.title}: ${inWords(feature, e.at)}, face ${i + 1} of ${examples.length}`}
            className="min-h-11 overflow-hidden rounded border-2 border-transparent bg-plate aria-pressed:border-accent"
          >
            <img src={faceOf(e.candidate, 160, mark)} alt="" loading="lazy" className="h-11 w-full object-cover" />
          </button>
        ))}
      </div>
      <div className="mt-1 flex items-center gap-2 text-xs text-quiet">
        <span aria-hidden className="w-20 leading-tight">
          {feature.low_word}
        </span>
        <input
          type="range"
          min={0}
          max={1}
          step={0.01}
          value={at === null ? 0.5 : Math.min(1, Math.max(0, at))}
          aria-label={`${feature.title}, from ${feature.low_word} to ${feature.high_word}`}
          aria-valuetext={at === null ? "does not matter" : inWords(feature, at)}
          onChange={(e) => set(Number(e.target.value))}
          className={`h-8 min-w-0 flex-1 accent-(--color-accent) ${at === null ? "opacity-40" : ""}`}
        />
        <span aria-hidden className="w-20 text-right leading-tight">
          {feature.high_word}
        </span>
      </div>
      {want ? (
        <div className="mt-1 flex items-center gap-2">
          <div className="flex-1">
            <Segments<Sure>
              snug
              label={`How sure: ${feature.title.toLowerCase()}`}
              value={want.sure ?? "near"}
              options={[
                { value: "about", label: "about so" },
                { value: "near", label: "near" },
                { value: "exactly", label: "just so" },
              ]}
              onChange={(sure) => onWant({ ...want, sure })}
            />
          </div>
          <Button compact kind="quiet" label={`${feature.title} does not matter`} onClick={() => onWant(null)}>
            <X size={18} aria-hidden />
          </Button>
        </div>
      ) : null}
    </section>
  );
}

const told = (f: Feature, value: number, unit: Parameters<typeof length>[1]) =>
  f.unit === "mm" ? length(value, unit) : `${value}${f.unit === "deg" ? "°" : ` ${f.unit.replace("10 cm2", "10 cm²")}`}`;
