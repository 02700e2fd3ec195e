import type { PairSheet, Steel, Verdict } from "../../api/types";
import { useDegrees, useSay } from "../../app/session";
import { degrees, span, temperature } from "../../lib/units";
import { greyOf } from "../steels";
import { QUENCH } from "../steels/words";
import { HeatBars } from "./HeatBars";
import { shortName } from "./Matrix";
import { ASPECT, USES, VERDICT } from "./words";

const GRADE = { note: "●", care: "◐", stop: "✕" } as const;
const TONE = { note: "text-note", care: "text-care", stop: "text-stop" } as const;

/** Everything about these steels in one bar: the verdict, the heats, each reason with its number. */
export function PairView({ pair, steels, use }: { pair: PairSheet; steels: Steel[]; use: string }) {
  const say = useSay();
  const unit = useDegrees();
  const how = VERDICT[pair.verdict];
  const others = USES.filter((u) => u.value !== use);
  return (
    <div className="space-y-4">
      <Plate pair={pair} />
      <p role="status" className="text-lg">
        <span className={`mr-2 ${how.text}`} aria-hidden>
          {how.sign}
        </span>
        <strong>
          {pair.verdict === "no"
            ? "Not for this."
            : pair.verdict === "good"
              ? "They go together."
              : "They go together, with care."}
        </strong>{" "}
        <span className="text-base text-quiet">
          {others.map((u) => `${u.label}: ${VERDICT[(pair.uses[u.value] ?? "no") as Verdict].word}`).join(". ")}.
        </span>
      </p>
      <HeatBars steels={steels} weld={pair.weld} window={pair.window} heat={pair.heat} />
      <dl className="grid grid-cols-[7rem_1fr] gap-y-1">
        <dt className="text-quiet">Weld at</dt>
        <dd>{pair.weld ? span(pair.weld, unit) : "no heat suits all"}</dd>
        {pair.quench || pair.window ? (
          <>
            <dt className="text-quiet">Harden from</dt>
            <dd>
              {temperature(pair.heat, unit)}, soak {pair.soak.toFixed(0)} min
              {pair.quench ? `, ${QUENCH[pair.quench]}` : ""}
            </dd>
            <dt className="text-quiet">Dissolving</dt>
            <dd>
              {pair.dissolving
                ? `${span(pair.dissolving, unit)} puts 0.6 to 0.8 % carbon in solution in ${pair.parts.filter((p) => p.hrc !== null).length > 1 ? "each" : "it"}`
                : `no one heat puts 0.6 to 0.8 % carbon in solution${pair.parts.filter((p) => p.hrc !== null).length > 1 ? " in each" : ""}`}
            </dd>
          </>
        ) : null}
      </dl>
      <Parts pair={pair} />
      {pair.parts.some((p) => p.hrc !== null) ? (
        <p className="text-sm text-quiet">
          Dissolved: carbon in solution at the hardening heat. Ms: where martensite begins. Left: austenite that stays. HRC: as
          quenched, then tempered.
        </p>
      ) : null}
      <ul className="space-y-3">
        {pair.reasons.map((r) => (
          <li key={r.aspect} className="grid grid-cols-[1.5rem_1fr] gap-x-2">
            <span aria-hidden className={`pt-0.5 ${TONE[r.grade]}`}>
              {GRADE[r.grade]}
            </span>
            <div>
              <h2 className="text-sm font-semibold text-quiet">{ASPECT[r.aspect] ?? r.aspect}</h2>
              <p className="font-semibold">{say(r.what)}</p>
              <p className="text-quiet">{say(r.why)}</p>
              {r.do ? <p>{say(r.do)}</p> : null}
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The steels side by side as they etch, so that the contrast is seen, not read. */
function Plate({ pair }: { pair: PairSheet }) {
  const rows = 9;
  const layers = Array.from({ length: rows }, (_, i) => pair.parts[i % pair.parts.length]);
  return (
    <div aria-hidden className="flex h-16 flex-col overflow-hidden rounded-lg border border-edge">
      {layers.map((p, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: layers have no other name
        <span key={i} style={{ background: greyOf(p?.grey ?? 0), flexGrow: p?.share ?? 1 }} />
      ))}
    </div>
  );
}

function Parts({ pair }: { pair: PairSheet }) {
  const unit = useDegrees();
  const hard = pair.parts.some((p) => p.hrc !== null);
  return (
    <section
      aria-label="The steels, side by side"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it may scroll, so the keyboard must reach it
      tabIndex={0}
      className="overflow-x-auto"
    >
      <table className="w-full text-left text-sm whitespace-nowrap">
        <thead className="text-sm text-quiet">
          <tr className="border-b border-line">
            <th className="py-1 pr-2">Steel</th>
            <th className="pr-2 text-right">Carbon %</th>
            {hard ? (
              <>
                <th className="pr-2 text-right">dissolved</th>
                <th className="pr-2 text-right">Ms, °{unit}</th>
                <th className="pr-2 text-right">left</th>
                <th className="text-right">HRC</th>
              </>
            ) : null}
          </tr>
        </thead>
        <tbody className="font-mono text-[13px]">
          {pair.parts.map((p) => (
            <tr key={p.key} className="border-b border-line last:border-0">
              <td className="py-1 pr-2 font-sans text-sm">{shortName(p)}</td>
              <td className="pr-2 text-right">
                {p.carbon_own.toFixed(2)}
                {Math.abs(p.carbon - p.carbon_own) > 0.005 ? ` → ${p.carbon.toFixed(2)}` : ""}
              </td>
              {hard ? (
                <>
                  <td className="pr-2 text-right">{p.in_solution?.toFixed(2) ?? "–"}</td>
                  <td className="pr-2 text-right">{p.ms !== null && p.ms !== undefined ? degrees(p.ms, unit) : "–"}</td>
                  <td className="pr-2 text-right">
                    {p.retained ? `${Math.round(100 * (p.retained[0] ?? 0))}–${Math.round(100 * (p.retained[1] ?? 0))} %` : "–"}
                  </td>
                  <td className="text-right" title="as quenched, then tempered">
                    {p.hrc !== null && p.hrc !== undefined ? `${p.as_quenched?.toFixed(0)} → ${p.hrc.toFixed(1)}` : "soft"}
                  </td>
                </>
              ) : null}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
