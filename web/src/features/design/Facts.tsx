import { useUnit } from "../../app/session";
import type { Ledger, Side, Station } from "../../api/types";
import { grams, length, lengthText, percent, UNIT_MARK } from "../../lib/units";
import { barSize } from "./words";

/** The ledger in short, always in sight. */
export function Facts({ ledger }: { ledger: Ledger | null }) {
  const unit = useUnit();
  if (!ledger) return <p className="text-plate-quiet">Working out the ledger…</p>;
  const s = ledger.summary;
  const facts: [string, string, string?][] = [
    ["Bar", barSize(s, unit)],
    ["Layers across", String(s.layers)],
    ["Thinnest on the blade", s.thinnest === null ? "–" : length(s.thinnest, unit), thinWord(s.thinnest)],
    ["Bar weighs", `${grams(s.mass)} of ${grams(s.start_mass)}`],
    ["Lost on the way", percent(s.loss_share)],
    ["Blade weighs", s.blade_mass === null ? "–" : grams(s.blade_mass)],
  ];
  if (s.core) {
    facts.push(["Core line, right", coreRange(s.core, "right", unit)]);
    facts.push(["Core line, left", coreRange(s.core, "left", unit)]);
  }
  return (
    <dl className="text-[0.95rem]" data-testid="facts">
      {facts.map(([name, value, about]) => (
        <div key={name} className="flex items-baseline justify-between gap-2 border-b border-plate-line py-[0.2rem] last:border-0">
          <dt className="text-plate-quiet">{name}</dt>
          <dd className="text-right font-mono">
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

function coreRange(core: Station[], side: Side, unit: Unit): string {
  const heights = core.filter((s) => s.side === side && s.state === "line").map((s) => s.shown[0]?.[1] ?? 0);
  if (!heights.length) return core.some((s) => s.side === side && s.state !== "none") ? "no plain line" : "not showing";
  const low = Math.min(...heights);
  const high = Math.max(...heights);
  return `${lengthText(low, unit)} to ${lengthText(high, unit)} ${UNIT_MARK[unit]} up`;
}
