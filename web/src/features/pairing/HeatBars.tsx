import type { Steel } from "../../api/types";
import { useDegrees } from "../../app/session";
import { degrees, span } from "../../lib/units";
import { shortName } from "./Matrix";

const WIDTH = 460;
const LEFT = 92;
const ROW = 30;

/** Where each steel is forged, welded, hardened and melts, over one scale of heat; what suits all is marked through. */
export function HeatBars({
  steels,
  weld,
  window,
  heat,
}: {
  steels: Steel[];
  weld: number[] | null;
  window: number[] | null;
  heat: number;
}) {
  const unit = useDegrees();
  const from = 700;
  const to = Math.max(1350, ...steels.map((s) => s.solidus)) + 20;
  const x = (c: number) => LEFT + ((Math.max(from, c) - from) / (to - from)) * (WIDTH - LEFT - 8);
  const height = steels.length * ROW + 30;
  const ticks = [];
  for (let t = 700; t <= to; t += 100) ticks.push(t);
  const said = steels
    .map(
      (s) =>
        `${s.name}: forge ${span(s.forge, unit)}${s.weld ? `, weld ${span(s.weld, unit)}` : ""}, melts from ${degrees(s.solidus, unit)} °${unit}`,
    )
    .join("; ");
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="w-full" role="img" aria-label={said}>
        <defs>
          <linearGradient id="glow" x1={x(700)} x2={x(1350)} y1="0" y2="0" gradientUnits="userSpaceOnUse">
            {GLOW.map(([t, c]) => (
              <stop key={t} offset={(t - 700) / 650} stopColor={c} />
            ))}
          </linearGradient>
        </defs>
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={0} y2={height - 22} className="stroke-line" />
            <text x={x(t)} y={height - 8} textAnchor="middle" className="fill-quiet text-[11px]">
              {degrees(t, unit)}
            </text>
          </g>
        ))}
        {weld ? <Band x0={x(weld[0] ?? 0)} x1={x(weld[1] ?? 0)} height={height - 22} /> : null}
        {window ? <Band x0={x(window[0] ?? 0)} x1={x(window[1] ?? 0)} height={height - 22} /> : null}
        {steels.map((s, i) => {
          const y = i * ROW + 4;
          return (
            <g key={s.key}>
              <text x={LEFT - 8} y={y + 16} textAnchor="end" className="fill-ink text-[13px]">
                {shortName(s)}
              </text>
              <rect
                x={x(s.forge[0] ?? 0)}
                y={y + 9}
                width={x(s.forge[1] ?? 0) - x(s.forge[0] ?? 0)}
                height={5}
                rx={2.5}
                fill="url(#glow)"
              />
              {s.weld ? (
                <rect
                  x={x(s.weld[0] ?? 0)}
                  y={y + 5}
                  width={x(s.weld[1] ?? 0) - x(s.weld[0] ?? 0)}
                  height={13}
                  rx={3}
                  fill="url(#glow)"
                  className="stroke-ink"
                />
              ) : null}
              {s.austenitise ? (
                <rect
                  x={x(s.austenitise[0] ?? 0)}
                  y={y + 3}
                  width={Math.max(4, x(s.austenitise[1] ?? 0) - x(s.austenitise[0] ?? 0))}
                  height={17}
                  rx={3}
                  className="fill-panel stroke-ink"
                  strokeWidth={1.5}
                />
              ) : null}
              <path d={`M${x(s.solidus)} ${y + 2} v19`} className="stroke-stop" strokeWidth={3} />
            </g>
          );
        })}
        {window ? (
          <path d={`M${x(heat)} 0 v${height - 22}`} className="stroke-accent" strokeWidth={1.5} strokeDasharray="3 3" />
        ) : null}
        <text x={WIDTH - 4} y={height - 8} textAnchor="end" className="fill-quiet text-[11px]">
          °{unit}
        </text>
      </svg>
      <figcaption className="text-sm text-quiet">
        Open box: hardening. Thin bar: forging. Framed bar: welding. Red stroke: begins to melt. Shaded: what suits all.
      </figcaption>
    </figure>
  );
}

function Band({ x0, x1, height }: { x0: number; x1: number; height: number }) {
  return <rect x={x0} y={0} width={Math.max(3, x1 - x0)} height={height} className="fill-accent" opacity={0.16} />;
}

/** The glow of hot steel in shaded light. */
export const GLOW: [number, string][] = [
  [700, "#8f2013"],
  [800, "#c03616"],
  [900, "#e0561d"],
  [1000, "#f1822b"],
  [1100, "#f9b048"],
  [1200, "#fcd77b"],
  [1350, "#fffbe9"],
];
