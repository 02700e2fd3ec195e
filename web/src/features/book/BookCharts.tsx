import type { Build } from "../../api/types";
import { percent } from "../../lib/units";
import { hoursText } from "../design/stock/time";
import { useFaultName } from "../faults/useFaultName";
import { faultsOf, yieldOf } from "./words";

const MOST = 12;

/** Where steel and hours go: each finished build as a bar, the latest last. */
export function BookCharts({ builds }: { builds: Build[] }) {
  const fault = useFaultName();
  const weighed = builds
    .filter((b) => yieldOf(b) !== null)
    .slice(0, MOST)
    .toReversed();
  const timed = builds
    .filter((b) => b.summary.took > 0)
    .slice(0, MOST)
    .toReversed();
  const faults = faultsOf(builds).slice(0, 8);
  const mean = weighed.length ? weighed.reduce((sum, b) => sum + (yieldOf(b) ?? 0), 0) / weighed.length : 0;
  const most = Math.max(1, ...timed.map((b) => Math.max(b.summary.took, b.summary.planned_of_said)));
  if (!weighed.length && !timed.length && !faults.length) return null;
  return (
    <div className="mt-6 grid gap-6 min-[900px]:grid-cols-3">
      <section aria-label="Yield">
        <h2 className="mb-2 font-bold">Of the steel put in, in the blade</h2>
        <ul className="flex flex-col gap-1">
          {weighed.map((b) => (
            <li key={b.id} className="grid grid-cols-[8rem_1fr_3rem] items-center gap-2 text-sm">
              <span className="truncate">{b.title}</span>
              <span className="h-4 rounded bg-line">
                <span className="block h-full rounded bg-accent" style={{ width: `${100 * (yieldOf(b) ?? 0)}%` }} />
              </span>
              <span className="text-right font-mono">{percent(yieldOf(b) ?? 0)}</span>
            </li>
          ))}
        </ul>
        {weighed.length ? (
          <p className="mt-1 text-sm text-quiet">{percent(mean)} in the mean. The rest is scale, dust and offcuts.</p>
        ) : (
          <p className="text-quiet">Weigh what is put in, and the blade.</p>
        )}
      </section>
      <section aria-label="Hours">
        <h2 className="mb-2 font-bold">Hours, planned and real</h2>
        <ul className="flex flex-col gap-1">
          {timed.map((b) => (
            <li key={b.id} className="grid grid-cols-[8rem_1fr_4rem] items-center gap-2 text-sm">
              <span className="truncate">{b.title}</span>
              <span className="flex flex-col gap-0.5">
                <span className="h-1.5 rounded bg-edge" style={{ width: `${(100 * b.summary.planned_of_said) / most}%` }} />
                <span className="h-2.5 rounded bg-accent" style={{ width: `${(100 * b.summary.took) / most}%` }} />
              </span>
              <span className="text-right font-mono">{hoursText(b.summary.took)}</span>
            </li>
          ))}
        </ul>
        {timed.length ? (
          <p className="mt-1 text-sm text-quiet">Thin: planned for the same operations. Thick: as they took.</p>
        ) : (
          <p className="text-quiet">Say how long operations took.</p>
        )}
      </section>
      <section aria-label="Faults">
        <h2 className="mb-2 font-bold">What went wrong</h2>
        {faults.length ? (
          <ul>
            {faults.map(([text, n]) => (
              <li key={text} className="flex gap-3 border-b border-line py-1 text-sm">
                <span className="min-w-0 flex-1">{fault(text)}</span>
                <b className="font-mono">{n}</b>
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-quiet">Nothing was written down.</p>
        )}
      </section>
    </div>
  );
}
