import type { Blade } from "../../api/types";
import { Button, Choice, Segments } from "../../ui";
import { Measure } from "./fields/Measure";
import { sentence, under } from "./fields/problems";
import { Shell } from "./Panel";
import type { PanelCommon } from "./StepPanel";

export const FRESH_BLADE: Blade = {
  format: "varistrat.blade/1",
  outline: { shape: "drop_point", length: 150, height: 30, point: 0.4 },
  spine_thickness: { heel: 4, mid: 3.5, tip: 2 },
  grind: { right: { kind: "flat", edge_thickness: 0.4 }, left: { kind: "flat", edge_thickness: 0.4 } },
};

const SHAPES: { value: NonNullable<Shape>; label: string; hint: string }[] = [
  { value: "drop_point", label: "Drop point", hint: "belly up, spine gently down" },
  { value: "straight_back", label: "Straight back", hint: "straight spine, belly to the tip" },
  { value: "sheepfoot", label: "Sheepfoot", hint: "straight edge, spine rounds down" },
  { value: "leaf", label: "Leaf", hint: "both sides meet on the middle line" },
  { value: "skew", label: "Skew", hint: "straight edge, straight slanting end" },
  { value: "clipped", label: "Clipped", hint: "spine cut away to a swept-up tip" },
  { value: "hook", label: "Hook", hint: "tip drops below the edge" },
];
type Shape = Extract<Blade["outline"], { shape: unknown }>["shape"];

/** Outline, thickness, grind and place of the blade. */
export function BladePanel({ document, problems, change }: Pick<PanelCommon, "document" | "problems" | "change">) {
  const blade = document.blade;
  if (!blade) {
    return (
      <Shell title="No blade yet" about="A blade shows what the bar's pattern becomes on bevelled faces.">
        <div className="col-span-full">
          <Button kind="main" onClick={() => change({ type: "blade", blade: FRESH_BLADE, what: "add" })}>
            Cut a blade from the bar
          </Button>
        </div>
      </Shell>
    );
  }
  const own = under(problems, "blade");
  const at = (path: string) => own.filter((p) => p.path === path).map(sentence)[0];
  const put = (next: Partial<Blade>, what: string) => change({ type: "blade", blade: { ...blade, ...next }, what });
  const outline = blade.outline;
  const grind = blade.grind;
  const side = grind.right;
  const partial = side.height !== null && side.height !== undefined;
  const both = (next: Partial<typeof side>, what: string) =>
    put({ grind: { ...grind, right: { ...side, ...next }, left: { ...grind.left, ...next } } }, what);
  const taper = blade.spine_thickness;
  const place = blade.place ?? {};
  return (
    <Shell
      title="Blade"
      about="Cut from the bar; both sides ground alike."
      actions={
        <Button kind="quiet" onClick={() => change({ type: "blade", blade: null, what: "remove" })}>
          Take it out
        </Button>
      }
    >
      {"shape" in outline ? (
        <>
          <div className="col-span-full">
            <span className="mb-0.5 block text-sm text-quiet">Shape</span>
            <Choice
              label="Shape"
              value={outline.shape}
              options={SHAPES}
              onChange={(shape) => put({ outline: { ...outline, shape } }, "shape")}
            />
          </div>
          <Measure
            label="Length"
            unit="mm"
            slider
            value={outline.length}
            problem={at("outline.length")}
            onChange={(v) => put({ outline: { ...outline, length: v ?? 0 } }, "length")}
          />
          <Measure
            label="Height at the heel"
            unit="mm"
            slider
            value={outline.height}
            problem={at("outline.height")}
            onChange={(v) => put({ outline: { ...outline, height: v ?? 0 } }, "height")}
          />
          <Measure
            label="Point takes"
            unit="share"
            slider
            max={0.95}
            min={0.05}
            value={outline.point ?? 0.4}
            problem={at("outline.point")}
            hint="of the length"
            onChange={(v) => put({ outline: { ...outline, point: v ?? 0.4 } }, "point")}
          />
        </>
      ) : (
        <p className="col-span-full text-quiet">The outline is drawn point by point in the imported file.</p>
      )}
      <Measure
        label="Edge thickness"
        unit="mm"
        slider
        value={side.edge_thickness}
        problem={at("grind.right.edge_thickness")}
        hint="before sharpening"
        onChange={(v) => both({ edge_thickness: v ?? 0 }, "edge")}
      />
      <div className="col-span-full">
        <span className="mb-0.5 block text-sm text-quiet">Flat bevel</span>
        <Segments
          label="Flat bevel"
          value={partial ? "part" : "full"}
          options={[
            { value: "full", label: "up to the spine" },
            { value: "part", label: "part of the way" },
          ]}
          onChange={(v) =>
            both({ height: v === "part" ? Math.round(("height" in outline ? outline.height : 30) * 0.75) : null }, "bevel")
          }
        />
      </div>
      {partial ? (
        <Measure
          label="Bevel height"
          unit="mm"
          slider
          value={side.height}
          problem={at("grind.right.height")}
          hint="from the edge"
          onChange={(v) => both({ height: v }, "height")}
        />
      ) : null}
      <Measure
        label="Spine at the heel"
        unit="mm"
        slider
        value={taper.heel}
        problem={at("spine_thickness.heel")}
        onChange={(v) => put({ spine_thickness: { ...taper, heel: v ?? 0 } }, "heel")}
      />
      <Measure
        label="Spine half-way"
        unit="mm"
        slider
        value={taper.mid}
        problem={at("spine_thickness.mid")}
        onChange={(v) => put({ spine_thickness: { ...taper, mid: v ?? 0 } }, "mid")}
      />
      <Measure
        label="Spine at the tip"
        unit="mm"
        slider
        value={taper.tip}
        problem={at("spine_thickness.tip")}
        onChange={(v) => put({ spine_thickness: { ...taper, tip: v ?? 0 } }, "tip")}
      />
      <Measure
        label="Heel lies at"
        unit="mm"
        optional
        placeholder="bar's end"
        value={place.x ?? null}
        problem={at("place.x")}
        hint="along the bar"
        onChange={(v) => put({ place: { ...place, x: v } }, "x")}
      />
      <Measure
        label="Edge lies at"
        unit="mm"
        optional
        placeholder="midway"
        value={place.y ?? null}
        problem={at("place.y")}
        hint="across, from the bar's middle"
        onChange={(v) => put({ place: { ...place, y: v } }, "y")}
      />
      <div className="col-span-full">
        <span className="mb-0.5 block text-sm text-quiet">Right face lies on the bar's</span>
        <Segments
          label="Right face lies on the bar's"
          value={place.right_face ?? "top"}
          options={[
            { value: "top", label: "top" },
            { value: "bottom", label: "underside" },
          ]}
          onChange={(v) => put({ place: { ...place, right_face: v, tip_end: null } }, "face")}
        />
      </div>
    </Shell>
  );
}
