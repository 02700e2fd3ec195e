import { useRef, useState } from "react";
import type { Side } from "../../api/types";
import { useUnit } from "../../app/session";
import { length } from "../../lib/units";
import { useSize } from "../../lib/useSize";
import { Button, Segments, Toggle } from "../../ui";
import { Measure } from "../design/fields/Measure";
import { Moves } from "./AttemptPage";
import type { Turn } from "./attempt";
import { inBand, type Stretch, sidePath, stretched } from "./words";

type Where = "edge" | "even" | "spine";
const WHERE: { value: Where; label: string }[] = [
  { value: "edge", label: "at the edge" },
  { value: "even", label: "even" },
  { value: "spine", label: "at the spine" },
];
type Cut = { side: Side; at: number; wide: number; depth: number; where: Where };

/** A hidden blade, both sides opened at the spine: a stretch is chosen on it and ground, a test etch shows where the core comes out. */
export function CoreCentred({ attempt, shown, act, busy }: Turn<"core_centred">) {
  const unit = useUnit();
  const [cut, setCut] = useState<Cut>({ side: "right", at: shown.length / 2, wide: 60, depth: 0.1, where: "even" });
  const [sure, setSure] = useState(false);
  const [believe, setBelieve] = useState<number | null>(null);
  const last = shown.measured.at(-1);
  const set = (next: Partial<Cut>) => setCut({ ...cut, ...next });
  return (
    <div className="grid gap-6 min-[1000px]:grid-cols-[minmax(0,1fr)_21rem] min-[1000px]:grid-rows-[auto_1fr]">
      <section aria-label="The blade">
        <BothSides shown={shown} cut={attempt.ended ? null : cut} onChoose={(side, stretch) => set({ side, ...stretch })} />
        <p className="mt-1 text-quiet">
          {shown.etches === 0
            ? "Nothing is seen yet: a test etch shows where the core comes out."
            : shown.ground_since
              ? "These lines were read before you ground last."
              : `As read in test etch ${shown.etches}, to a quarter of a millimetre.`}{" "}
          Wanted: {length(shown.band.low, unit)} to {length(shown.band.high, unit)} from the edge, left and right within{" "}
          {length(shown.band.difference, unit)}.
        </p>
      </section>
      {attempt.ended ? null : (
        <section aria-label="At the grinder" className="flex flex-col gap-3 min-[1000px]:row-span-2">
          <div className="flex gap-2">
            <Button kind={shown.etches ? "plain" : "main"} disabled={busy} onClick={() => act({ do: "etch" })}>
              Test etch, 8 min
            </Button>
            <Button disabled={busy} onClick={() => act({ do: "measure", at: cut.at, up: 0.5 })}>
              Caliper
            </Button>
          </div>
          {last ? (
            <p className="text-sm">
              {length(last.thickness, unit)} thick {length(last.at, unit)} from the heel, half way up
              {last.warm > 15 ? <span className="text-care">; still warm: it reads a little long</span> : ""}.
            </p>
          ) : null}
          <Segments
            titled
            label="Ground on the"
            value={cut.side}
            options={[
              { value: "left", label: "left" },
              { value: "right", label: "right" },
            ]}
            onChange={(side) => set({ side: side as Side })}
          />
          <Segments snug titled label="More of it" value={cut.where} options={WHERE} onChange={(where) => set({ where })} />
          <Measure
            label="About, from the heel"
            unit="mm"
            slider
            span={[0, shown.length, 1]}
            value={cut.at}
            onChange={(v) => set({ at: Math.min(shown.length, Math.max(0, v ?? 0)) })}
          />
          <Measure
            label="Over"
            unit="mm"
            slider
            span={[10, 2 * shown.length, 5]}
            value={cut.wide}
            onChange={(v) => set({ wide: Math.min(400, Math.max(10, v ?? 10)) })}
          />
          <Measure
            label="Deep"
            unit="mm"
            slider
            span={[0.01, 0.5, 0.01]}
            value={cut.depth}
            onChange={(v) => set({ depth: Math.min(0.5, Math.max(0.01, v ?? 0.01)) })}
          />
          <Button kind={shown.etches ? "main" : "plain"} disabled={busy} onClick={() => act({ do: "grind", ...cut })}>
            Grind the {cut.side}, {length(cut.depth, unit)}
          </Button>
          <div className="border-t border-line pt-3">
            <Toggle label="It is good" checked={sure} onChange={setSure} />
            {sure ? (
              <div className="mt-2 flex flex-col gap-2">
                <Measure
                  label="Where you believe the core lay"
                  unit="%"
                  hint="of the thickness, + right of the middle; may be left empty"
                  optional
                  min={-30}
                  value={believe}
                  onChange={setBelieve}
                />
                <Button kind="main" disabled={busy} onClick={() => act({ do: "finish", believe })}>
                  Show me the truth
                </Button>
              </div>
            ) : null}
          </div>
        </section>
      )}
      {attempt.ended ? null : (
        <div className="min-[1000px]:col-start-1">
          <Moves name="So far" moves={shown.moves} />
        </div>
      )}
    </div>
  );
}

/** From the left of what was pressed, px. */
function alongOf(e: React.PointerEvent): number {
  return e.clientX - e.currentTarget.getBoundingClientRect().left;
}

function BothSides({
  shown,
  cut,
  onChoose,
}: {
  shown: Turn<"core_centred">["shown"];
  cut: Cut | null;
  onChoose: (side: Side, stretch: Stretch) => void;
}) {
  const from = useRef<number | null>(null);
  const [ref, size] = useSize<HTMLDivElement>();
  const high = Math.max(...shown.height);
  const scale = Math.max(1, (size.width || 640) - 8) / shown.length;
  // a blade is long and low: drawn higher than it is, so that the line can be seen
  const tall = Math.min(3, Math.max(1, 150 / (high * scale)));
  const up = (values: readonly number[]) => values.map((v) => v * tall);
  return (
    <div ref={ref} className="flex flex-col gap-1 rounded-xl bg-plate p-1 text-plate-ink">
      {(["left", "right"] as const).map((side) => {
        const edgeUp = side === "left";
        const line = side === "left" ? shown.left : shown.right;
        const true_ = side === "left" ? shown.true_left : shown.true_right;
        const path = (h: readonly number[]) => sidePath(shown.x, up(h), high * tall, edgeUp, scale);
        const y = (h: number) => ((edgeUp ? h : high - h) * tall * scale).toFixed(1);
        const clipped = (h: number) => shown.height.map((most) => Math.min(h, most));
        const outline = sidePath(
          [0, ...shown.x, shown.length],
          up([shown.height[0] ?? 0, ...shown.height, 0]),
          high * tall,
          edgeUp,
          scale,
        );
        const band = `${path(clipped(shown.band.high))}${clipped(shown.band.low)
          .map((h, i) => `L${((shown.x[i] ?? 0) * scale).toFixed(1)} ${y(h)}`)
          .reverse()
          .join("")}Z`;
        const good = line.length ? inBand(shown.x, line, shown.band) : null;
        return (
          <button
            key={side}
            type="button"
            aria-label={`${side}, edge ${edgeUp ? "up" : "down"}${true_.length ? ", the truth" : ""}${good ? `: ${good.good} of ${good.judged} places in the band` : ""}`}
            disabled={!cut}
            onPointerDown={(e) => {
              if (e.button) return;
              e.currentTarget.setPointerCapture(e.pointerId);
              from.current = alongOf(e) / scale;
              onChoose(side, stretched(from.current, from.current, shown.length));
            }}
            onPointerMove={(e) => {
              if (from.current !== null) onChoose(side, stretched(from.current, alongOf(e) / scale, shown.length));
            }}
            onClick={(e) => {
              // by the keyboard: this side; where on it, the fields beside it say
              if (!e.detail) onChoose(side, {});
            }}
            onPointerUp={() => (from.current = null)}
            onPointerCancel={() => (from.current = null)}
            className="relative block w-full touch-pan-y text-left select-none"
          >
            <svg width="100%" height={high * tall * scale + 2} aria-hidden className="block overflow-visible">
              <path d={`${outline}L${(shown.length * scale).toFixed(1)} ${y(0)}L0 ${y(0)}Z`} fill="#4a4a48" />
              <path d={band} fill="#7d9a6a" opacity={0.35} />
              {cut && cut.side === side ? (
                <rect
                  x={Math.max(0, (cut.at - cut.wide / 2) * scale)}
                  y={0}
                  width={Math.max(
                    2,
                    Math.min(shown.length, cut.at + cut.wide / 2) * scale - Math.max(0, (cut.at - cut.wide / 2) * scale),
                  )}
                  height={high * tall * scale}
                  fill="#f0b455"
                  opacity={0.22}
                />
              ) : null}
              {line.length ? (
                <path
                  d={path(line)}
                  fill="none"
                  stroke="#f4efe2"
                  strokeWidth={2.5}
                  strokeDasharray={shown.ground_since ? "5 5" : undefined}
                />
              ) : null}
              {true_.length ? <path d={path(true_)} fill="none" stroke="#ffb84a" strokeWidth={3} /> : null}
            </svg>
            <span className={`absolute left-3 text-sm ${edgeUp ? "bottom-1" : "top-1"}`}>
              {side}, edge {edgeUp ? "up" : "down"}
              {true_.length ? <span className="text-[#ffb84a]">, the truth</span> : ""}
            </span>
          </button>
        );
      })}
    </div>
  );
}
