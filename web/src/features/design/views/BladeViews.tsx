import { type PointerEvent, type ReactNode, useState } from "react";
import type { Document, Ledger } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Segments } from "../../../ui";
import { Dial } from "./Dial";
import { fitted, Picture } from "./Picture";
import { SectionsView } from "./SectionsView";

type Props = { document: Document; shape: NonNullable<Ledger["shape"]> };

/** One face of the blade ground further than finished, all over or in a window put anywhere, under your finger. */
export function BladeDepth({ document, shape }: Props) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const [side, setSide] = useState<"right" | "left">("right");
  const [where, setWhere] = useState<"all" | "window">("all");
  const [at, setAt] = useState({ x: 0.4, v: 0.5 });
  const [ground, setGround] = useState(0);
  const margin = 1.5;
  const long = shape.length + 2 * margin;
  const tall = shape.high - shape.low + 2 * margin;
  const box = fitted(long, tall, { width: Math.max(40, room.width), height: Math.max(24, room.height) });
  const most = Math.min(3, shape.bar_thickness / 2);
  const off = Math.round(ground * 1000) / 1000;
  const window = {
    x: at.x * shape.length,
    h: at.v * (shape.high - shape.low),
    length: 0.16 * shape.length,
    width: 0.45 * (shape.high - shape.low),
    depth: off,
  };
  const pick = (e: PointerEvent<HTMLButtonElement>) => {
    const edge = e.currentTarget.getBoundingClientRect();
    const x = ((e.clientX - edge.left) / edge.width) * long - margin;
    const down = ((e.clientY - edge.top) / edge.height) * tall - margin;
    const part = (v: number) => Math.min(1, Math.max(0, v));
    // the left face lies edge up
    const v = down / (shape.high - shape.low);
    setAt({ x: part(x / shape.length), v: part(side === "left" ? v : 1 - v) });
    setWhere("window");
    if (!ground) setGround(most / 3);
  };
  const body = { document, side, margin, book: true, ...(where === "all" ? { ground: off } : { window }) };
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="grid min-h-20 flex-1 place-items-center overflow-hidden rounded-lg bg-plate">
        {room.width > 40 ? (
          <button type="button" title="Put a window here" onPointerDown={pick} className="cursor-crosshair" style={box}>
            <Picture
              path="/api/predict/blade.png"
              body={body}
              box={box}
              label={`The ${side} face ground ${length(ground, unit)} further${where === "all" ? "" : " in a window"}`}
              lane="blade-ground"
              missing="No blade to show yet."
            />
          </button>
        ) : null}
      </div>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
        <Segments
          label="Side"
          value={side}
          options={[
            { value: "right", label: "right" },
            { value: "left", label: "left" },
          ]}
          onChange={setSide}
        />
        <Segments
          label="Where it is ground"
          value={where}
          options={[
            { value: "all", label: "all over" },
            { value: "window", label: "window" },
          ]}
          onChange={setWhere}
        />
        <Dial
          label="Ground further"
          value={ground}
          min={0}
          max={most}
          step={0.01}
          says={length(ground, unit)}
          onChange={setGround}
        />
        {where === "window" ? (
          <>
            <Dial
              label="From the heel"
              value={at.x}
              min={0}
              max={1}
              step={0.005}
              says={length(window.x, unit)}
              onChange={(x) => setAt({ ...at, x })}
            />
            <Dial
              label="Above the edge"
              value={at.v}
              min={0}
              max={1}
              step={0.01}
              says={length(window.h, unit)}
              onChange={(v) => setAt({ ...at, v })}
            />
          </>
        ) : null}
      </div>
    </div>
  );
}

/** The blade cut across at any station, at any angle: right face to the right, edge down. */
export function BladeSection(props: Props) {
  const [many, setMany] = useState(false);
  const choose = (
    <Segments
      label="How many sections"
      value={many ? "many" : "one"}
      options={[
        { value: "one", label: "one" },
        { value: "many", label: "all along" },
      ]}
      onChange={(v) => setMany(v === "many")}
    />
  );
  return many ? <SectionsView {...props} choose={choose} /> : <OneSection {...props} choose={choose} />;
}

function OneSection({ document, shape, choose }: Props & { choose: ReactNode }) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const [share, setShare] = useState(0.4);
  const [turn, setTurn] = useState(0);
  const x = Math.round(share * shape.length * 100) / 100;
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="grid min-h-24 flex-1 place-items-center overflow-hidden rounded-lg bg-plate p-2">
        {room.width > 40 ? (
          <Picture
            path="/api/predict/blade.png"
            body={{ document, view: "section", side: "right", x, turn }}
            box={{ width: room.width - 16, height: room.height - 16 }}
            label={`The blade cut across ${length(x, unit)} from the heel, seen from the heel`}
            lane="blade-section"
            missing="No blade to show yet."
          />
        ) : null}
      </div>
      <div className="flex flex-wrap items-end gap-x-4">
        {choose}
        <Dial label="From the heel" value={share} min={0.01} max={0.99} step={0.005} says={length(x, unit)} onChange={setShare} />
        <Dial label="Turned" value={turn} min={-75} max={75} step={1} says={`${turn}°`} onChange={setTurn} />
      </div>
    </div>
  );
}
