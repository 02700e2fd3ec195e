import { useState } from "react";
import type { Blade, Grind } from "../../../api/types";
import { Choice, Segments, Toggle } from "../../../ui";
import type { BladeFields } from "../BladePanel";
import { MeasureRows } from "../fields/MeasureRows";
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
  const ofAll = (field: string) => at(`grind.${field}`);
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
        <Choice
          titled
          label="Grind"
          value={side.kind ?? "flat"}
          options={KINDS}
          onChange={(kind) => set(ofKind(side, kind), "kind")}
        />
        {of("kind") ? <p className="text-sm text-stop">{of("kind")}</p> : null}
      </div>
      <MeasureRows<Grind>
        of={side}
        put={(next, what) => set({ ...side, ...next }, what)}
        wrong={of}
        rows={[
          { name: "edge_thickness", label: "Edge thickness", unit: "mm", slider: true, usual: 0, hint: "before sharpening" },
          {
            name: "height",
            label: "Bevel height",
            unit: "mm",
            slider: partial,
            placeholder: "to the spine",
            max: top,
            hint: "from the edge",
          },
          side.kind === "hollow" && { name: "wheel_radius", label: "Wheel radius", unit: "mm", usual: 150 },
          side.kind === "flat_convex" && {
            name: "flat_edge_thickness",
            label: "Flat aims at",
            unit: "mm",
            usual: side.edge_thickness,
            hint: "edge it would reach",
          },
          side.kind === "flat_convex" && { name: "band", label: "Rounded over", unit: "mm", usual: 8, hint: "up from the edge" },
        ]}
      />
      <div className="col-span-full">
        <Segments<"even" | "right" | "left" | "own">
          titled
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
      <MeasureRows<Blade["spine_thickness"]>
        of={taper}
        put={(next, what) => put({ spine_thickness: { ...taper, ...next } }, what)}
        wrong={(name) => at(`spine_thickness.${name}`)}
        rows={[
          { name: "heel", label: "Spine at the heel", unit: "mm", slider: true, usual: 0 },
          { name: "mid", label: "Spine half-way", unit: "mm", slider: true, usual: 0 },
          { name: "tip", label: "Spine at the tip", unit: "mm", slider: true, usual: 0 },
        ]}
      />
      <MeasureRows<Blade["grind"]>
        of={grind}
        put={more}
        wrong={ofAll}
        rows={[
          {
            name: "share_right",
            label: "Off the right",
            unit: "share",
            slider: true,
            min: 0,
            max: 1,
            usual: 0.5,
            hint: "of all that is ground off",
          },
        ]}
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
      <MeasureRows<Blade["grind"]>
        of={blade.grind}
        put={more}
        wrong={(name) => at(`grind.${name}`)}
        rows={[
          { name: "ricasso", label: "Ricasso", unit: "mm", usual: 0, hint: "left full thick, from the heel" },
          { name: "plunge", label: "Plunge", unit: "mm", usual: 0, hint: "over which the bevel sweeps in" },
        ]}
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
