import { useQuery } from "@tanstack/react-query";
import { type PointerEvent, useEffect, useRef, useState, type WheelEvent } from "react";
import { Link, Route, Routes, useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Ledger, Side } from "../../api/types";
import { useSaves } from "../../api/useSaves";
import { useLedger, usePicture } from "../../api/worked";
import { useGrams, useUnit } from "../../app/session";
import { percent, thickness } from "../../lib/units";
import { useSize } from "../../lib/useSize";
import { Button, Choice, Notice, Segments } from "../../ui";
import { layersTold } from "../design/words";
import { Suits } from "./Suits";

const MARGIN = 2;
const MOST_PX = 3200;

type Frame = { zoom: number; x: number; y: number };

/** Designs held against one another: two faces at one scale, or all of them by how they suit one's hand. */
export function Compare() {
  return (
    <Routes>
      <Route index element={<Faces />} />
      <Route
        path="suits"
        element={
          <main className="flex min-h-0 flex-1 flex-col">
            <div className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
              <h1 className="mr-auto text-xl font-bold">Which suits my hand</h1>
              <Link className="inline-flex min-h-11 items-center text-accent underline" to="/compare">
                Two faces side by side
              </Link>
            </div>
            <Suits />
          </main>
        }
      />
    </Routes>
  );
}

/** Two designs, or two saves of one, under one another at one scale: zooming and moving one does the same to the other. */
function Faces() {
  const [search, setSearch] = useSearchParams();
  const [frame, setFrame] = useState<Frame>({ zoom: 1, x: 0, y: 0 });
  const side: Side = search.get("side") === "left" ? "left" : "right";
  const setSide = (next: Side) =>
    setSearch(
      (was) => {
        const now = new URLSearchParams(was);
        now.set("side", next);
        return now;
      },
      { replace: true },
    );
  const designs = useQuery({ queryKey: ["designs"], queryFn: () => ask(api.GET("/api/designs")) }).data ?? [];
  const [ref, room] = useSize<HTMLDivElement>();
  const [lengths, setLengths] = useState<Record<string, number>>({});
  const chosen = (which: "a" | "b") => {
    const [id, save] = (search.get(which) ?? "").split(".");
    const fallback = designs[which === "a" ? 0 : Math.min(1, designs.length - 1)]?.id;
    return { id: Number(id) || fallback || 0, save: Number(save) || 0 };
  };
  const choose = (which: "a" | "b", id: number, save: number) => {
    const next = new URLSearchParams(search);
    for (const w of ["a", "b"] as const) {
      const now = w === which ? { id, save } : chosen(w);
      next.set(w, now.save ? `${now.id}.${now.save}` : String(now.id));
    }
    setSearch(next, { replace: true });
  };
  // one scale for both: the longer blade fits the width
  const longest = Math.max(1, ...Object.values(lengths));
  const scale = Math.max(0.5, (room.width - 16) / (longest + 2 * MARGIN));
  const zoomBy = (factor: number) =>
    setFrame((l) => ({
      ...l,
      zoom: Math.min(12, Math.max(1, l.zoom * factor)),
      ...(l.zoom * factor <= 1 ? { x: 0, y: 0 } : {}),
    }));
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">Side by side</h1>
        <Link className="mr-auto inline-flex min-h-11 items-center text-accent underline" to="/compare/suits">
          Which suits my hand?
        </Link>
        <Segments
          label="Side"
          value={side}
          options={[
            { value: "right", label: "right" },
            { value: "left", label: "left" },
          ]}
          onChange={setSide}
        />
        <Button compact label="Closer" onClick={() => zoomBy(1.5)}>
          +
        </Button>
        <output aria-label="Enlarged" className="w-14 text-center font-mono">
          {frame.zoom.toFixed(1)}×
        </output>
        <Button compact label="Further away" onClick={() => zoomBy(1 / 1.5)}>
          −
        </Button>
        <Button compact onClick={() => setFrame({ zoom: 1, x: 0, y: 0 })}>
          Whole
        </Button>
      </div>
      <div ref={ref} className="grid min-h-0 flex-1 grid-rows-2">
        {room.width
          ? (["a", "b"] as const).map((which) => {
              const { id, save } = chosen(which);
              return id ? (
                <One
                  key={which}
                  id={id}
                  save={save}
                  side={side}
                  scale={scale}
                  frame={frame}
                  onFrame={setFrame}
                  onZoom={zoomBy}
                  onLength={(mm) => setLengths((old) => (old[which] === mm ? old : { ...old, [which]: mm }))}
                  choices={designs.map((d) => ({ value: String(d.id), label: d.name }))}
                  onChoose={(to, toSave) => choose(which, to, toSave)}
                />
              ) : (
                <p key={which} className="grid place-items-center text-quiet">
                  There is nothing on the bench to compare yet.
                </p>
              );
            })
          : null}
      </div>
    </main>
  );
}

function One({
  id,
  save,
  side,
  scale,
  frame,
  onFrame,
  onZoom,
  onLength,
  choices,
  onChoose,
}: {
  id: number;
  save: number;
  side: Side;
  scale: number;
  frame: Frame;
  onFrame: (next: (l: Frame) => Frame) => void;
  onZoom: (factor: number) => void;
  onLength: (mm: number) => void;
  choices: { value: string; label: string }[];
  onChoose: (id: number, save: number) => void;
}) {
  const path = { design_id: id };
  const { saves } = useSaves(id, id > 0);
  const full = useQuery({
    queryKey: ["compare", id, save],
    queryFn: () =>
      save
        ? ask(api.GET("/api/designs/{design_id}/revisions/{number}", { params: { path: { ...path, number: save } } }))
        : ask(api.GET("/api/designs/{design_id}", { params: { path } })),
    retry: false,
  });
  const grip = useRef<{ x: number; y: number } | null>(null);
  const move = (e: PointerEvent) => {
    if (!grip.current) return;
    const dx = e.clientX - grip.current.x;
    const dy = e.clientY - grip.current.y;
    grip.current = { x: e.clientX, y: e.clientY };
    onFrame((l) => ({ ...l, x: l.x + dx / l.zoom, y: l.y + dy / l.zoom }));
  };
  return (
    <section aria-label={full.data?.name ?? "A design"} className="flex min-h-0 flex-col border-b border-line">
      <div className="flex flex-wrap items-center gap-2 px-4 py-1">
        <div className="w-72">
          <Choice label="Design" value={String(id)} options={choices} onChange={(v) => onChoose(Number(v), 0)} />
        </div>
        <div className="w-40">
          <Choice
            label="Save"
            value={String(save)}
            options={[
              { value: "0", label: "as it is now" },
              ...saves.map((r) => ({ value: String(r.number), label: `save ${r.number}` })),
            ]}
            onChange={(v) => onChoose(id, Number(v))}
          />
        </div>
        {full.data ? <InShort document={full.data.document} onLength={onLength} /> : null}
        <Link className="ml-auto inline-flex min-h-11 items-center text-sm text-accent underline" to={`/design/${id}`}>
          Open
        </Link>
      </div>
      <div
        className="relative min-h-0 flex-1 cursor-grab touch-none overflow-hidden bg-plate active:cursor-grabbing"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          grip.current = { x: e.clientX, y: e.clientY };
        }}
        onPointerMove={move}
        onPointerUp={() => {
          grip.current = null;
        }}
        onWheel={(e: WheelEvent) => onZoom(e.deltaY < 0 ? 1.15 : 1 / 1.15)}
      >
        {full.data ? <Face document={full.data.document} side={side} scale={scale} frame={frame} name={full.data.name} /> : null}
        {full.error ? <Notice tone="stop">{whatWentWrong(full.error)}</Notice> : null}
      </div>
    </section>
  );
}

type Doc = Parameters<typeof useLedger>[0];

function InShort({ document, onLength }: { document: Doc; onLength: (mm: number) => void }) {
  const grams = useGrams();
  const unit = useUnit();
  const ledger: Ledger | null = useLedger(document, "").data;
  const long = ledger?.shape?.length ?? 0;
  const tell = useRef(onLength);
  tell.current = onLength;
  // the sizes of both decide the common scale
  useEffect(() => {
    if (long) tell.current(long);
  }, [long]);
  const s = ledger?.summary;
  if (!s) return <span className="text-sm text-quiet">…</span>;
  return (
    <span className="font-mono text-sm text-quiet">
      {layersTold(s)} {s.layers === 1 ? "layer" : "layers"} across, thinnest{" "}
      {s.thinnest === null ? "–" : thickness(s.thinnest, unit)}, {s.blade_mass === null ? "no blade" : grams(s.blade_mass)}, lost{" "}
      {percent(s.loss_share)}
    </span>
  );
}

function Face({ document, side, scale, frame, name }: { document: Doc; side: Side; scale: number; frame: Frame; name: string }) {
  const ledger = useLedger(document, "").data;
  const shape = ledger?.shape;
  const wide = shape ? (shape.length + 2 * MARGIN) * scale : 600;
  const tall = shape ? (shape.high - shape.low + 2 * MARGIN) * scale : 100;
  const px = Math.min(MOST_PX, Math.round(wide * Math.min(3, Math.max(1.25, Math.ceil(frame.zoom)))));
  const picture = usePicture("/api/predict/blade.png", { document, side, margin: MARGIN, book: true }, px, `compare-${name}`);
  if (!shape && ledger)
    return <p className="grid h-full place-items-center text-plate-quiet">This design has no blade to show.</p>;
  return picture.data ? (
    <img
      src={picture.data}
      alt={`${side} face of ${name}`}
      draggable={false}
      className="absolute top-1/2 left-2 max-w-none origin-left"
      style={{
        width: wide,
        height: tall,
        transform: `translateY(-50%) scale(${frame.zoom}) translate(${frame.x}px, ${frame.y}px)`,
      }}
    />
  ) : (
    <p className="grid h-full animate-pulse place-items-center text-plate-quiet">drawing…</p>
  );
}
