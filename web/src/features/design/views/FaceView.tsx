import { useState } from "react";
import { useUnit } from "../../../app/session";
import { length, lengthText, UNIT_MARK } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { DepthHandle } from "../DepthHandle";
import type { BarViewProps } from "./BarView";
import { Picture } from "./Picture";

const END_MOST_PX = 170;

/** The chosen bar from close by: its face ground away under your finger, and its end grain. */
export function FaceView({ subject, row, ground, onGround }: BarViewProps) {
  const unit = useUnit();
  const [ref, size] = useSize<HTMLDivElement>();
  const [place, setPlace] = useState(0.5);
  const off = Math.min(ground, row.thickness);
  const z = row.thickness / 2 - off;

  const scale = Math.max(0.5, Math.min(9, size.height / row.width, size.height ? 9 : 1));
  const shown = Math.min(row.length, size.width / scale);
  const middle = shown / 2 + place * (row.length - shown);
  const x0 = Math.max(0, middle - shown / 2);
  const face = { width: Math.round(shown * scale), height: Math.max(2, Math.round(row.width * scale)) };
  const endScale = Math.min(END_MOST_PX / row.width, Math.max(40, size.height - 26) / row.thickness, 9);
  const end = { width: Math.max(2, Math.round(row.width * endScale)), height: Math.max(2, Math.round(row.thickness * endScale)) };
  const ready = size.width > 60 && size.height > 40;
  return (
    <div className="flex min-h-0 min-w-0 flex-1 gap-3 p-3">
      <DepthHandle value={off} max={row.thickness} onChange={onGround} />
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <div ref={ref} className="grid min-h-24 flex-1 place-items-center overflow-hidden rounded-lg bg-plate">
          {ready ? (
            <Picture
              path="/api/predict/bar.png"
              lane="bar-face"
              body={{ ...subject, view: "face", z: round(z), x0: round(x0), x1: round(x0 + shown) }}
              box={face}
              label={`Face of the bar ground ${length(off, unit)} down`}
            />
          ) : null}
        </div>
        {/* as high with the slider as without: the height decides the scale, the scale whether there is a slider */}
        <div className="flex min-h-8 items-center gap-3 text-sm text-quiet">
          <span className="shrink-0 font-mono">
            {lengthText(x0, unit)} to {lengthText(x0 + shown, unit)} of {length(row.length, unit)}
          </span>
          {row.length > shown + 0.5 ? (
            <input
              type="range"
              aria-label="Look along the bar"
              className="h-8 min-w-0 flex-1"
              min={0}
              max={1}
              step={0.005}
              value={place}
              onChange={(e) => setPlace(Number(e.target.value))}
            />
          ) : null}
        </div>
      </div>
      <figure className="flex w-[11.5rem] shrink-0 flex-col max-[1100px]:w-32">
        <div className="grid min-h-0 flex-1 place-items-center overflow-hidden rounded-lg bg-plate">
          {ready ? (
            <Picture
              path="/api/predict/bar.png"
              lane="bar-end"
              body={{ ...subject, view: "end", x: round(middle) }}
              box={end}
              label="End grain"
            />
          ) : null}
        </div>
        <figcaption className="flex h-8 items-center justify-center text-sm text-quiet">
          End grain at {lengthText(middle, unit)} {UNIT_MARK[unit]}
        </figcaption>
      </figure>
    </div>
  );
}

function round(mm: number): number {
  return Math.round(mm * 1000) / 1000;
}
