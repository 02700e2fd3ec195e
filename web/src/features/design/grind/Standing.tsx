import type { ReactNode } from "react";
import type { CoreLine, Side } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { length, percent } from "../../../lib/units";

/** First or second grade with its reason, the stations at risk, and the steel at the edge. */
export function Standing({ core, children }: { core: CoreLine; children?: ReactNode }) {
  const say = useSay();
  const unit = useUnit();
  const grade = core.grade;
  const risky = [...new Set((grade?.risks ?? []).map((r) => r.x))];
  return (
    <div className="flex flex-col gap-3">
      {grade ? (
        <section
          aria-label="Grade"
          className={`rounded-lg border-l-4 px-3 py-2 ${grade.first ? "border-note bg-note-wash" : "border-care bg-care-wash"}`}
        >
          <p className="font-semibold">{grade.first ? "First grade" : "Second grade"}</p>
          <p>{say(grade.reason)}</p>
          {risky.length ? (
            <p className="mt-1 text-sm">
              At risk: {risky.length} of {new Set(core.stations.map((s) => s.x)).size} stations,{" "}
              {length(Math.min(...risky), unit)} to {length(Math.max(...risky), unit)} from the heel.
            </p>
          ) : null}
          <p className="mt-1 text-sm">
            Right stands{" "}
            <span className="font-mono">
              {grade.apart >= 0 ? "+" : "−"}
              {length(Math.abs(grade.apart), unit)}
            </span>{" "}
            against left in the mean. Clad covers {cladShare(core, "left")} of the height left, {cladShare(core, "right")} right.
          </p>
        </section>
      ) : (
        <p className="text-quiet">This bar has no core between clads, so there is no core line.</p>
      )}
      {children}
      <EdgeSteels core={core} />
    </div>
  );
}

function cladShare(core: CoreLine, side: Side): string {
  const mine = core.stations.filter((s) => s.side === side && s.x >= core.band.start && s.x <= core.band.end);
  return percent(mine.reduce((sum, s) => sum + s.clad_share, 0) / Math.max(1, mine.length));
}

/** Which steel is in the middle of the edge, stretch by stretch. */
export function EdgeSteels({ core }: { core: CoreLine }) {
  const unit = useUnit();
  const shown = core.edge.slice(0, 5);
  if (!shown.length) return null;
  return (
    <div>
      <h3 className="text-sm font-semibold text-quiet">In the edge, from the heel</h3>
      <ul>
        {shown.map((s) => (
          <li key={s.start} className="flex justify-between gap-2 border-b border-line py-0.5">
            <span>
              {s.name}
              {s.hardens === "no" || s.hardens === "partly" ? <span className="text-care"> does not harden</span> : null}
            </span>
            <span className="text-right font-mono text-sm">
              {core.edge.length === 1 ? "all along it" : `${length(s.start, unit)} to ${length(s.end, unit)}`}
            </span>
          </li>
        ))}
      </ul>
      {core.edge.length > 5 ? (
        <p className="text-sm text-quiet">and {core.edge.length - 5} more stretches: a mixed edge.</p>
      ) : null}
    </div>
  );
}
