import { type PointerEvent, useRef, useState } from "react";
import { api, ask } from "../../../api/client";
import type { Blade, Document, Measures } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Button } from "../../../ui";
import { path } from "../../../ui/chart";
import { Measure } from "../fields/Measure";
import { bent, type DrawnOutline, dense, faultOf, HANDLES, handles, lengthOf, type Rim } from "../outline";

/** The outline to scale; once drawn by points, each can be dragged or typed. */
export function OutlineView({ document, onBlade }: { document: Document; onBlade: (blade: Blade, what: string) => void }) {
  const blade = document.blade;
  const { recipe, off } = document;
  const measured = useWorkedOut<Measures>(
    "measures",
    { document: { recipe, blade, off } },
    (body, signal) => ask(api.POST("/api/blade/measures", { body, signal })) as Promise<Measures>,
  );
  const drawn = blade && "edge" in blade.outline ? (blade.outline as DrawnOutline) : null;
  const shown: DrawnOutline | null = drawn ?? (measured.data ? { edge: measured.data.edge, spine: measured.data.spine } : null);
  if (!blade || !shown) {
    return (
      <div className="grid min-h-28 flex-1 place-items-center">
        <p className="animate-pulse text-quiet">Fetching the outline…</p>
      </div>
    );
  }
  return <Drawing key={drawn ? "drawn" : "built-in"} blade={blade} shown={shown} drawn={drawn} onBlade={onBlade} />;
}

type DrawingProps = {
  blade: Blade;
  shown: DrawnOutline;
  drawn: DrawnOutline | null;
  onBlade: (blade: Blade, what: string) => void;
};

function Drawing({ blade, shown, drawn, onBlade }: DrawingProps) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const [chosen, setChosen] = useState<{ rim: Rim; i: number }>({ rim: "edge", i: 4 });
  const dragging = useRef<{ rim: Rim; i: number } | null>(null);
  const long = lengthOf(shown);
  const ys = [...shown.edge, ...shown.spine].map((p) => p[1] ?? 0);
  const low = Math.min(...ys);
  const tall = Math.max(...ys) - low;
  const behind = blade.tang?.length ?? 0;
  const scale = Math.min((room.width - 60) / Math.max(1, long + behind), (room.height - 50) / Math.max(1, tall));
  const left = (room.width - (long - behind) * scale) / 2;
  const foot = (room.height + tall * scale) / 2;
  const px = (x: number) => left + x * scale;
  const py = (y: number) => foot - (y - low) * scale;
  const spot = drawn ? handles(drawn, chosen.rim)[chosen.i] : undefined;
  const move = (rim: Rim, i: number, y: number) =>
    drawn && onBlade({ ...blade, outline: bent(drawn, rim, i, Math.round(y * 100) / 100) }, `point.${rim}.${i}`);
  const drag = (e: PointerEvent<SVGSVGElement>) => {
    const held = dragging.current;
    if (!held) return;
    move(held.rim, held.i, low + (foot - (e.clientY - e.currentTarget.getBoundingClientRect().top)) / scale);
  };
  const fault = drawn ? faultOf(drawn) : "";
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="relative min-h-28 flex-1 overflow-hidden rounded-lg bg-plate">
        {room.width > 80 && scale > 0 ? (
          <svg
            width={room.width}
            height={room.height}
            className="absolute inset-0 touch-none"
            role="img"
            aria-label={`Outline of the blade, ${length(long, unit)} long and ${length(tall, unit)} high`}
            onPointerMove={drag}
            onPointerUp={() => {
              dragging.current = null;
            }}
            onPointerLeave={() => {
              dragging.current = null;
            }}
          >
            <line x1={px(0)} x2={px(long)} y1={py(0)} y2={py(0)} stroke="#47443f" strokeDasharray="3 5" />
            <path
              d={`${path([...shown.edge, ...[...shown.spine].reverse()].map((p) => [px(p[0] ?? 0), py(p[1] ?? 0)]))}Z`}
              fill="#5c5850"
              stroke="#d8d1c4"
              strokeWidth={1.5}
            />
            {blade.tang ? (
              <path
                d={path([
                  [px(0), py(((shown.edge[0]?.[1] ?? 0) + (shown.spine[0]?.[1] ?? 0)) / 2 - blade.tang.width / 2)],
                  [
                    px(-blade.tang.length),
                    py(((shown.edge[0]?.[1] ?? 0) + (shown.spine[0]?.[1] ?? 0)) / 2 - blade.tang.end_width / 2),
                  ],
                  [
                    px(-blade.tang.length),
                    py(((shown.edge[0]?.[1] ?? 0) + (shown.spine[0]?.[1] ?? 0)) / 2 + blade.tang.end_width / 2),
                  ],
                  [px(0), py(((shown.edge[0]?.[1] ?? 0) + (shown.spine[0]?.[1] ?? 0)) / 2 + blade.tang.width / 2)],
                ])}
                fill="#47443f"
                stroke="#b3ab9d"
              />
            ) : null}
            {drawn
              ? (["edge", "spine"] as const).flatMap((rim) =>
                  handles(drawn, rim).map(([x, y], i) =>
                    rim === "spine" && i === HANDLES - 1 ? null : (
                      <circle
                        // biome-ignore lint/suspicious/noArrayIndexKey: a handle has no name but its place
                        key={`${rim}${i}`}
                        cx={px(x)}
                        cy={py(y)}
                        r={chosen.rim === rim && chosen.i === i ? 8 : 6}
                        fill={chosen.rim === rim && chosen.i === i ? "#ffd08a" : "#292929"}
                        stroke="#ffd08a"
                        strokeWidth={2}
                        className="cursor-ns-resize"
                        onPointerDown={(e) => {
                          e.currentTarget.ownerSVGElement?.setPointerCapture(e.pointerId);
                          dragging.current = { rim, i };
                          setChosen({ rim, i });
                        }}
                      />
                    ),
                  ),
                )
              : null}
          </svg>
        ) : null}
      </div>
      {drawn && spot ? (
        <div className="flex flex-wrap items-end gap-3">
          <Button onClick={() => setChosen(beside(chosen, -1))}>Point before</Button>
          <Button onClick={() => setChosen(beside(chosen, 1))}>Point after</Button>
          <div className="w-40">
            <Measure
              label={`${chosen.i === HANDLES - 1 ? "Tip" : chosen.rim === "edge" ? "Edge" : "Spine"} at ${length(spot[0], unit)}`}
              unit="mm"
              min={-500}
              value={Math.round(spot[1] * 100) / 100}
              problem={fault || undefined}
              onChange={(v) => v !== null && move(chosen.rim, chosen.i, v)}
            />
          </div>
        </div>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <Button
            onClick={() => onBlade({ ...blade, outline: { edge: dense(shown.edge), spine: dense(shown.spine) } }, "outline.draw")}
          >
            Move its points by hand
          </Button>
          <span className="text-sm text-quiet">
            {length(long, unit)} long, {length(tall, unit)} high. Drawn by hand, it no longer follows the shape's own numbers;
            undo brings them back.
          </span>
        </div>
      )}
    </div>
  );
}

function beside(at: { rim: Rim; i: number }, by: number): { rim: Rim; i: number } {
  const order = [
    ...Array.from({ length: HANDLES }, (_, i) => ({ rim: "edge" as Rim, i })),
    ...Array.from({ length: HANDLES - 1 }, (_, i) => ({ rim: "spine" as Rim, i: HANDLES - 2 - i })),
  ];
  const now = order.findIndex((o) => o.rim === at.rim && o.i === at.i);
  return order[(now + by + order.length) % order.length] ?? at;
}
