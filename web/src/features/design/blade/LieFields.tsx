import type { Blade } from "../../../api/types";
import { Segments } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { MeasureRows } from "../fields/MeasureRows";

type Lie = NonNullable<Blade["place"]>;

/** Where the blade is laid out along its bar, and which way round. */
export function LieFields({ blade, at, put }: BladeFields) {
  const place: Lie = blade.place ?? {};
  const forged = (blade.forging?.share ?? 0) > 0;
  const set = (next: Partial<Lie>, what: string) => put({ place: { ...place, ...next } }, what);
  return (
    <>
      <MeasureRows<Lie>
        of={place}
        put={set}
        wrong={(name) => at(`place.${name}`)}
        rows={[
          {
            name: "x",
            label: "Heel lies at",
            unit: "mm",
            placeholder: forged ? "as needed" : "bar's end",
            hint: "along the bar",
          },
          !forged && {
            name: "y",
            label: "Edge lies at",
            unit: "mm",
            min: -2000,
            placeholder: "midway",
            hint: "across, from the bar's middle",
          },
          !forged && {
            name: "angle",
            label: "Askew by",
            unit: "deg",
            min: -180,
            max: 180,
            usual: 0,
            hint: "in the plane of the bar",
          },
        ]}
      />
      <span />
      <div className="col-span-full">
        <Segments<"top" | "bottom">
          titled
          label="Right face lies on the bar's"
          value={place.right_face ?? "top"}
          options={[
            { value: "top", label: "top" },
            { value: "bottom", label: "underside" },
          ]}
          onChange={(v) => set({ right_face: v, tip_end: null }, "face")}
        />
        {at("place.right_face") ? <p className="text-sm text-stop">{at("place.right_face")}</p> : null}
      </div>
      <div className="col-span-full">
        <Segments<"front" | "back">
          titled
          label="Edge lies to the bar's"
          value={place.edge_side ?? "front"}
          options={[
            { value: "front", label: "front" },
            { value: "back", label: "back" },
          ]}
          onChange={(v) => set({ edge_side: v, tip_end: null }, "edge")}
        />
      </div>
      <p className="col-span-full text-sm text-quiet">
        Which way the tip points follows: steel is turned, never mirrored. What is left of the bar is listed in Grind, under Edge
        and weight.
      </p>
    </>
  );
}
