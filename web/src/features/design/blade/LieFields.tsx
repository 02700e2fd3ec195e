import { Segments } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { Measure } from "../fields/Measure";

/** Where the blade is laid out along its bar, and which way round. */
export function LieFields({ blade, at, put }: BladeFields) {
  const place = blade.place ?? {};
  const forged = (blade.forging?.share ?? 0) > 0;
  const set = (next: Partial<typeof place>, what: string) => put({ place: { ...place, ...next } }, what);
  return (
    <>
      <Measure
        label="Heel lies at"
        unit="mm"
        optional
        placeholder={forged ? "as needed" : "bar's end"}
        value={place.x ?? null}
        problem={at("place.x")}
        hint="along the bar"
        onChange={(x) => set({ x }, "x")}
      />
      {forged ? (
        <span />
      ) : (
        <>
          <Measure
            label="Edge lies at"
            unit="mm"
            optional
            min={-2000}
            placeholder="midway"
            value={place.y ?? null}
            problem={at("place.y")}
            hint="across, from the bar's middle"
            onChange={(y) => set({ y }, "y")}
          />
          <Measure
            label="Askew by"
            unit="deg"
            min={-180}
            max={180}
            value={place.angle ?? 0}
            problem={at("place.angle")}
            hint="in the plane of the bar"
            onChange={(v) => set({ angle: v ?? 0 }, "angle")}
          />
          <span />
        </>
      )}
      <div className="col-span-full">
        <span className="mb-0.5 block text-sm text-quiet">Right face lies on the bar's</span>
        <Segments<"top" | "bottom">
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
        <span className="mb-0.5 block text-sm text-quiet">Edge lies to the bar's</span>
        <Segments<"front" | "back">
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
