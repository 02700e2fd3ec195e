import type { ReactNode } from "react";

/** Layers of a bar as strokes; what is seen drawn over them, each fault in a few lines of its own. */
const LAYERS = (
  <g stroke="var(--quiet)" strokeWidth={1.5} fill="none">
    <path d="M4 14H52M4 20H52M4 26H52M4 32H52" />
  </g>
);
const BLADE = <path d="M4 16H36Q50 17 53 24Q46 33 34 33H4Z" fill="none" stroke="var(--quiet)" strokeWidth={1.5} />;
const ink = { stroke: "var(--stop)", strokeWidth: 2.4, fill: "none", strokeLinecap: "round" as const };
const fill = { fill: "var(--stop)" };

export const DRAWN: Record<string, ReactNode> = {
  dark_gap: [LAYERS, <path key="a" d="M12 23Q28 19 44 23Q28 27 12 23Z" {...fill} />],
  outer_layer_lifts: [LAYERS, <path key="a" d="M4 14H34Q46 12 52 4" {...ink} />],
  bright_line: [LAYERS, <path key="a" d="M4 23H52" stroke="var(--care)" strokeWidth={2} />],
  black_line: [LAYERS, <path key="a" d="M4 23H14M18 23H30M34 23H52" {...ink} />],
  blister: [LAYERS, <path key="a" d="M18 14Q28 2 38 14" {...ink} />],
  can_corners: [
    <path key="b" d="M8 8H48V36H8Z" fill="none" stroke="var(--quiet)" strokeWidth={1.5} />,
    <path key="a" d="M36 8L40 14L48 18V8Z" {...fill} />,
  ],
  burnt_edge: [LAYERS, <path key="a" d="M52 10l-4 5 4 4-5 4 5 5-4 5" {...ink} />],
  edges_part: [LAYERS, <path key="a" d="M52 14l-6 3 6 3-6 3 6 3-6 3 6 3" {...ink} />],
  cold_shut: [LAYERS, <path key="a" d="M14 36L26 12M30 36L42 12" {...ink} />],
  motif_off: [
    <rect key="b" x={4} y={8} width={48} height={30} fill="none" stroke="var(--quiet)" />,
    <ellipse key="a" cx={28} cy={23} rx={20} ry={8} {...ink} />,
  ],
  pattern_faint: [BLADE, <path key="a" d="M8 22q6-4 12 0t12 0t12 0" stroke="var(--line)" strokeWidth={2} fill="none" />],
  twist_washed_out: [
    BLADE,
    <path key="a" d="M10 30l4-12M18 30l4-12M26 30l4-12M34 30l4-10" stroke="var(--edge)" strokeWidth={1.6} />,
  ],
  over_etched: [<path key="a" d="M4 18H12V32H20V18H28V32H36V18H44V32H52" {...ink} />],
  patchy_etch: [
    BLADE,
    <g key="a" {...fill} opacity={0.6}>
      <circle cx={16} cy={24} r={5} />
      <circle cx={30} cy={27} r={3} />
      <circle cx={38} cy={22} r={4} />
    </g>,
  ],
  smut_stays: [BLADE, <path key="a" d="M8 22q4 6 10 2t10 4t10-4M10 29q6-3 12 1t12-1" {...ink} opacity={0.7} />],
  rust_under_oil: [
    BLADE,
    <g key="a" {...fill}>
      <circle cx={14} cy={22} r={1.6} />
      <circle cx={22} cy={28} r={1.6} />
      <circle cx={30} cy={21} r={1.6} />
      <circle cx={38} cy={27} r={1.6} />
    </g>,
  ],
  washed_lines: [BLADE, <path key="a" d="M4 24q8 3 16 0t16 0t12 2" {...ink} />],
  scratch_after_etch: [BLADE, <path key="a" d="M10 31L42 18" {...ink} />],
  warped_normalising: [
    <path key="a" d="M4 30Q28 8 52 30" {...ink} />,
    <path key="b" d="M4 34H52" stroke="var(--quiet)" strokeDasharray="3 3" />,
  ],
  warped_quench: [
    <path key="a" d="M4 18Q20 36 32 22T52 26" {...ink} />,
    <path key="b" d="M4 34H52" stroke="var(--quiet)" strokeDasharray="3 3" />,
  ],
  warped_temper: [
    <path key="a" d="M4 14Q28 34 52 14" {...ink} />,
    <path key="b" d="M4 12H52" stroke="var(--quiet)" strokeDasharray="3 3" />,
  ],
  crack_normalising: [BLADE, <path key="a" d="M24 16l3 6-4 4 3 7" {...ink} />],
  crack_quench: [BLADE, <path key="a" d="M30 33l-2-6 4-4" {...ink} />],
  tear_forging: [LAYERS, <path key="a" d="M26 4l4 8-5 5 5 6-3 5" {...ink} />],
  crack_late: [BLADE, <path key="a" d="M20 33l2-7-3-4 2-6" {...ink} strokeDasharray="4 2" />],
  soft_spots: [
    BLADE,
    <g key="a" {...ink}>
      <circle cx={16} cy={31} r={3} />
      <circle cx={34} cy={31} r={3} />
    </g>,
  ],
  wont_harden: [BLADE, <path key="a" d="M8 30l6 6M18 30l6 6M28 30l6 6" {...ink} />],
  too_hard: [BLADE, <path key="a" d="M10 36h6M22 36h6M34 34h6" {...ink} />],
  core_wandering: [BLADE, <path key="a" d="M4 27q8-6 16 0t16-1t14-1" {...ink} />],
  no_core_at_edge: [BLADE, <path key="a" d="M8 28H34" {...ink} strokeDasharray="2 4" />],
  edge_rolls: [
    <path key="a" d="M28 4L20 34Q20 40 28 39" {...ink} />,
    <path key="b" d="M28 4L36 34" stroke="var(--quiet)" strokeWidth={1.5} />,
  ],
  edge_chips: [BLADE, <path key="a" d="M10 33l3-4 3 4M22 33l3-5 4 5" {...ink} />],
  dull_soon: [<path key="a" d="M22 6L24 34Q28 40 32 34L34 6" {...ink} />],
  bevels_uneven: [<path key="a" d="M28 4L22 40L38 18Z" {...ink} />],
  swoop_at_plunge: [BLADE, <path key="a" d="M10 17V24Q14 31 20 25H40" {...ink} />],
  short_bar: [
    <path key="a" d="M4 18H34V30H4Z" {...ink} />,
    <path key="b" d="M34 18H52V30H34" stroke="var(--quiet)" strokeDasharray="3 3" fill="none" />,
  ],
  handle_gap: [
    <path key="b" d="M4 16H22V34H4ZM28 18H52V30H28Z" fill="none" stroke="var(--quiet)" strokeWidth={1.5} />,
    <path key="a" d="M25 12V38" {...ink} />,
  ],
};

/** A small drawing of what is seen. */
export function FaultDrawing({ of }: { of: string }) {
  return (
    <svg viewBox="0 0 56 44" width={56} height={44} aria-hidden className="shrink-0">
      {DRAWN[of] ?? LAYERS}
    </svg>
  );
}
