import { useRef, useState } from "react";
import { post, saveFile, whatWentWrong } from "../../../api/client";
import type { Blade } from "../../../api/types";
import { Button, Choice, Modal, Notice, Segments, Toggle } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { BladeFields } from "../BladePanel";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";
import { type DrawnOutline, faultOf, lengthOf, stretched } from "../outline";
import { Fold } from "../Panel";
import { PartFields } from "./PartFields";

type Shape = Extract<Blade["outline"], { shape: unknown }>["shape"];
const SHAPES: { value: NonNullable<Shape>; label: string; hint: string }[] = [
  { value: "drop_point", label: "Drop point", hint: "belly up, spine gently down" },
  { value: "straight_back", label: "Straight back", hint: "straight spine, belly to the tip" },
  { value: "sheepfoot", label: "Sheepfoot", hint: "straight edge, spine rounds down" },
  { value: "leaf", label: "Leaf", hint: "both sides meet on the middle line" },
  { value: "skew", label: "Skew", hint: "straight edge, straight slanting end" },
  { value: "clipped", label: "Clipped", hint: "spine cut away to a swept-up tip" },
  { value: "hook", label: "Hook", hint: "tip drops below the edge" },
  { value: "end_edge", label: "Chisel, plane iron", hint: "edge at the end, laid across the bar" },
];

/** Shape, sizes, choil and tang; read from a drawing, written as one. */
export function OutlineFields({ document, blade, at, problems, put }: BladeFields) {
  const outline = blade.outline;
  const tang = blade.tang;
  const [reading, setReading] = useState(false);
  const toast = useToast();
  const save = (kind: "svg" | "dxf") =>
    saveFile("/api/files/outline", { document, kind }, `blade.${kind}`).catch((e) => toast(whatWentWrong(e)));
  return (
    <>
      {"shape" in outline ? (
        <BuiltIn blade={blade} outline={outline} at={at} problems={problems} put={put} />
      ) : (
        <Drawn blade={blade} outline={outline} put={put} />
      )}
      <div className="col-span-full">
        <Toggle
          label="With a tang"
          checked={!!tang}
          onChange={(on) => put({ tang: on ? { length: 90, width: 14, end_width: 8 } : null }, "tang")}
        />
      </div>
      {tang ? (
        <PartFields
          part="Tang"
          path="tang"
          values={tang}
          problems={problems}
          onChange={(v, what) => put({ tang: v }, `tang.${what}`)}
        />
      ) : null}
      <div className="col-span-full flex flex-wrap gap-2">
        <Button onClick={() => setReading(true)}>Read a drawing…</Button>
        <Button kind="quiet" onClick={() => save("svg")}>
          Save SVG
        </Button>
        <Button kind="quiet" onClick={() => save("dxf")}>
          Save DXF
        </Button>
      </div>
      <Modal open={reading} onClose={() => setReading(false)} title="Read the outline from a drawing">
        <ReadDrawing
          onTake={(found, said) => {
            put({ outline: found }, "outline.read");
            setReading(false);
            toast(said);
          }}
        />
      </Modal>
    </>
  );
}

type BuiltInOutline = Extract<Blade["outline"], { shape: unknown }>;

function BuiltIn({
  blade,
  outline,
  at,
  problems,
  put,
}: Pick<BladeFields, "blade" | "at" | "problems" | "put"> & { outline: BuiltInOutline }) {
  const set = (next: Partial<BuiltInOutline>, what: string) => put({ outline: { ...outline, ...next } }, what);
  const choil = outline.choil;
  const acrossTheEnd = outline.shape === "end_edge";
  return (
    <>
      <div className="col-span-full">
        <Choice
          titled
          label="Shape"
          value={outline.shape}
          options={SHAPES}
          onChange={(shape) => {
            // an edge at the end of the tool lies across the bar: what was long is now up the tool
            const turns = (shape === "end_edge") !== (outline.shape === "end_edge");
            const place = turns ? { place: { ...blade.place, angle: shape === "end_edge" ? -90 : 0 } } : {};
            const sizes = turns ? { length: outline.height, height: outline.length } : {};
            put({ outline: { ...outline, ...sizes, shape }, ...place }, "shape");
          }}
        />
      </div>
      <MeasureRows<BuiltInOutline>
        of={outline}
        put={set}
        wrong={(name) => at(`outline.${name}`)}
        rows={[
          { name: "length", label: acrossTheEnd ? "Width of the edge" : "Length", unit: "mm", slider: true, usual: 0 },
          { name: "height", label: acrossTheEnd ? "Up the tool" : "Height at the heel", unit: "mm", slider: true, usual: 0 },
          !acrossTheEnd && {
            name: "point",
            label: "Point takes",
            unit: "share",
            slider: true,
            min: 0.05,
            max: 0.95,
            usual: 0.4,
            hint: "of the length",
          },
          {
            name: "tip",
            label: "Tip lies at",
            unit: "share",
            placeholder: "as the shape",
            min: -0.6,
            max: 1,
            hint: acrossTheEnd ? "of the height: a skewed edge" : "of the height; 1: at the spine",
          },
        ]}
      />
      <Fold title="belly, clip, rounded heel, choil" open={!!(outline.belly || outline.clip || outline.heel || choil)}>
        <MeasureRows<BuiltInOutline>
          of={outline}
          put={set}
          wrong={(name) => at(`outline.${name}`)}
          rows={[
            {
              name: "belly",
              label: "Belly",
              unit: "share",
              min: -0.3,
              max: 0.3,
              usual: 0,
              hint: "of the height, hanging below a straight edge",
            },
            {
              name: "clip",
              label: "Spine comes down over",
              unit: "share",
              placeholder: "as the shape",
              min: 0.05,
              max: 0.95,
              hint: "of the length",
            },
            { name: "heel", label: "Heel rounded", unit: "mm", usual: 0, hint: "radius" },
          ]}
        />
        <span />
        <div className="col-span-full">
          <Toggle
            label="A choil in front of the heel"
            checked={!!choil}
            onChange={(on) => set({ choil: on ? { length: 8, depth: 3 } : null }, "choil")}
          />
        </div>
        {choil ? (
          <PartFields
            part="Choil"
            path="outline.choil"
            values={choil}
            problems={problems}
            onChange={(v, what) => set({ choil: v }, `choil.${what}`)}
          />
        ) : null}
      </Fold>
    </>
  );
}

function Drawn({ outline, put }: Pick<BladeFields, "blade" | "put"> & { outline: DrawnOutline }) {
  const length = lengthOf(outline);
  const fault = faultOf(outline);
  return (
    <>
      <p className="col-span-full text-quiet">Drawn point by point: drag its points in the Outline look, or type them there.</p>
      <Measure
        label="Length"
        unit="mm"
        value={length}
        problem={fault || undefined}
        onChange={(v) => v && v >= 10 && put({ outline: stretched(outline, v) }, "drawn.length")}
      />
      <div className="flex items-end">
        <Button
          kind="quiet"
          onClick={() =>
            put({ outline: { shape: "drop_point", length: Math.round(length), height: 30, point: 0.4 } }, "outline.built-in")
          }
        >
          A built-in shape
        </Button>
      </div>
    </>
  );
}

/** A file with the blade's outline, how it lies in the drawing, and its true length. */
function ReadDrawing({ onTake }: { onTake: (outline: DrawnOutline, said: string) => void }) {
  const [tip, setTip] = useState<"right" | "left">("right");
  const [edge, setEdge] = useState<"down" | "up">("down");
  const [length, setLength] = useState<number | null>(null);
  const [heel, setHeel] = useState<number | null>(null);
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const read = async () => {
    const chosen = file.current?.files?.[0];
    if (!chosen) {
      setProblem("Choose an SVG or DXF file first.");
      return;
    }
    const form = new FormData();
    form.append("file", chosen);
    const query = new URLSearchParams({ tip, edge, heel: String(heel ?? 0), ...(length ? { length: String(length) } : {}) });
    setBusy(true);
    setProblem("");
    try {
      const found = await (await post(`/api/files/blade-outline?${query}`, form)).json();
      const notes: string[] = found.notes;
      onTake(
        found.outline,
        `Outline read: ${Math.round(found.length)} × ${Math.round(found.height)} mm${notes.length ? `; ${notes.join("; ")}` : ""}.`,
      );
    } catch (e) {
      setProblem(whatWentWrong(e));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="flex flex-col gap-3">
      <input ref={file} type="file" accept=".svg,.dxf" aria-label="Drawing of the outline, SVG or DXF" />
      <div className="grid grid-cols-2 gap-3">
        <div>
          <Segments
            titled
            label="Its tip points"
            value={tip}
            options={[
              { value: "left", label: "left" },
              { value: "right", label: "right" },
            ]}
            onChange={setTip}
          />
        </div>
        <div>
          <Segments
            titled
            label="Its edge is"
            value={edge}
            options={[
              { value: "down", label: "below" },
              { value: "up", label: "above" },
            ]}
            onChange={setEdge}
          />
        </div>
        <Measure
          label="True length of the drawing"
          unit="mm"
          optional
          placeholder="as drawn"
          value={length}
          onChange={setLength}
          hint="all of it, tip to the other end"
        />
        <Measure
          label="Of that, behind the heel"
          unit="mm"
          optional
          placeholder="0"
          value={heel}
          onChange={setHeel}
          hint="a tang is left out"
        />
      </div>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      <p className="text-sm text-quiet">
        The largest outline counts. Small gaps are closed; what crosses itself or runs back is refused with the place.
      </p>
      <Button kind="main" disabled={busy} onClick={() => void read()}>
        {busy ? "Reading…" : "Read it"}
      </Button>
    </div>
  );
}
