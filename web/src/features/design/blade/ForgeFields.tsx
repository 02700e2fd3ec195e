import type { Blade } from "../../../api/types";
import { Segments } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { Measure } from "../fields/Measure";
import { type MeasureRow, MeasureRows } from "../fields/MeasureRows";

type Forging = NonNullable<Blade["forging"]>;
const SKIN: MeasureRow<Forging> = { name: "skin", label: "Skin to lose", unit: "mm", usual: 0, hint: "decarburised, each side" };

/** How much of the shape is forged: a blank over the finished blade, the bar's end cut at an angle. */
export function ForgeFields({ blade, at, put }: BladeFields) {
  const forging: Forging = blade.forging ?? {};
  const share = forging.share ?? 0;
  const cut = forging.point_cut ?? { side: "none", length: 0 };
  const set = (next: Partial<Forging>, what: string) => put({ forging: { ...forging, ...next } }, `forging.${what}`);
  const wrong = (name: string) => at(`forging.${name}`);
  const how = share === 0 ? "cut" : share === 1 ? "forged" : "between";
  const blank = forging.edge_thickness != null;
  const top = (v: Forging["spine_thickness"]) => (typeof v === "number" || v == null ? (v ?? null) : v.heel);
  return (
    <>
      <div className="col-span-full">
        <Segments<"cut" | "between" | "forged">
          label="How it is shaped"
          value={how}
          options={[
            { value: "cut", label: "cut out" },
            { value: "between", label: "part" },
            { value: "forged", label: "forged" },
          ]}
          onChange={(v) =>
            set(
              {
                share: v === "cut" ? 0 : v === "forged" ? 1 : 0.5,
                ...(v !== "cut" && forging.allowance == null && !blank ? { allowance: 0.5 } : {}),
              },
              "share",
            )
          }
        />
        <p className="mt-0.5 text-sm leading-tight text-quiet">
          {share === 0
            ? "Stock removal: layers run straight on and out of the edge."
            : "Forged: layers follow the outline, and the bevels squeeze core and clad alike."}
        </p>
      </div>
      {share > 0 ? (
        <>
          <MeasureRows<Forging>
            of={forging}
            put={set}
            wrong={(name) => wrong(name) ?? (name === "share" ? at("forging") : undefined)}
            rows={[{ name: "share", label: "Forged share", unit: "share", slider: true, min: 0, max: 1, usual: 0 }, SKIN]}
          />
          <div className="col-span-full">
            <Segments<"over" | "own">
              titled
              label="The forged blank is"
              value={blank ? "own" : "over"}
              options={[
                { value: "over", label: "over the finished" },
                { value: "own", label: "its own thickness" },
              ]}
              onChange={(v) =>
                set(
                  v === "over"
                    ? { allowance: 0.5, edge_thickness: null, spine_thickness: null }
                    : { allowance: null, edge_thickness: 1.8, spine_thickness: blade.spine_thickness.heel + 0.8 },
                  "blank",
                )
              }
            />
          </div>
          {blank ? (
            <>
              <Measure
                label="Forged edge"
                unit="mm"
                slider
                value={top(forging.edge_thickness)}
                problem={at("forging.edge_thickness")}
                onChange={(v) => set({ edge_thickness: v ?? 0 }, "edge")}
              />
              <Measure
                label="Forged spine"
                unit="mm"
                slider
                value={top(forging.spine_thickness)}
                problem={at("forging.spine_thickness")}
                onChange={(v) => set({ spine_thickness: v ?? 0 }, "spine")}
              />
            </>
          ) : (
            <MeasureRows<Forging>
              of={forging}
              put={set}
              wrong={wrong}
              rows={[
                {
                  name: "allowance",
                  label: "Left to grind, each side",
                  unit: "mm",
                  slider: true,
                  usual: 0,
                  hint: "what shows of the core comes from this",
                },
              ]}
            />
          )}
          <div className="col-span-full">
            <Segments<"none" | "spine" | "edge">
              titled
              label="The bar's end is cut at an angle"
              value={cut.side ?? "none"}
              options={[
                { value: "none", label: "not" },
                { value: "spine", label: "on the spine side" },
                { value: "edge", label: "on the edge side" },
              ]}
              snug
              onChange={(side) => set({ point_cut: { side, length: side === "none" ? 0 : cut.length || 40 } }, "cut")}
            />
            <p className="mt-0.5 text-sm leading-tight text-quiet">
              {cut.side === "spine"
                ? "The layers follow the belly round to the point."
                : cut.side === "edge"
                  ? "The layers run out of the belly and follow the spine."
                  : "The tip is drawn out of very little steel."}
            </p>
          </div>
          <MeasureRows<Forging>
            of={forging}
            put={set}
            wrong={wrong}
            rows={[
              {
                name: "stretch_most",
                label: "Drawn out at most",
                unit: "times",
                min: 1,
                usual: 6,
                hint: "beyond it, it is pointed out",
              },
            ]}
          />
          {cut.side && cut.side !== "none" ? (
            <Measure
              label="Over a length of"
              unit="mm"
              slider
              value={cut.length ?? 0}
              problem={at("forging.point_cut.length")}
              hint="1 to 1.5 bar widths"
              onChange={(v) => set({ point_cut: { ...cut, length: v ?? 0 } }, "cut.length")}
            />
          ) : null}
        </>
      ) : (
        <MeasureRows<Forging> of={forging} put={set} wrong={wrong} rows={[SKIN]} />
      )}
    </>
  );
}
