import { type PointerEvent, useState } from "react";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Segments } from "../../../ui";
import type { BarViewProps } from "./BarView";
import { Dial } from "./Dial";
import { fitted, Picture } from "./Picture";

const FACES = [
  { value: "top", label: "top" },
  { value: "bottom", label: "under" },
  { value: "front", label: "front" },
  { value: "back", label: "back" },
] as const;

/** A window ground anywhere into the bar: click where, and say how deep. Its slopes cut the layers at a slant. */
export function WindowView({ subject, row }: BarViewProps) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const [face, setFace] = useState<(typeof FACES)[number]["value"]>("top");
  const [at, setAt] = useState({ x: 0.5, v: 0.5 });
  const upright = face === "front" || face === "back";
  const tall = upright ? row.thickness : row.width;
  const deep = upright ? row.width : row.thickness;
  const [depth, setDepth] = useState(0.25);
  const [size, setSize] = useState(0.45);
  const shown = Math.min(row.length, Math.max(tall * 3, (tall * room.width) / Math.max(1, room.height)));
  const x0 = Math.min(Math.max(0, at.x * row.length - shown / 2), row.length - shown);
  const box = fitted(shown, tall, { width: Math.max(40, room.width - 8), height: Math.max(24, room.height - 8) });
  const wide = size * tall;
  const window = {
    face,
    x: round(at.x * row.length),
    across: round((at.v - 0.5) * tall),
    length: round(wide * 1.5),
    width: round(wide),
    depth: round(depth * deep * 0.98),
    slope: 2.5,
  };
  const pick = (e: PointerEvent<HTMLButtonElement>) => {
    const edge = e.currentTarget.getBoundingClientRect();
    const x = x0 + ((e.clientX - edge.left) / edge.width) * shown;
    setAt({ x: Math.min(1, Math.max(0, x / row.length)), v: 1 - (e.clientY - edge.top) / edge.height });
  };
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="grid min-h-20 flex-1 place-items-center overflow-hidden rounded-lg bg-plate">
        {room.width > 40 ? (
          <button type="button" title="Put the window here" onPointerDown={pick} className="cursor-crosshair" style={box}>
            <Picture
              path="/api/predict/bar.png"
              body={{ ...subject, view: "window", window, x0: round(x0), x1: round(x0 + shown) }}
              box={box}
              label={`The bar's ${face} face with a window ground ${length(window.depth, unit)} deep`}
              lane="bar-window"
            />
          </button>
        ) : null}
      </div>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
        <Segments label="Face" value={face} options={[...FACES]} onChange={setFace} />
        <Dial label="Deep" value={depth} min={0} max={1} step={0.005} says={length(window.depth, unit)} onChange={setDepth} />
        <Dial label="Floor" value={size} min={0.05} max={1} step={0.01} says={length(window.width, unit)} onChange={setSize} />
        <Dial
          label="At"
          value={at.x}
          min={0}
          max={1}
          step={0.002}
          says={length(window.x, unit)}
          onChange={(x) => setAt({ ...at, x })}
        />
      </div>
    </div>
  );
}

function round(mm: number): number {
  return Math.round(mm * 1000) / 1000;
}
