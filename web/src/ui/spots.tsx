import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from "react";
import { useUnderWay } from "../lib/rest";

/** A place on a picture, in its own pixels. */
export type Spot = { px: number; py: number };
export type Size = { w: number; h: number };

/** Where a spot stands on a picture of this size. */
export const spotAt = (s: Spot, size: Size) => ({ left: `${(s.px / size.w) * 100}%`, top: `${(s.py / size.h) * 100}%` });

/** Places marked on a picture one after the other: by pointer, or by the arrow keys and Enter. `marks`: numbered; `over`: what else is
 * drawn on it, once its size is known. */
export function Spots({
  src,
  next,
  marks,
  onSpot,
  onBroken,
  over,
  className = "w-full",
}: {
  src: string;
  /** What is to be marked next, in words. */
  next: string;
  marks: Spot[];
  onSpot: (spot: Spot, size: Size) => void;
  onBroken?: () => void;
  over?: (size: Size) => ReactNode;
  className?: string;
}) {
  const box = useRef<HTMLButtonElement>(null);
  const [size, setSize] = useState<Size | null>(null);
  const [broken, setBroken] = useState(false);
  // nothing can be marked before the picture's size is known
  useUnderWay(!size && !broken);
  const [hand, setHand] = useState<Spot | null>(null);
  const click = (e: PointerEvent<HTMLButtonElement>) => {
    if (!size || !box.current) return;
    const edge = box.current.getBoundingClientRect();
    setHand(null);
    onSpot({ px: ((e.clientX - edge.left) / edge.width) * size.w, py: ((e.clientY - edge.top) / edge.height) * size.h }, size);
  };
  const key = (e: KeyboardEvent<HTMLButtonElement>) => {
    if (!size) return;
    const at = hand ?? { px: size.w / 2, py: size.h / 2 };
    const step = (e.shiftKey ? 0.02 : 0.002) * size.w;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const move = moves[e.key];
    if (move) setHand({ px: Math.min(Math.max(at.px + move[0], 0), size.w), py: Math.min(Math.max(at.py + move[1], 0), size.h) });
    else if (e.key === "Enter" || e.key === " ") onSpot(at, size);
    else return;
    e.preventDefault();
  };
  return (
    <button
      ref={box}
      type="button"
      aria-busy={!size && !broken}
      aria-label={`Photo: mark ${next}. Arrows move the mark, with shift further; Enter sets it.`}
      onPointerUp={click}
      onKeyDown={key}
      className={`relative block cursor-crosshair touch-manipulation overflow-hidden rounded-lg bg-plate ${className}`}
    >
      <img
        src={src}
        alt=""
        draggable={false}
        className="block max-h-[70vh] max-w-full select-none"
        onLoad={(e) => setSize({ w: e.currentTarget.naturalWidth, h: e.currentTarget.naturalHeight })}
        onError={() => {
          setBroken(true);
          onBroken?.();
        }}
      />
      {size ? (
        <>
          {over?.(size)}
          {marks.map((s, i) => (
            <span
              key={`${s.px},${s.py}`}
              style={spotAt(s, size)}
              className="pointer-events-none absolute grid h-6 w-6 -translate-1/2 place-items-center rounded-full border-2 border-[#8fb6e6] bg-black/60 text-sm text-white"
            >
              {i + 1}
            </span>
          ))}
          {hand ? (
            <span
              style={spotAt(hand, size)}
              className="pointer-events-none absolute h-8 w-8 -translate-1/2 rounded-full border-2 border-[#e3b256]"
            >
              <span className="absolute top-1/2 left-1/2 h-1 w-1 -translate-1/2 bg-[#e3b256]" />
            </span>
          ) : null}
        </>
      ) : null}
    </button>
  );
}
