import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

/** A place on the photo, in its own pixels. */
export type Spot = { px: number; py: number };

/** Places marked on a photo one after the other: by pointer, or by the arrow keys and Enter. */
export function SpotPicker({
  address,
  spots,
  next,
  onSpot,
}: {
  address: string;
  spots: Spot[];
  next: string;
  onSpot: (spot: Spot) => void;
}) {
  const box = useRef<HTMLButtonElement>(null);
  const [size, setSize] = useState<{ w: number; h: number } | null>(null);
  const [hand, setHand] = useState<Spot | null>(null);
  const click = (e: PointerEvent<HTMLButtonElement>) => {
    if (!size || !box.current) return;
    const edge = box.current.getBoundingClientRect();
    setHand(null);
    onSpot({ px: ((e.clientX - edge.left) / edge.width) * size.w, py: ((e.clientY - edge.top) / edge.height) * size.h });
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
    if (move)
      setHand({
        px: Math.min(Math.max(at.px + move[0], 0), size.w),
        py: Math.min(Math.max(at.py + move[1], 0), size.h),
      });
    else if (e.key === "Enter" || e.key === " ") onSpot(at);
    else return;
    e.preventDefault();
  };
  const on = (s: Spot) => ({ left: `${(s.px / (size?.w ?? 1)) * 100}%`, top: `${(s.py / (size?.h ?? 1)) * 100}%` });
  return (
    <div>
      <p role="status" className="mb-2 font-semibold">
        {spots.length + 1}. Click on {next}.
      </p>
      <button
        ref={box}
        type="button"
        aria-label={`Photo: mark ${next}. Arrows move the mark, with shift further; Enter sets it.`}
        onPointerUp={click}
        onKeyDown={key}
        className="relative block w-full cursor-crosshair touch-none overflow-hidden rounded-lg bg-plate"
      >
        <img
          src={address}
          alt=""
          draggable={false}
          className="block w-full select-none"
          onLoad={(e) => setSize({ w: e.currentTarget.naturalWidth, h: e.currentTarget.naturalHeight })}
        />
        {spots.map((s, i) => (
          <span
            key={`${s.px},${s.py}`}
            style={on(s)}
            className="pointer-events-none absolute grid h-6 w-6 -translate-1/2 place-items-center rounded-full border-2 border-[#8fb6e6] bg-black/60 text-sm text-white"
          >
            {i + 1}
          </span>
        ))}
        {hand ? (
          <span
            style={on(hand)}
            className="pointer-events-none absolute h-8 w-8 -translate-1/2 rounded-full border-2 border-[#e3b256]"
          >
            <span className="absolute top-1/2 left-1/2 h-1 w-1 -translate-1/2 bg-[#e3b256]" />
          </span>
        ) : null}
      </button>
    </div>
  );
}
