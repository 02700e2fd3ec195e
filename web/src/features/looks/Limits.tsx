import type { components } from "../../api/schema.gen";
import { Toggle } from "../../ui";
import { Measure } from "../design/fields/Measure";
import type { Looks } from "./scale";

type Pair = components["schemas"]["Pair"];
export type LimitsOf = {
  lacks: string[];
  pairings: Pair[];
  heats: number | null;
  hours: number | null;
  loss: number | null;
  finest: number | null;
  thorough: boolean;
};
export const NO_LIMITS: LimitsOf = {
  lacks: [],
  pairings: [],
  heats: null,
  hours: null,
  loss: null,
  finest: null,
  thorough: true,
};

const same = (a: Pair, b: Pair) => a.dark === b.dark && a.bright === b.bright;

/** Tools that are there, steels it may be of, and what it may take at the most. */
export function Limits({ known, value, onChange }: { known: Looks; value: LimitsOf; onChange: (next: LimitsOf) => void }) {
  const set = (part: Partial<LimitsOf>) => onChange({ ...value, ...part });
  const some = [
    value.lacks.length ? `without ${value.lacks.join(", ")}` : "",
    value.pairings.length ? `${value.pairings.length} pairs of steel` : "",
    value.heats ? `${value.heats} heats` : "",
    value.hours ? `${value.hours} h` : "",
    value.loss ? `${Math.round(100 * value.loss)} % lost` : "",
  ].filter(Boolean);
  return (
    <details className="rounded-lg border border-line px-3">
      <summary className="flex min-h-11 cursor-pointer items-center gap-2">
        <span className="font-semibold">Tools, steels and limits</span>
        <span className="truncate text-sm text-quiet">
          {some.length ? `at the most ${some.join(", ")}` : "all tools, no limits"}
        </span>
      </summary>
      <div className="grid gap-4 pb-3 min-[1100px]:grid-cols-3">
        <fieldset>
          <legend className="font-semibold">In this shop</legend>
          {known.tools.map((t) => (
            <Toggle
              key={t.key}
              label={t.says}
              checked={!value.lacks.includes(t.key)}
              onChange={(on) => set({ lacks: on ? value.lacks.filter((k) => k !== t.key) : [...value.lacks, t.key] })}
            />
          ))}
        </fieldset>
        <fieldset className="min-w-0">
          <legend className="font-semibold">Of these steels</legend>
          <p className="text-sm text-quiet">
            {known.pairings.some((p) => p.there)
              ? "What lies in the rack and is told apart by the etch."
              : "The rack is empty: the usual pair."}{" "}
            None chosen: the usual pair.
          </p>
          <div className="max-h-64 overflow-y-auto">
            {known.pairings.map((p) => (
              <Toggle
                key={`${p.dark} ${p.bright}`}
                label={`${p.says}${p.there ? "" : " (not in the rack)"}`}
                checked={value.pairings.some((x) => same(x, p))}
                onChange={(on) =>
                  set({
                    pairings: on
                      ? [...value.pairings, { dark: p.dark, bright: p.bright }]
                      : value.pairings.filter((x) => !same(x, p)),
                  })
                }
              />
            ))}
          </div>
        </fieldset>
        <fieldset className="flex flex-col gap-2">
          <legend className="font-semibold">At the most</legend>
          <Measure
            label="Heats"
            unit=""
            whole
            optional
            value={value.heats}
            min={1}
            max={500}
            onChange={(v) => set({ heats: v })}
          />
          <Measure
            label="Hours of hands on"
            unit="h"
            optional
            value={value.hours}
            min={0.5}
            max={1000}
            onChange={(v) => set({ hours: v })}
          />
          <Measure
            label="Lost of the steel"
            unit="share"
            optional
            value={value.loss}
            min={0.02}
            max={0.99}
            onChange={(v) => set({ loss: v })}
          />
          <Measure
            label="Finest layer, at the least"
            unit="mm"
            optional
            value={value.finest}
            min={0.001}
            max={5}
            onChange={(v) => set({ finest: v })}
          />
          <Toggle
            label="Thorough: 4,096 faces instead of 1,024"
            checked={value.thorough}
            onChange={(thorough) => set({ thorough })}
          />
        </fieldset>
      </div>
    </details>
  );
}
