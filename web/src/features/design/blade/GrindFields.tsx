import { useState } from "react";
import type { Blade, Grind } from "../../../api/types";
import { Choice, Segments, Toggle } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { Measure } from "../fields/Measure";
import { Fold } from "../Panel";
import { PartFields } from "./PartFields";

type Which = "both" | "right" | "left";
const KINDS: { value: NonNullable<Grind["kind"]>; label: string; hint: string }[] = [
  { value: "flat", label: "Flat", hint: "a straight bevel" },
  { value: "flat_convex", label: "Flat, convex at the edge", hint: "rounded over a band near the edge" },
  { value: "convex", label: "Convex", hint: "one arc from side to edge" },
  { value: "hollow", label: "Hollow", hint: "as a wheel leaves it" },
];
const SHARES = { even: 0.5, right: 1, left: 0 };

/** A grind of another kind, with what it needs filled in. */
export function ofKind(side: Grind, kind: NonNullable<Grind["kind"]>): Grind {
  const common: Grind = { kind, height: side.height, edge_thickness: side.edge_thickness };
  if (kind === "flat_convex")
    return { ...common, flat_edge_thickness: Math.round(side.edge_thickness * 200) / 100 || 0.6, band: 8 };
  if (kind === "hollow") return { ...common, height: side.height ?? 16, wheel_radius: side.wheel_radius ?? 150 };
  return common;
}

/** Thickness, what is ground off each side, ricasso, swedge and fuller. */
export function GrindFields({ blade, at, problems, put }: BladeFields) {
  const grind = blade.grind;
  const alike = JSON.stringify(grind.right) === JSON.stringify(grind.left);
  const [which, setWhich] = useState<Which>(alike ? "both" : "right");
  const shown = which === "left" ? "left" : "right";
  const side = grind[shown];
  const top = "height" in blade.outline ? blade.outline.height : 30;
  const set = (next: Grind, what: string) =>
    put({ grind: which === "both" ? { ...grind, right: next, left: next } : { ...grind, [which]: next } }, `${which}.${what}`);
  const more = (next: Partial<Blade["grind"]>, what: string) => put({ grind: { ...grind, ...next } }, what);
  const of = (field: string) => at(`grind.${shown}.${field}`) ?? (field === "kind" ? at(`grind.${shown}`) : undefined);
  const partial = side.height !== null && side.height !== undefined;
  const share = grind.share_right ?? 0.5;
  const single = share === 1 ? "right" : share === 0 ? "left" : share === 0.5 ? "even" : "own";
  const taper = blade.spine_thickness;
  const thick = (key: "heel" | "mid" | "tip", v: number | null) => put({ spine_thickness: { ...taper, [key]: v ?? 0 } }, key);
  return (
    <>
      <div className="col-span-full">
        <Segments<Which>
          label="Which side"
          value={which}
          options={[
            { value: "left", label: "left" },
            { value: "both", label: "both alike" },
            { value: "right", label: "right" },
          ]}
          onChange={(v) => {
            setWhich(v);
            if (v === "both" && !alike) put({ grind: { ...grind, left: grind.right } }, "alike");
          }}
        />
      </div>
      <div className="col-span-full">
        <span className="mb-0.5 block text-sm text-quiet">Grind</span>
        <Choice label="Grind" value={side.kind ?? "flat"} options={KINDS} onChange={(kind) => set(ofKind(side, kind), "kind")} />
        {of("kind") ? <p className="text-sm text-stop">{of("kind")}</p> : null}
      </div>
      <Measure
        label="Edge thickness"
        unit="mm"
        slider
        value={side.edge_thickness}
        problem={of("edge_thickness")}
        hint="before sharpening"
        onChange={(v) => set({ ...side, edge_thickness: v ?? 0 }, "edge")}
      />
      <Measure
        label="Bevel height"
        unit="mm"
        optional
        slider={partial}
        placeholder="to the spine"
        max={top}
        value={side.height ?? null}
        problem={of("height")}
        hint="from the edge"
        onChange={(height) => set({ ...side, height }, "height")}
      />
      {side.kind === "hollow" ? (
        <Measure
          label="Wheel radius"
          unit="mm"
          value={side.wheel_radius ?? null}
          problem={of("wheel_radius")}
          onChange={(v) => set({ ...side, wheel_radius: v ?? 150 }, "wheel")}
        />
      ) : null}
      {side.kind === "flat_convex" ? (
        <>
          <Measure
            label="Flat aims at"
            unit="mm"
            value={side.flat_edge_thickness ?? null}
            problem={of("flat_edge_thickness")}
            hint="edge it would reach"
            onChange={(v) => set({ ...side, flat_edge_thickness: v ?? side.edge_thickness }, "flat")}
          />
          <Measure
            label="Rounded over"
            unit="mm"
            value={side.band ?? null}
            problem={of("band")}
            hint="up from the edge"
            onChange={(v) => set({ ...side, band: v ?? 8 }, "band")}
          />
        </>
      ) : null}
      <div className="col-span-full">
        <span className="mb-0.5 block text-sm text-quiet">Steel is ground off</span>
        <Segments<"even" | "right" | "left" | "own">
          label="Steel is ground off"
          value={single}
          snug
          options={[
            { value: "left", label: "left only" },
            { value: "even", label: "both sides" },
            { value: "right", label: "right only" },
            ...(single === "own" ? [{ value: "own" as const, label: `${Math.round(share * 100)} % right` }] : []),
          ]}
          onChange={(v) => v !== "own" && more({ share_right: SHARES[v] }, "share")}
        />
      </div>
      <Measure
        label="Spine at the heel"
        unit="mm"
        slider
        value={taper.heel}
        problem={at("spine_thickness.heel")}
        onChange={(v) => thick("heel", v)}
      />
      <Measure
        label="Spine half-way"
        unit="mm"
        slider
        value={taper.mid}
        problem={at("spine_thickness.mid")}
        onChange={(v) => thick("mid", v)}
      />
      <Measure
        label="Spine at the tip"
        unit="mm"
        slider
        value={taper.tip}
        problem={at("spine_thickness.tip")}
        onChange={(v) => thick("tip", v)}
      />
      <Measure
        label="Off the right"
        unit="share"
        slider
        min={0}
        max={1}
        value={share}
        problem={at("grind.share_right")}
        hint="of all that is ground off"
        onChange={(v) => more({ share_right: v ?? 0.5 }, "share")}
      />
      <Details blade={blade} at={at} problems={problems} more={more} top={top} />
    </>
  );
}

function Details({
  blade,
  at,
  problems,
  more,
  top,
}: Pick<BladeFields, "blade" | "at" | "problems"> & {
  more: (next: Partial<Blade["grind"]>, what: string) => void;
  top: number;
}) {
  const { ricasso, plunge, swedge, fuller } = blade.grind;
  const length = "length" in blade.outline ? blade.outline.length : 150;
  return (
    <Fold title="ricasso and plunge, swedge, fuller" open={!!(ricasso || plunge || swedge || fuller)}>
      <Measure
        label="Ricasso"
        unit="mm"
        value={ricasso ?? 0}
        problem={at("grind.ricasso")}
        hint="left full thick, from the heel"
        onChange={(v) => more({ ricasso: v ?? 0 }, "ricasso")}
      />
      <Measure
        label="Plunge"
        unit="mm"
        value={plunge ?? 0}
        problem={at("grind.plunge")}
        hint="over which the bevel sweeps in"
        onChange={(v) => more({ plunge: v ?? 0 }, "plunge")}
      />
      <div className="col-span-full">
        <Toggle
          label="A swedge along the spine"
          checked={!!swedge}
          onChange={(on) =>
            more(
              { swedge: on ? { length: Math.round(length * 0.4), height: Math.round(top * 0.2), thickness: 1 } : null },
              "swedge",
            )
          }
        />
      </div>
      {swedge ? (
        <PartFields
          part="Swedge"
          path="grind.swedge"
          values={swedge}
          problems={problems}
          onChange={(v, what) => more({ swedge: v }, `swedge.${what}`)}
        />
      ) : null}
      <div className="col-span-full">
        <Toggle
          label="A fuller"
          checked={!!fuller}
          onChange={(on) =>
            more(
              {
                fuller: on
                  ? { start: 10, end: Math.round(length * 0.6), middle: Math.round(top * 0.75), width: 6, depth: 0.6 }
                  : null,
              },
              "fuller",
            )
          }
        />
      </div>
      {fuller ? (
        <PartFields
          part="Fuller"
          path="grind.fuller"
          values={fuller}
          problems={problems}
          onChange={(v, what) => more({ fuller: v }, `fuller.${what}`)}
        />
      ) : null}
    </Fold>
  );
}
