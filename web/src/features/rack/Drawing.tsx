import type { RackItem } from "../../api/types";

/** Pixels a mm: all ends to one scale. */
const END_PX = 0.9;
const MOST_DRAWN = 8;
const GAP = 1.5;
const ROOM = { width: 96, height: 44 };

/** An item as it lies: the ends of its bars piled up, and how long they are. */
export function Drawing({ item }: { item: RackItem }) {
  if (item.picture)
    return (
      <span className="flex h-[44px] w-[96px] items-center justify-center rounded bg-plate">
        <img src={item.picture} alt={`Pattern of ${item.code}`} className="max-h-10 max-w-22 object-contain" loading="lazy" />
      </span>
    );
  if (item.form === "powder") return <Heap grams={item.there} />;
  const count = Math.max(0, Math.min(MOST_DRAWN, Math.round(item.there)));
  const w = Math.max(3, (item.width ?? 1) * END_PX);
  const t = Math.max(2, (item.thickness ?? 1) * END_PX);
  // one on the other while there is room, then beside one another
  const high = Math.max(1, Math.floor((ROOM.height + GAP) / (t + GAP)));
  const columns = Math.min(Math.max(1, Math.floor((ROOM.width + GAP) / (w + GAP))), Math.ceil(count / high) || 1);
  const fit = Math.min(1, ROOM.width / w, ROOM.height / (Math.ceil(count / columns) * (t + GAP) || 1));
  return (
    <svg width={ROOM.width} height={ROOM.height} aria-hidden className="shrink-0">
      <g transform={`translate(0 ${ROOM.height}) scale(${fit} ${-fit})`}>
        {Array.from({ length: count }, (_, i) => i).map((i) => (
          <End key={i} item={item} x={(i % columns) * (w + GAP)} y={Math.floor(i / columns) * (t + GAP)} w={w} t={t} />
        ))}
      </g>
      {count < item.there ? (
        <text x={ROOM.width} y={12} textAnchor="end" fontSize={12} fill="var(--quiet)">
          of {item.there}
        </text>
      ) : null}
    </svg>
  );
}

const STEEL = { fill: "#8d8980", stroke: "var(--ink)", strokeWidth: 0.7 };

function End({ item, x, y, w, t }: { item: RackItem; x: number; y: number; w: number; t: number }) {
  if (item.form === "round" || item.form === "rods") return <circle cx={x + w / 2} cy={y + w / 2} r={w / 2} {...STEEL} />;
  if (item.form === "octagon" || item.form === "hexagon")
    return <path d={around(item.form === "octagon" ? 8 : 6, x, y, w)} {...STEEL} />;
  if (item.form === "tube") {
    const wall = Math.max(1, (item.wall ?? 1) * END_PX);
    return <path fillRule="evenodd" d={`${box(x, y, w, t)}${box(x + wall, y + wall, w - 2 * wall, t - 2 * wall)}`} {...STEEL} />;
  }
  return <rect x={x} y={y} width={w} height={t} {...STEEL} />;
}

const box = (x: number, y: number, w: number, t: number) => `M${x} ${y}h${w}v${t}h${-w}Z`;

/** A regular outline `w` across its flats. */
function around(sides: number, x: number, y: number, w: number): string {
  const r = w / 2 / Math.cos(Math.PI / sides);
  const corner = (i: number) => {
    const a = (Math.PI * (2 * i + 1)) / sides;
    return `${(x + w / 2 + r * Math.cos(a)).toFixed(2)} ${(y + w / 2 + r * Math.sin(a)).toFixed(2)}`;
  };
  return `M${Array.from({ length: sides }, (_, i) => corner(i)).join("L")}Z`;
}

/** A heap as large as it is heavy. */
function Heap({ grams }: { grams: number }) {
  const high = Math.min(40, 5 + 9 * Math.cbrt(grams / 1000));
  const wide = Math.min(92, 2.2 * high);
  const middle = ROOM.width / 2;
  return (
    <svg width={ROOM.width} height={ROOM.height} aria-hidden className="shrink-0">
      {grams > 0 ? (
        <path
          d={`M${middle - wide / 2} 43Q${middle} ${43 - 2 * high} ${middle + wide / 2} 43Z`}
          fill="#8d8980"
          stroke="var(--ink)"
          strokeWidth={0.7}
          strokeDasharray="1.5 1.5"
        />
      ) : null}
    </svg>
  );
}

/** How long one of them is, beside the others. */
export function Long({ item, most }: { item: RackItem; most: number }) {
  if (!item.length) return <span />;
  return (
    <span aria-hidden className="block h-2.5 w-full">
      <span
        className="block h-full rounded-[2px] border border-edge bg-[#8d8980]"
        style={{ width: `${Math.max(0.6, (100 * item.length) / most)}%` }}
      />
    </span>
  );
}
