import { type ReactNode, useState } from "react";
import { api, ask } from "../../../api/client";
import type { BladeSection, Document, Ledger } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { SectionDrawing } from "../grind/SectionGlance";
import { Dial } from "./Dial";
import { Picture } from "./Picture";

type Props = { document: Document; shape: NonNullable<Ledger["shape"]> };

/** Sections every so many mm from heel to tip, all to one scale. */
export function SectionsView({ document, shape, choose }: Props & { choose: ReactNode }) {
  const unit = useUnit();
  const [every, setEvery] = useState(15);
  const [wider, setWider] = useState(2);
  const [ref, room] = useSize<HTMLDivElement>();
  const count = Math.max(2, Math.min(60, Math.round(shape.length / every)));
  const { recipe, blade, off } = document;
  const found = useWorkedOut<BladeSection[]>("sections", { document: { recipe, blade, off }, stations: count }, (body, signal) =>
    ask(api.POST("/api/blade/sections", { body, signal })),
  );
  const tallest = Math.max(1, ...(found.data ?? []).map((s) => s.height));
  const tall = Math.max(60, Math.min(170, room.height - 34));
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="min-h-28 flex-1 overflow-auto rounded-lg bg-plate p-2">
        <div className="flex flex-wrap items-end gap-x-3 gap-y-2">
          {(found.data ?? []).map((s) => (
            <figure key={s.x} className="text-center">
              <SectionDrawing
                section={s}
                width={Math.max(40, (shape.bar_thickness * wider * tall) / tallest + 12)}
                height={Math.max(12, (s.height / tallest) * tall)}
                wider={wider}
              />
              <figcaption className="font-mono text-[0.75rem] text-plate-quiet">{length(s.x, unit)}</figcaption>
            </figure>
          ))}
        </div>
      </div>
      <div className="flex flex-wrap items-end gap-x-4">
        {choose}
        <Dial
          label="One every"
          value={every}
          min={3}
          max={40}
          step={1}
          says={length(shape.length / count, unit)}
          onChange={setEvery}
        />
        <Dial
          label="Thickness drawn"
          value={wider}
          min={1}
          max={5}
          step={0.5}
          says={wider === 1 ? "to scale" : `${wider} times as wide`}
          onChange={setWider}
        />
      </div>
    </div>
  );
}

/** The blade seen square on its spine and on its edge. */
export function RimsView({ document, shape }: Props) {
  const [ref, room] = useSize<HTMLDivElement>();
  const margin = 1.5;
  const long = shape.length + 2 * margin;
  const tall = 1.1 * shape.bar_thickness + 2 * margin;
  const width = Math.max(40, room.width - 24);
  const box = { width, height: Math.max(12, Math.round((width * tall) / long)) };
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="grid min-h-24 flex-1 content-center gap-3 overflow-auto rounded-lg bg-plate p-3 text-plate-quiet">
        {room.width > 60
          ? (["spine", "edge"] as const).map((view) => (
              <figure key={view}>
                <figcaption className="text-sm">
                  {view === "spine" ? "Spine, left face up" : "Edge, right face up"}, tip right
                </figcaption>
                <Picture
                  path="/api/predict/blade.png"
                  body={{ document, view, side: "right", margin }}
                  box={box}
                  label={`The blade seen square on its ${view}`}
                  lane={`blade-${view}`}
                  missing="No blade to show yet."
                />
              </figure>
            ))
          : null}
      </div>
    </div>
  );
}
