import type { Blade } from "../../../api/types";
import { Segments } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { Measure } from "../fields/Measure";

type Forging = NonNullable<Blade["forging"]>;

/** How much of the shape is forged: a blank over the finished blade, the bar's end cut at an angle. */
export function ForgeFields({ blade, at, put }: BladeFields) {
  const forging: Forging = blade.forging ?? {};
  const share = forging.share ?? 0;
  const cut = forging.point_cut ?? { side: "none", length: 0 };
  const set = (next: Partial<Forging>, what: string) => put({ forging: { ...forging, ...next } }, `forging.${what}`);
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
          <Measure
            label="Forged share"
            unit="share"
            slider
            min={0}
            max={1}
            value={share}
            problem={at("forging.share") ?? at("forging")}
            onChange={(v) => set({ share: v ?? 0 }, "share")}
          />
          <Measure
            label="Skin to lose"
            unit="mm"
            value={forging.skin ?? 0}
            problem={at("forging.skin")}
            hint="decarburised, each side"
            onChange={(v) => set({ skin: v ?? 0 }, "skin")}
          />
          <div className="col-span-full">
            <span className="mb-0.5 block text-sm text-quiet">The forged blank is</span>
            <Segments<"over" | "own">
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
            <Measure
              label="Left to grind, each side"
              unit="mm"
              slider
              value={forging.allowance ?? null}
              problem={at("forging.allowance")}
              hint="what shows of the core comes from this"
              onChange={(v) => set({ allowance: v ?? 0 }, "allowance")}
            />
          )}
          <div className="col-span-full">
            <span className="mb-0.5 block text-sm text-quiet">The bar's end is cut at an angle</span>
            <Segments<"none" | "spine" | "edge">
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
          <Measure
            label="Drawn out at most"
            unit="times"
            min={1}
            value={forging.stretch_most ?? 6}
            problem={at("forging.stretch_most")}
            hint="beyond it, it is pointed out"
            onChange={(v) => set({ stretch_most: v ?? 6 }, "stretch")}
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
        <Measure
          label="Skin to lose"
          unit="mm"
          value={forging.skin ?? 0}
          problem={at("forging.skin")}
          hint="decarburised, each side"
          onChange={(v) => set({ skin: v ?? 0 }, "skin")}
        />
      )}
    </>
  );
}
