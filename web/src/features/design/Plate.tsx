import { Maximize2, Minimize2 } from "lucide-react";
import type { CoreLine, Document, Ledger, Side } from "../../api/types";
import { usePicture } from "../../api/worked";
import { useUnit } from "../../app/session";
import { MM_PER_INCH } from "../../lib/units";
import { sharp, useSize } from "../../lib/useSize";
import { Button } from "../../ui";
import { path } from "../../ui/chart";
import { Facts } from "./Facts";
import { lineHeight, ofSide } from "./grind/line";
import { Picture } from "./views/Picture";

const MARGIN_MM = 1.8;
const RULE_PX = 22;
const GUTTER_PX = 80;

type Shape = NonNullable<Ledger["shape"]>;

/** Both etched faces, opened like a book at the spine over one rule, with the ledger beside them. */
export function Plate({
  document,
  ledger,
  stale,
  large,
  onLarge,
  core,
  at,
  onAt,
  note,
  fired,
  low,
}: {
  document: Document;
  ledger: Ledger | null;
  /** The pictures are of the last draft that could be worked out. */
  stale: boolean;
  large: boolean;
  onLarge: () => void;
  /** Drawn on both faces, when it is being worked on. */
  core?: CoreLine | null;
  /** The station pointed at, mm from the heel. */
  at?: number | null;
  onAt?: (x: number | null) => void;
  /** Said beside the faces when they are not the design's own. */
  note?: string;
  /** Takes less of the screen, where there is much to read below. */
  low?: boolean;
  /** Shown as the fire leaves the steels, not as they were piled. */
  fired?: boolean;
}) {
  const [ref, size] = useSize<HTMLDivElement>();
  const shape = ledger?.shape ?? null;
  return (
    <section
      aria-label="The blade"
      className={`grid min-h-0 grid-cols-[minmax(0,1fr)_auto] grid-rows-[minmax(0,1fr)] bg-plate text-plate-ink ${large ? "flex-1" : low ? "h-[15.8rem] shrink-0 max-[760px]:h-auto max-[760px]:grid-cols-1 max-[760px]:grid-rows-none" : "h-[21.6rem] shrink-0 max-[1100px]:h-[15.5rem] max-[760px]:h-auto max-[760px]:grid-cols-1 max-[760px]:grid-rows-none"}`}
    >
      <div className="relative min-h-0 min-w-0 px-3 py-1 max-[760px]:h-60">
        <div ref={ref} className="grid h-full w-full place-items-center overflow-hidden">
          {shape && size.width > 80 ? (
            <Faces
              document={document}
              shape={shape}
              width={size.width}
              height={size.height}
              stale={stale}
              core={core ?? null}
              at={at ?? null}
              onAt={onAt}
              fired={fired}
            />
          ) : ledger?.summary && !document.blade ? (
            <BareBar document={document} summary={ledger.summary} width={size.width} height={size.height} />
          ) : ledger ? (
            <p className="max-w-md text-center text-plate-quiet">
              The {document.blade ? "blade" : "bar"} cannot be shown until what is marked below is put right.
            </p>
          ) : (
            <p className="animate-pulse text-plate-quiet">Working out the blade…</p>
          )}
        </div>
      </div>
      <div className="flex w-[17.5rem] flex-col gap-1 overflow-y-auto border-l border-plate-line px-4 py-2 max-[1100px]:w-66 max-[760px]:w-auto max-[760px]:border-t max-[760px]:border-l-0">
        {note ? <p className="rounded-lg border border-plate-line px-3 py-1.5 text-[#ffd08a]">{note}</p> : null}
        <Facts ledger={ledger} />
        <div className="no-print sticky -bottom-2 mt-auto bg-plate pb-2">
          <Button kind="plate" onClick={onLarge} pressed={large}>
            {large ? <Minimize2 size={16} aria-hidden /> : <Maximize2 size={16} aria-hidden />}
            {large ? "Back to the work" : "Enlarge the blade"}
          </Button>
        </div>
      </div>
    </section>
  );
}

/** Without a blade: the bar's own face and end grain. */
function BareBar({
  document,
  summary,
  width,
  height,
}: {
  document: Document;
  summary: NonNullable<Ledger["summary"]>;
  width: number;
  height: number;
}) {
  const room = { width: Math.max(60, width - 40), height: Math.max(60, height - 44) };
  const scale = Math.min(room.height / Math.max(summary.width, summary.thickness), room.width / 2.2 / summary.width, 14);
  const end = { width: Math.round(summary.width * scale), height: Math.round(summary.thickness * scale) };
  const left = room.width - end.width - 24;
  const shown = Math.min(summary.length, left / scale);
  const subject = { document: { recipe: document.recipe, off: document.off }, stages: null };
  const px = { width: Math.max(20, Math.round(shown * scale)), height: Math.max(4, Math.round(summary.width * scale)) };
  const x1 = Math.round(shown * 100) / 100;
  return (
    <div className="flex flex-col items-center gap-1">
      <div className="flex items-center gap-6">
        <Picture
          path="/api/predict/bar.png"
          lane="bare-end"
          label="End grain of the finished bar"
          box={end}
          body={{ ...subject, view: "end", x: Math.round(summary.length * 50) / 100 }}
        />
        <Picture
          path="/api/predict/bar.png"
          lane="bare-face"
          label="Face of the finished bar"
          box={px}
          body={{ ...subject, view: "face", z: Math.round(summary.thickness * 250) / 1000, x1 }}
        />
      </div>
      <p className="text-sm text-plate-quiet">
        End grain and face of the bar. No blade is cut from it yet: choose “Add a blade” at the end of the row below.
      </p>
    </div>
  );
}

function Faces({
  document,
  shape,
  width,
  height,
  stale,
  core,
  at,
  onAt,
  fired,
}: {
  document: Document;
  shape: Shape;
  width: number;
  height: number;
  stale: boolean;
  core: CoreLine | null;
  at: number | null;
  onAt?: (x: number | null) => void;
  fired?: boolean;
}) {
  const wide = shape.length + 2 * MARGIN_MM;
  const tall = shape.high - shape.low + 2 * MARGIN_MM;
  const scale = Math.min((width - GUTTER_PX) / wide, (height - RULE_PX) / 2 / tall);
  const box = { width: Math.round(wide * scale), height: Math.round(tall * scale) };
  return (
    <div style={{ width: box.width + GUTTER_PX }} className={stale ? "opacity-60" : ""}>
      <Face document={document} side="left" box={box} shape={shape} scale={scale} core={core} at={at} onAt={onAt} fired={fired} />
      <Rule shape={shape} scale={scale} width={box.width} />
      <Face
        document={document}
        side="right"
        box={box}
        shape={shape}
        scale={scale}
        core={core}
        at={at}
        onAt={onAt}
        fired={fired}
      />
    </div>
  );
}

type FaceProps = {
  document: Document;
  side: Side;
  box: { width: number; height: number };
  shape: Shape;
  scale: number;
  core: CoreLine | null;
  at: number | null;
  onAt?: (x: number | null) => void;
  fired?: boolean;
};

function Face({ document, side, box, shape, scale, core, at, onAt, fired }: FaceProps) {
  const picture = usePicture(
    "/api/predict/blade.png",
    { document, side, margin: MARGIN_MM, book: true, ...(fired ? { fired } : {}) },
    sharp(box.width),
    `blade-${side}`,
  );
  const name = side === "left" ? "Left" : "Right";
  return (
    <figure className="flex items-center">
      <figcaption style={{ width: GUTTER_PX }} className="shrink-0 leading-tight">
        <span className="block font-bold">{name}</span>
        <span className="text-sm text-plate-quiet">{side === "left" ? "edge up" : "edge down"}</span>
      </figcaption>
      <span
        className="relative block"
        style={box}
        onPointerMove={
          onAt
            ? (e) =>
                onAt(
                  Math.min(
                    shape.length,
                    Math.max(0, (e.clientX - e.currentTarget.getBoundingClientRect().left) / scale - MARGIN_MM),
                  ),
                )
            : undefined
        }
        onPointerLeave={onAt ? () => onAt(null) : undefined}
      >
        {picture.data ? (
          <img
            src={picture.data}
            width={box.width}
            height={box.height}
            style={{ width: box.width, height: box.height }}
            alt={`${name} face of the blade as it will look etched, heel at the left, tip at the right`}
            draggable={false}
          />
        ) : (
          <span style={box} className="grid animate-pulse place-items-center rounded-lg bg-white/5 text-plate-quiet">
            {picture.failure?.kind === "invalid" ? "not to be drawn yet" : "drawing…"}
          </span>
        )}
        {core && picture.data ? <LineOver core={core} side={side} shape={shape} scale={scale} box={box} at={at} /> : null}
      </span>
    </figure>
  );
}

/** The core line, and where it is wanted, drawn over a face. */
function LineOver({
  core,
  side,
  shape,
  scale,
  box,
  at,
}: {
  core: CoreLine;
  side: Side;
  shape: Shape;
  scale: number;
  box: { width: number; height: number };
  at: number | null;
}) {
  const px = (x: number) => (x + MARGIN_MM) * scale;
  // the left face's page is turned half about: its edge is up
  const py = (y: number) => (side === "left" ? y - shape.low + MARGIN_MM : shape.high - y + MARGIN_MM) * scale;
  const mine = ofSide(core.stations, side);
  const up = (s: (typeof mine)[number], vertical: number): [number, number] => [
    px(s.x),
    py(s.edge + Math.min(vertical, s.height / s.slant)),
  ];
  const judged = mine.filter((s) => s.x >= core.band.start && s.x <= core.band.end);
  return (
    <svg
      width={box.width}
      height={box.height}
      className="pointer-events-none absolute inset-0"
      role="img"
      aria-label={`Core line on the ${side} face`}
    >
      {[core.band.low, core.band.high].map((h) => (
        <path key={h} d={path(judged.map((s) => up(s, h)))} fill="none" stroke="#8fb6e6" strokeWidth={1} strokeDasharray="2 4" />
      ))}
      <path
        d={path(mine.map((s) => (lineHeight(s) > 0 ? up(s, lineHeight(s) / s.slant) : null)))}
        fill="none"
        stroke="#000"
        strokeOpacity={0.55}
        strokeWidth={4}
      />
      <path
        d={path(mine.map((s) => (lineHeight(s) > 0 ? up(s, lineHeight(s) / s.slant) : null)))}
        fill="none"
        stroke="#ffd08a"
        strokeWidth={1.8}
      />
      {at !== null ? <line x1={px(at)} x2={px(at)} y1={0} y2={box.height} stroke="#ece7dd" strokeDasharray="1 3" /> : null}
    </svg>
  );
}

/** The common rule between the spines, from the heel. */
function Rule({ shape, scale, width }: { shape: Shape; scale: number; width: number }) {
  const unit = useUnit();
  const metric = unit === "mm";
  const step = metric ? 5 : MM_PER_INCH / 8;
  const major = metric ? 10 : 8;
  const ticks = Array.from({ length: Math.floor(shape.length / step) + 1 }, (_, i) => i);
  const x = (mm: number) => GUTTER_PX + (mm + MARGIN_MM) * scale;
  return (
    <svg
      width={width + GUTTER_PX}
      height={RULE_PX}
      className="block"
      role="img"
      aria-label={`Rule, ${metric ? "mm" : "inches"} from the heel`}
    >
      {ticks.map((i) => (
        <g key={i}>
          <line
            x1={x(i * step)}
            x2={x(i * step)}
            y1={i % major ? 8 : 3}
            y2={i % major ? 14 : 19}
            stroke="#8d867a"
            strokeWidth={1}
          />
          {i % major === 0 && i > 0 && i * step + 8 < shape.length ? (
            <text x={x(i * step) + 4} y={15} fontSize={12} fill="#cfc7b8" className="font-mono">
              {metric ? i * step : i / major}
            </text>
          ) : null}
        </g>
      ))}
      <text x={0} y={15} fontSize={12} fill="#b3ab9d">
        spine, {metric ? "mm" : "in"}
      </text>
    </svg>
  );
}
