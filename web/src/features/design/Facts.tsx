import type { Ledger, Side, Station } from "../../api/types";
import { useGrams, useUnit } from "../../app/session";
import { length, lengthText, percent, thickness, UNIT_MARK } from "../../lib/units";
import { barSize, layersTold } from "./words";

/** "1.53 of 2.61 lb": the unit once where both have it. */
function ofWhole(part: string, whole: string): string {
  const unit = / \S+$/.exec(whole)?.[0] ?? "";
  return `${unit && part.endsWith(unit) ? part.slice(0, -unit.length) : part} of ${whole}`;
}

/** The ledger in short, always in sight. */
export function Facts({ ledger }: { ledger: Ledger | null }) {
  const grams = useGrams();
  const unit = useUnit();
  if (!ledger) return <p className="text-plate-quiet">Working out the ledger…</p>;
  const s = ledger.summary;
  if (!s) return <p className="text-plate-quiet">The bar cannot be put together yet: see what is marked below.</p>;
  const facts: [string, string, string?][] = [
    ["Bar", barSize(s, unit)],
    ["Layers across", layersTold(s)],
    ["Thinnest on the blade", s.thinnest === null ? "–" : thickness(s.thinnest, unit), thinWord(s.thinnest)],
    ["Bar weighs", ofWhole(grams(s.mass, s.start_mass), grams(s.start_mass))],
    [s.scale_share > 0 ? "Lost on the way" : "Lost, no scale counted", percent(s.loss_share)],
    ["Blade weighs", s.blade_mass === null ? "–" : grams(s.blade_mass)],
  ];
  if (s.core) {
    facts.push(["Core line, right", ...coreLine(s.core, "right", unit)]);
    facts.push(["Core line, left", ...coreLine(s.core, "left", unit)]);
  }
  return (
    <dl className="text-[0.95rem]" aria-label="What it comes to">
      {facts.map(([name, value, about]) => (
        <div
          key={name}
          className="flex items-baseline justify-between gap-2 border-b border-plate-line py-[0.2rem] last:border-0"
        >
          <dt className="text-plate-quiet">{name}</dt>
          <dd className={`text-right font-mono ${value.length > 20 ? "text-sm" : ""}`}>
            {value}
            {about ? <span className="block font-sans text-sm text-plate-quiet">{about}</span> : null}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function thinWord(mm: number | null): string | undefined {
  if (mm === null) return undefined;
  if (mm < 0.015) return "nickel contrast fades";
  if (mm < 0.025) return "reads as grey haze";
  return undefined;
}

type Unit = Parameters<typeof length>[1];

/** Usual height of the core line above the edge, and its lowest and highest. */
function coreLine(core: Station[], side: Side, unit: Unit): [string, string?] {
  const heights = core
    .flatMap((s) => (s.side === side && s.state === "line" && s.shown[0] ? [s.shown[0][1] ?? 0] : []))
    .sort((a, b) => a - b);
  const low = heights[0];
  const high = heights.at(-1);
  if (low === undefined || high === undefined) {
    return [core.some((s) => s.side === side && s.state !== "none") ? "no plain line" : "not showing"];
  }
  const usual = heights[Math.floor(heights.length / 2)] ?? low;
  return [
    length(usual, unit),
    high - low > 0.1 ? `${lengthText(low, unit)} to ${lengthText(high, unit)} ${UNIT_MARK[unit]}` : undefined,
  ];
}
