import { api, ask, whatWentWrong } from "../../../api/client";
import type { CutPlan } from "../../../api/types";
import { useGrams, useSay, useUnit } from "../../../app/session";
import { length, lengthText, sizes, UNIT_MARK } from "../../../lib/units";
import { useToast } from "../../../ui/toast";
import { useSteelName } from "../../steels/useSteels";
import { useTable } from "../table";

/** What the rack has not, what it offers instead, and what else goes in. */
export function CutBuy({ plan }: { plan: CutPlan }) {
  const steel = useSteelName();
  const unit = useUnit();
  const grams = useGrams();
  const say = useSay();
  const { document, change, undo } = useTable();
  const toast = useToast();
  const takeOver = (b: CutPlan["buy"][number]) =>
    ask(api.POST("/api/stock/in-sheets", { body: { document, wanted: b.wanted, count: b.sheets, sheet: b.sheet } }))
      .then((made) => {
        change({ type: "document", document: made.document });
        toast(`Piled so: ${say(b.instead)}. The faces show what that does.`, undo);
      })
      .catch((e) => toast(whatWentWrong(e)));
  const money = plan.buy.reduce((sum, b) => sum + (b.money ?? 0), 0);
  return (
    <>
      <section aria-label="What to buy">
        <h3 className="mb-1 font-bold">{plan.buy.length ? "To buy" : "Nothing to buy"}</h3>
        {plan.buy.length ? null : <p className="text-quiet">The rack has it all.</p>}
        <ul>
          {plan.buy.map((b) => (
            <li key={`${b.steel}${b.form}${b.width}${b.thickness}`} className="border-t border-line py-1.5">
              <p>
                <b>{steel(b.steel)}</b>, {b.form} {sizes(b.form === "round" ? [b.width] : [b.width, b.thickness], unit)}:{" "}
                <b className="font-mono">{length(b.length, unit)}</b>
              </p>
              <p className="text-sm text-quiet">
                {b.pieces.length} × {[...new Set(b.pieces.map((p) => lengthText(p, unit)))].join(", ")} {UNIT_MARK[unit]},{" "}
                {grams(b.mass)}
                {b.money !== null ? `, about ${b.money.toFixed(2)}` : ", price not known"}
              </p>
              {b.instead ? (
                <p className="text-sm">
                  The rack offers instead: {say(b.instead)}.
                  <button type="button" className="block min-h-11 underline" onClick={() => void takeOver(b)}>
                    Pile it so
                  </button>
                </p>
              ) : null}
            </li>
          ))}
        </ul>
        {money ? (
          <p className="border-t border-line pt-1 font-semibold">About {money.toFixed(2)} by your prices a kilogram</p>
        ) : null}
      </section>
      {plan.others.length ? (
        <section aria-label="What else goes in">
          <h3 className="mb-1 font-bold">What else goes in</h3>
          <ul>
            {plan.others.map((o) => (
              <li key={o.says} className="border-t border-line py-1">
                {o.count > 1 ? `${o.count} × ` : ""}
                {say(o.says)}
                {o.steel ? ` of ${steel(o.steel)}` : ""}
                {o.grams ? `, ${grams(o.grams)}` : ""}
                {o.there === null ? (
                  ""
                ) : o.there ? (
                  <span className="text-quiet">: in the rack</span>
                ) : (
                  <span className="text-care">: not in the rack</span>
                )}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </>
  );
}
