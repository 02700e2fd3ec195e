import { type PointerEvent, useRef } from "react";
import { useUnit } from "../../app/session";
import { length, lengthText } from "../../lib/units";

/** How much is ground off the face: drag down to grind into the bar. */
export function DepthHandle({ value, max, onChange }: { value: number; max: number; onChange: (mm: number) => void }) {
  const unit = useUnit();
  const track = useRef<HTMLDivElement>(null);
  const set = (mm: number) => onChange(Math.round(Math.min(max, Math.max(0, mm)) * 1000) / 1000);
  const follow = (e: PointerEvent) => {
    const box = track.current?.getBoundingClientRect();
    if (box) set(((e.clientY - box.top) / box.height) * max);
  };
  const step = max / 50;
  return (
    <div className="flex w-16 shrink-0 flex-col items-center gap-1 text-center text-sm text-quiet">
      <span>ground off</span>
      <div
        ref={track}
        role="slider"
        tabIndex={0}
        aria-label="Ground off the face"
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={max}
        aria-valuenow={value}
        aria-valuetext={length(value, unit)}
        className="relative my-5 w-16 flex-1 cursor-ns-resize touch-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          follow(e);
        }}
        onPointerMove={(e) => e.buttons && follow(e)}
        onKeyDown={(e) => {
          const moves: Record<string, number> = {
            ArrowDown: step,
            ArrowUp: -step,
            ArrowRight: step,
            ArrowLeft: -step,
            PageDown: 5 * step,
            PageUp: -5 * step,
          };
          const by = moves[e.key];
          if (by !== undefined) set(value + by);
          else if (e.key === "Home") set(0);
          else if (e.key === "End") set(max);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        <span
          aria-hidden
          className="absolute top-0 bottom-0 left-1/2 w-3 -translate-x-1/2 overflow-hidden rounded-full border border-edge bg-well"
        >
          <span className="block w-full bg-edge" style={{ height: `${(value / max) * 100}%` }} />
        </span>
        <span
          aria-hidden
          className="absolute left-1/2 grid h-9 w-14 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-lg bg-ink font-mono text-panel shadow"
          style={{ top: `${(value / max) * 100}%` }}
        >
          {lengthText(value, unit)}
        </span>
      </div>
      <span>of {length(max, unit)}</span>
    </div>
  );
}
