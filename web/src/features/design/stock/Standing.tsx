import type { StockSheet } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length, sizes } from "../../../lib/units";

/** Under so many mm nobody cuts off or misses. */
const FINE = 0.5;

/** Enough, short or long, in one line. */
export function Standing({ sheet }: { sheet: StockSheet }) {
  const unit = useUnit();
  const { need, have } = sheet;
  // as the findings say it
  const spare = Math.round(10 * sheet.spare) / 10;
  const short = spare < -FINE;
  return (
    <section
      aria-label="Enough or not"
      className={`flex flex-wrap items-baseline gap-x-6 gap-y-1 rounded-lg border-l-4 px-3 py-2 ${short ? "border-stop bg-stop-wash" : "border-note bg-note-wash"}`}
    >
      <p className="text-lg font-bold">
        {short ? `${length(-spare, unit)} too short` : spare > FINE ? `${length(spare, unit)} to spare` : "Just enough"}
      </p>
      <p>
        The finished bar must be <b className="font-mono">{length(need.length, unit)}</b> long and comes out{" "}
        <b className="font-mono">{sizes([have, sheet.width, sheet.thickness], unit)}</b>.
      </p>
    </section>
  );
}
