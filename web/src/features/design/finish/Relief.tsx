import type { FinishSheet } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { path, scaled } from "../../../ui/chart";
import { micro, nail, reliefLine } from "./words";

const TALL = 150;
const TOP = 26;
const TONE = (depth: number, most: number) =>
  `color-mix(in srgb, var(--color-plate-ink) ${Math.round(88 - 44 * (depth / most))}%, black)`;

/** A stretch of the face cut across after the etch, its relief drawn many times as high, with what a nail feels. */
export function Relief({ sheet }: { sheet: FinishSheet }) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const depths = Object.fromEntries(sheet.steels.map((s) => [s.steel, s.depths.at(-1) ?? 0]));
  const least = Math.min(...Object.values(depths));
  const line = reliefLine(sheet.across, depths);
  const long = line.at(-1)?.[0] ?? 1;
  const wide = Math.max(200, room.width);
  const most = Math.max(sheet.relief, sheet.felt) * 1.15;
  const x = scaled([0, long], [4, wide - 4]);
  const y = scaled([0, most], [TOP, TALL - 14]);
  const times = Math.round((((TALL - 14 - TOP) / most) * 1000) / ((wide - 8) / long) / 10) * 10;
  const body = `${path(line.map(([a, d]) => [x(a), y(d)]))}L${x(long)} ${TALL}L${x(0)} ${TALL}Z`;
  let at = 0;
  return (
    <figure className="m-0" aria-label="The relief, cut across">
      <div ref={ref} className="overflow-hidden rounded-lg bg-plate">
        <svg width={wide} height={TALL} role="img" aria-label={`Relief ${micro(sheet.relief, unit)}`} className="block">
          <clipPath id="relief-body">
            <path d={body} />
          </clipPath>
          <g clipPath="url(#relief-body)">
            {sheet.across.map((layer, i) => {
              const from = at;
              at += layer.width;
              const deep = (depths[layer.steel] ?? least) - least;
              return (
                <rect
                  // biome-ignore lint/suspicious/noArrayIndexKey: a layer is its place across
                  key={i}
                  x={x(from)}
                  width={Math.max(0.5, x(from + layer.width) - x(from))}
                  y={0}
                  height={TALL}
                  fill={TONE(deep, Math.max(sheet.relief, 1))}
                />
              );
            })}
          </g>
          {[
            { um: sheet.felt, says: "a nail feels it from here" },
            { um: sheet.catches, says: "dirt stays from here" },
          ]
            .filter((m) => m.um < most)
            .map((m) => (
              <g key={m.um}>
                <line
                  x1={0}
                  x2={wide}
                  y1={y(m.um)}
                  y2={y(m.um)}
                  stroke="var(--color-plate-quiet)"
                  strokeDasharray="5 4"
                  strokeWidth={1.5}
                />
                <text
                  x={8}
                  y={y(m.um) - 4}
                  fontSize={12}
                  fill="var(--color-plate-ink)"
                  stroke="var(--color-plate)"
                  strokeWidth={3}
                  paintOrder="stroke"
                >
                  {micro(m.um, unit)}: {m.says}
                </text>
              </g>
            ))}
          <text x={8} y={16} fontSize={12} fill="var(--color-plate-ink)">
            {length(long, unit)} of the face, {times.toLocaleString()} times as high as it is wide
          </text>
        </svg>
      </div>
      <figcaption className="mt-1 text-sm">
        <strong>{micro(sheet.relief, unit)}</strong> between the deepest and the shallowest:{" "}
        {nail(sheet.relief, sheet.felt, sheet.catches)}.{" "}
        <span className="text-quiet">Rates are good to a factor of two until you etch a coupon of your own.</span>
      </figcaption>
    </figure>
  );
}
