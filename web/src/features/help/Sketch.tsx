import type { ReactNode } from "react";

/** Small drawings of ours for the words: one frame, one way of drawing; what a word is about is in the accent colour. */

const INK = "var(--ink)";
const DIM = "var(--edge)";
const HOT = "var(--accent)";
const thin = { fill: "none", stroke: INK, strokeWidth: 1.4 } as const;
const strong = { fill: "none", stroke: HOT, strokeWidth: 3.2, strokeLinecap: "round" } as const;

const BLADE = "M44 24H118Q140 28 152 42Q138 58 110 60H44Z";
const Blade = ({ children }: { children?: ReactNode }) => (
  <>
    <rect x={8} y={34} width={38} height={15} {...thin} stroke={DIM} />
    <path d={BLADE} {...thin} />
    {children}
  </>
);
const Box = ({ x, y, w, h, fill = "none" }: { x: number; y: number; w: number; h: number; fill?: string }) => (
  <rect x={x} y={y} width={w} height={h} fill={fill} stroke={INK} strokeWidth={1.3} />
);
const layers = (x: number, y: number, w: number, h: number, n: number) =>
  Array.from({ length: n }, (_, i) => ({ top: y + (i * h) / n, fill: i % 2 ? "#b9b6ae" : "#4b4a47" })).map(({ top, fill }) => (
    <rect key={top} x={x} y={top} width={w} height={h / n} fill={fill} />
  ));
const Axes = () => <path d="M18 12V76H150" {...thin} stroke={DIM} />;
const Arrow = ({ d }: { d: string }) => <path d={d} {...strong} strokeWidth={2.2} markerEnd="url(#tip)" />;
/** The section of a blade: edge down. */
const WEDGE = "M66 14H94L81 78H79Z";
const LIQUID = "M40 34H120V76H40Z";

const SKETCHES: Record<string, () => ReactNode> = {
  pile: () => (
    <>
      {[16, 30, 44, 58].map((y) => (
        <Box key={y} x={34} y={y} w={92} h={12} />
      ))}
    </>
  ),
  layers: () => (
    <>
      {layers(24, 18, 112, 54, 9)}
      <Arrow d="M146 42V50" />
      <path d="M146 36V30M146 48V54" {...strong} strokeWidth={2} />
    </>
  ),
  weld: () => (
    <>
      <Box x={30} y={20} w={100} h={22} />
      <Box x={30} y={42} w={100} h={22} />
      <path d="M30 42H130" {...strong} />
      <Arrow d="M80 4V14" />
      <Arrow d="M80 86V72" />
    </>
  ),
  flux: () => (
    <>
      <Box x={30} y={34} w={100} h={30} />
      <path d="M34 32q6-8 12 0t12 0 12 0 12 0 12 0 12 0 12 0" {...strong} strokeWidth={2.4} />
    </>
  ),
  scale: () => (
    <>
      <Box x={34} y={34} w={92} h={28} />
      <path d="M40 30l12-4 8 4M72 29l14-4 6 4M104 30l12-5 6 5M44 70l10 4M84 72l12 4M116 70l8 5" {...strong} strokeWidth={2.4} />
    </>
  ),
  skin: () => (
    <>
      {layers(24, 16, 112, 28, 4)}
      {layers(24, 47, 112, 28, 4)}
      <path d="M24 45.5H136" {...strong} />
    </>
  ),
  carbon: () => (
    <>
      <Axes />
      <path d="M18 70C26 40 34 26 60 24H150" {...strong} />
    </>
  ),
  draw: () => (
    <>
      <Box x={14} y={16} w={46} h={34} />
      <Box x={14} y={60} w={110} h={15} />
      <Arrow d="M76 34H132" />
    </>
  ),
  passes: () => (
    <>
      <Box x={12} y={26} w={30} h={40} />
      <Box x={52} y={34} w={38} h={24} />
      <Box x={100} y={40} w={50} h={13} />
      <path d="M12 78H150" {...strong} strokeWidth={2} />
    </>
  ),
  upset: () => (
    <>
      <Box x={20} y={38} w={88} h={14} />
      <path d="M108 30h22v30h-22z" {...thin} />
      <Arrow d="M154 45H136" />
    </>
  ),
  fold: () => (
    <>
      <path d="M24 60H96a16 16 0 0 0 0-32H60" {...thin} strokeWidth={9} stroke={DIM} />
      <path d="M24 60H96a16 16 0 0 0 0-32H60" {...thin} />
      <Arrow d="M62 14C44 14 40 22 40 32" />
    </>
  ),
  kerf: () => (
    <>
      <Box x={20} y={30} w={56} h={30} />
      <Box x={84} y={30} w={56} h={30} />
      <path d="M80 22V72" {...strong} strokeWidth={7} opacity={0.7} />
    </>
  ),
  section: () => (
    <>
      <Box x={16} y={26} w={36} h={36} />
      <path d="M72 26h16l12 12v12l-12 12h-16l-12-12v-12z" {...thin} />
      <circle cx={130} cy={44} r={19} {...thin} />
    </>
  ),
  ground: () => (
    <>
      {layers(20, 30, 120, 42, 7)}
      <path d="M20 46H140" {...strong} />
      <Arrow d="M80 12V38" />
    </>
  ),
  core_line: () => (
    <Blade>
      <path d="M46 46q12-5 24 0t24 0 22-1q14-1 24-7" {...strong} />
    </Blade>
  ),
  band: () => (
    <Blade>
      <path d="M44 42H120Q134 42 144 40V50Q126 54 110 54H44Z" fill={HOT} opacity={0.3} />
      <path d="M46 48q12-4 24 0t24 0 22-1q12 0 20-4" {...strong} strokeWidth={2} />
    </Blade>
  ),
  bell: () => (
    <>
      <Axes />
      <path d="M24 74C56 74 62 20 84 20S112 74 146 74" {...thin} />
      <path d="M66 74V44Q74 20 84 20T102 44V74Z" fill={HOT} opacity={0.35} />
    </>
  ),
  dip: () => (
    <>
      <path d={WEDGE} {...thin} />
      <path d="M74 14L78.5 60M92 14L82 60" {...strong} strokeWidth={2.2} />
      <path d="M80 8V82" {...thin} stroke={DIM} strokeDasharray="4 4" />
    </>
  ),
  cup: () => (
    <>
      <path d="M66 14H94Q104 44 81 78H79Q94 44 66 14Z" {...thin} />
      <Arrow d="M114 44H100" />
    </>
  ),
  edge: () => (
    <Blade>
      <path d="M44 60H110Q138 58 152 42" {...strong} />
    </Blade>
  ),
  edge_angle: () => (
    <>
      <path d="M60 12L80 76L100 12" {...thin} />
      <path d="M72 50Q80 54 88 50" {...strong} />
    </>
  ),
  spine: () => (
    <Blade>
      <path d="M44 24H118Q140 28 152 42" {...strong} />
    </Blade>
  ),
  taper: () => (
    <>
      <path d="M30 34H34L150 43V45L34 54H30Z" {...thin} />
      <path d="M34 28V60" {...strong} />
      <path d="M140 38V50" {...strong} />
    </>
  ),
  heel: () => (
    <Blade>
      <circle cx={44} cy={60} r={6} fill={HOT} />
    </Blade>
  ),
  belly: () => (
    <Blade>
      <path d="M108 60Q138 58 150 44" {...strong} />
    </Blade>
  ),
  bevel: () => (
    <Blade>
      <path d="M58 44H126Q142 44 152 42Q138 58 110 60H58Z" fill={HOT} opacity={0.4} />
    </Blade>
  ),
  plunge: () => (
    <Blade>
      <path d="M60 44H128" {...thin} stroke={DIM} />
      <path d="M60 40V60" {...strong} />
    </Blade>
  ),
  ricasso: () => (
    <Blade>
      <rect x={44} y={24} width={16} height={36} fill={HOT} opacity={0.45} />
    </Blade>
  ),
  swedge: () => (
    <Blade>
      <path d="M108 24Q136 24 152 42Q132 34 108 31Z" fill={HOT} opacity={0.55} />
    </Blade>
  ),
  fuller: () => (
    <Blade>
      <path d="M56 33H116" {...strong} strokeWidth={6} opacity={0.6} />
    </Blade>
  ),
  tang: () => (
    <Blade>
      <rect x={8} y={34} width={36} height={15} fill={HOT} opacity={0.45} />
    </Blade>
  ),
  balance: () => (
    <Blade>
      <path d="M52 82L60 62L68 82Z" fill={HOT} />
    </Blade>
  ),
  guard: () => (
    <Blade>
      <rect x={40} y={16} width={7} height={52} fill={HOT} opacity={0.7} />
    </Blade>
  ),
  sheath: () => (
    <>
      <path d="M30 16H140Q152 40 132 66H30Z" {...thin} />
      <path d="M34 60H130Q142 44 138 24" {...strong} strokeWidth={2.2} strokeDasharray="5 5" />
    </>
  ),
  window: () => (
    <>
      <Axes />
      <rect x={30} y={26} width={48} height={30} fill={HOT} opacity={0.25} />
      <rect x={54} y={20} width={70} height={30} fill={HOT} opacity={0.25} />
      <rect x={54} y={26} width={24} height={24} fill={HOT} opacity={0.5} />
    </>
  ),
  soak: () => (
    <>
      <Axes />
      <path d="M18 74L52 26H100L134 74" {...thin} />
      <path d="M52 26H100" {...strong} />
    </>
  ),
  cycles: () => (
    <>
      <Axes />
      <path d="M18 74L38 20L56 74L74 28L92 74L110 36L128 74" {...strong} strokeWidth={2.4} />
    </>
  ),
  critical: () => (
    <>
      <Axes />
      <path d="M18 38H150" {...thin} stroke={DIM} strokeDasharray="5 4" />
      <path d="M18 74L62 39H84L128 16" {...strong} />
    </>
  ),
  quench: () => (
    <>
      <Axes />
      <path d="M18 22H58L66 66Q90 72 146 73" {...strong} />
    </>
  ),
  temper: () => (
    <>
      <Axes />
      <path d="M22 20Q70 24 96 42T148 70" {...strong} />
    </>
  ),
  colours: () => (
    <>
      {["#e8d9a0", "#d9b25a", "#b9763c", "#7d4a78", "#4d5f9e", "#6e8fb4"].map((c, i) => (
        <rect key={c} x={18 + i * 21} y={24} width={21} height={42} fill={c} />
      ))}
    </>
  ),
  hardness: () => (
    <>
      <Box x={24} y={50} w={112} h={26} />
      <path d="M66 12H94L80 56Z" {...thin} />
      <path d="M72 50L80 60L88 50" {...strong} />
    </>
  ),
  diffuse: () => (
    <>
      <Axes />
      <path d="M18 28H58V64H104V28H150" {...thin} stroke={DIM} />
      <path d="M18 32Q52 32 62 48T100 48Q110 32 150 32" {...strong} />
    </>
  ),
  loss: () => (
    <>
      {[58, 46, 38, 28, 24].map((h, i) => (
        <rect key={h} x={22 + i * 25} y={74 - h} width={18} height={h} fill={i === 4 ? HOT : DIM} />
      ))}
    </>
  ),
  reserve: () => (
    <>
      <Box x={20} y={34} w={86} h={24} />
      <rect x={106} y={34} width={30} height={24} fill={HOT} opacity={0.5} />
      <path d="M106 24V70" {...thin} strokeDasharray="4 3" />
    </>
  ),
  grit: () => (
    <>
      <path d="M16 34l8-14 8 14 8-14 8 14 8-14 8 14 8-14 8 14 8-14 8 14 8-14 8 14 8-14 8 14" {...thin} />
      <path
        d="M16 68l4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6 4-6 4 6"
        {...strong}
        strokeWidth={1.8}
      />
    </>
  ),
  relief: () => (
    <>
      <path d="M10 40H38V54H66V40H94V54H122V40H150V78H10Z" fill={DIM} opacity={0.5} />
      <path d="M10 40H38V54H66V40H94V54H122V40H150" {...strong} strokeWidth={2.4} />
    </>
  ),
  undercut: () => (
    <>
      <path d="M10 36H44Q40 52 60 54H100Q120 52 116 36H150V78H10Z" fill={DIM} opacity={0.5} />
      <path d="M44 36Q40 52 60 54M116 36Q120 52 100 54" {...strong} />
    </>
  ),
  coupon: () => (
    <>
      <path d={LIQUID} fill={DIM} opacity={0.4} />
      <path d="M40 20V76H120V20" {...thin} />
      <rect x={68} y={30} width={24} height={34} fill={HOT} opacity={0.7} />
    </>
  ),
  resist: () => (
    <>
      <Box x={20} y={50} w={120} h={22} />
      <path d="M20 46H64M96 46H140" {...strong} strokeWidth={6} />
      <path d="M64 50Q80 66 96 50" {...thin} />
    </>
  ),
  bath: () => (
    <>
      <path d={LIQUID} fill={HOT} opacity={0.35} />
      <path d="M40 20V76H120V20" {...thin} />
      <circle cx={66} cy={52} r={3} {...thin} />
      <circle cx={88} cy={44} r={3} {...thin} />
      <circle cx={100} cy={60} r={3} {...thin} />
    </>
  ),
  learned: () => (
    <>
      <Axes />
      <path d="M18 44H150" {...thin} stroke={DIM} strokeDasharray="5 4" />
      {[
        [34, 30],
        [54, 40],
        [74, 26],
        [94, 34],
        [114, 30],
        [134, 32],
      ].map(([x, y]) => (
        <circle key={x} cx={x} cy={y} r={4} fill={HOT} />
      ))}
    </>
  ),
};

export const SKETCH_NAMES = Object.keys(SKETCHES);

export function Sketch({ name }: { name: string }) {
  const drawn = SKETCHES[name];
  return (
    <svg viewBox="0 0 160 90" className="h-auto w-full" aria-hidden>
      <defs>
        <marker id="tip" viewBox="0 0 8 8" refX="4" refY="4" markerWidth="5" markerHeight="5" orient="auto-start-reverse">
          <path d="M0 0L8 4L0 8Z" fill={HOT} />
        </marker>
      </defs>
      {drawn ? drawn() : null}
    </svg>
  );
}
