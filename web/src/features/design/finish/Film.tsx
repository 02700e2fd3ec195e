import { useState } from "react";
import type { FinishSheet } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { Segments } from "../../../ui";
import { useTable } from "../table";
import { Picture } from "../views/Picture";
import { useFinish } from "./finish";
import { micro, minutes } from "./words";

/** The true blade at six stages of its etch; the one that pleases becomes the plan. */
export function Film({ sheet }: { sheet: FinishSheet }) {
  const { asked, put } = useFinish();
  const { ledger } = useTable();
  const unit = useUnit();
  const [side, setSide] = useState<"right" | "left" | "both">("right");
  const shape = ledger?.summary ? ledger.shape : null;
  const ratio = shape ? (shape.high - shape.low + 4) / (shape.length + 4) : 0.2;
  const sides = side === "both" ? (["right", "left"] as const) : ([side] as const);
  const box = { width: 240, height: Math.round(240 * ratio) };
  return (
    <section aria-label="The film">
      <div className="mb-1 flex flex-wrap items-center gap-3">
        <h3 className="font-bold">The film</h3>
        <div className="w-56">
          <Segments
            snug
            label="Side shown"
            value={side}
            options={[
              { value: "right", label: "right" },
              { value: "left", label: "left" },
              { value: "both", label: "both" },
            ]}
            onChange={setSide}
          />
        </div>
        <span className="text-sm text-quiet">Choose a stage to plan for it.</span>
      </div>
      <ol className="grid grid-cols-3 gap-2 max-[1180px]:grid-cols-2 max-[500px]:grid-cols-1">
        {sheet.stages.map((s) => {
          const on = Math.abs(s.relief - sheet.wanted) < 0.03 * sheet.wanted && s.polished;
          return (
            <li key={s.key}>
              <button
                type="button"
                aria-pressed={on}
                title={`Plan for ${micro(s.relief, unit)}`}
                onClick={() => put({ relief: Math.max(0.5, Math.round(s.relief * 10) / 10) }, "relief")}
                className={`flex w-full flex-col rounded-lg border-2 p-1 text-left ${on ? "border-ink bg-note-wash" : "border-transparent hover:border-edge"}`}
              >
                {sides.map((one) => (
                  <span key={one} className="grid min-h-12 place-items-center overflow-hidden rounded bg-plate">
                    <Picture
                      path="/api/finish/film.png"
                      body={{ ...asked, side: one, stage: s.key }}
                      box={box}
                      label={`${s.says}, ${one} face`}
                      lane={`film-${one}-${s.key}`}
                      missing="not drawn"
                    />
                  </span>
                ))}
                <span className="mt-1 leading-tight font-semibold">{s.says}</span>
                <span className="text-sm text-quiet">
                  {minutes(s.minutes)}, {micro(s.relief, unit)}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
