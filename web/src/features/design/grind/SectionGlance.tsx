import type { BladeSection } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { path } from "../../../ui/chart";

/** One cross-section drawn to scale: right face to the right, edge down; the core shown where it lies. Thickness may be drawn wider. */
export function SectionDrawing({
  section,
  width,
  height,
  wider = 1,
}: {
  section: BladeSection;
  width: number;
  height: number;
  wider?: number;
}) {
  const reach = Math.max(...section.right.map(Math.abs), ...section.left.map(Math.abs), 0.1) * wider;
  const scale = Math.min((height - 8) / Math.max(section.height, 0.1), (width - 8) / (2 * reach));
  const x = (z: number) => width / 2 + z * wider * scale;
  const y = (h: number) => height - 4 - h * scale;
  const ring = (right: number[], left: number[]) =>
    `${path(section.h.map((h, i) => [x(right[i] ?? 0), y(h)]))}${path(section.h.map((h, i) => [x(left[i] ?? 0), y(h)] as [number, number]).reverse()).replace("M", "L")}Z`;
  return (
    <svg width={width} height={height} aria-hidden className="block">
      <path d={ring(section.right, section.left)} fill="#8d877c" stroke="#d8d1c4" strokeWidth={1} />
      {section.core_right && section.core_left ? <path d={ring(section.core_right, section.core_left)} fill="#1d1c1a" /> : null}
      <path d={ring(section.right, section.left)} fill="none" stroke="#d8d1c4" strokeWidth={1} />
    </svg>
  );
}

/** The section under the pointer, with its sizes in words. */
export function SectionGlance({ sections, at }: { sections: BladeSection[]; at: number }) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const nearest = sections.reduce<BladeSection | null>(
    (best, s) => (best && Math.abs(best.x - at) <= Math.abs(s.x - at) ? best : s),
    null,
  );
  if (!nearest) return null;
  const thick = (i: number) => (nearest.right[i] ?? 0) - (nearest.left[i] ?? 0);
  return (
    <figure className="shrink-0">
      <figcaption className="text-sm text-quiet">
        Cut {length(nearest.x, unit)} from the heel, seen from the heel, thickness drawn 3 times as wide. Edge{" "}
        <span className="font-mono text-ink">{length(thick(0), unit)}</span>, spine{" "}
        <span className="font-mono text-ink">{length(thick(nearest.h.length - 1), unit)}</span>.
      </figcaption>
      <div ref={ref} className="mt-1 grid h-52 place-items-center rounded-lg bg-plate">
        {room.width > 20 ? (
          <SectionDrawing section={nearest} width={room.width} height={Math.max(40, room.height)} wider={3} />
        ) : null}
      </div>
      <div className="flex justify-between text-sm text-quiet">
        <span>left</span>
        <span>right</span>
      </div>
    </figure>
  );
}
