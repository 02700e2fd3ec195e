import type { CutPlan } from "../../../api/types";
import { useGrams, useSay, useUnit } from "../../../app/session";
import { length, sizes } from "../../../lib/units";
import { useSteelName } from "../../steels/useSteels";
import { useTable } from "../table";
import { cutDrawing } from "./cutDrawing";

/** Draws a cut list in the user's units. */
export function useCutDrawing(): (plan: CutPlan) => string {
  const { name } = useTable();
  const unit = useUnit();
  return (plan) =>
    cutDrawing(plan, { title: `Cut list: ${name}`, length: (mm) => length(mm, unit), sizes: (mm) => sizes(mm, unit) });
}

/** The cut list on paper: bar by bar in the order of the saw, with a box to tick for each piece. */
export function CutPaper({ plan }: { plan: CutPlan }) {
  const steel = useSteelName();
  const { name } = useTable();
  const unit = useUnit();
  const grams = useGrams();
  const say = useSay();
  const drawing = useCutDrawing();
  return (
    <section aria-label="Cut list on paper" className="print-only">
      <h2 className="text-xl font-bold">Cut list: {name}</h2>
      <p className="mb-2">
        The saw takes {length(plan.kerf, unit)} at every cut. Measure twice; deburr and mark every piece. Goggles on.
      </p>
      {plan.bars.length ? (
        <img
          src={`data:image/svg+xml,${encodeURIComponent(drawing(plan))}`}
          alt="The bars to scale with their cuts"
          className="mb-3 w-full"
        />
      ) : null}
      {plan.bars.map((bar, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: bars that are alike are told by where they stand
        <figure key={i} className="mb-3 border-t border-line pt-1">
          <figcaption>
            <b>{bar.code}</b>: {steel(bar.steel)}, {bar.form} {sizes([bar.width, bar.thickness, bar.length], unit)}
          </figcaption>
          <ol className="my-1 grid grid-cols-2 gap-x-6">
            {bar.cuts.map((c, n) => (
              <li key={c.piece}>
                ☐ {n + 1}. <b>{length(c.length, unit)}</b> {c.says}
                {c.how ? <span className="text-quiet"> ({say(c.how)})</span> : null}
              </li>
            ))}
          </ol>
          <p className="text-quiet">
            {length(Math.max(0, bar.left), unit)} left{bar.keep ? ": mark it and back into the rack" : ""}.
          </p>
        </figure>
      ))}
      {plan.buy.length ? (
        <>
          <h3 className="font-bold">To buy</h3>
          <ul>
            {plan.buy.map((b) => (
              <li key={`${b.steel}${b.form}${b.width}${b.thickness}`}>
                ☐ {steel(b.steel)}, {b.form} {sizes(b.form === "round" ? [b.width] : [b.width, b.thickness], unit)}:{" "}
                {length(b.length, unit)}, {grams(b.mass)}
                {b.money !== null ? `, about ${b.money.toFixed(2)}` : ""}
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {plan.others.length ? (
        <>
          <h3 className="font-bold">What else goes in</h3>
          <ul>
            {plan.others.map((o) => (
              <li key={o.says}>
                ☐ {o.count > 1 ? `${o.count} × ` : ""}
                {say(o.says)}
                {o.steel ? ` of ${steel(o.steel)}` : ""}
                {o.grams ? `, ${grams(o.grams)}` : ""}
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}
