import { useState } from "react";
import { api, ask } from "../../../api/client";
import type { Document, LayersAt, Ledger } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useUnit } from "../../../app/session";
import { length, percent, thickness } from "../../../lib/units";
import { greyOf, useSteels } from "../../steels";
import { Dial } from "./Dial";

/** Layers met through the blade at any point, how thick they are there, and what both faces show in all. */
export function LayersView({ document, shape }: { document: Document; shape: NonNullable<Ledger["shape"]> }) {
  const unit = useUnit();
  const steels = useSteels();
  const [x, setX] = useState(0.4);
  const [h, setH] = useState(0.4);
  const at = { x: x * shape.length, h: h * (shape.high - shape.low) };
  const found = useWorkedOut<LayersAt>("layers", { document, ...at }, (b, signal) =>
    ask(api.POST("/api/predict/layers", { body: b, signal })),
  );
  const data = found.data;
  const grey = (key: string) => {
    const linear = steels.find((s) => s.key === key)?.grey ?? 0.2;

    return greyOf(linear);
  };
  const name = (key: string) => steels.find((s) => s.key === key)?.name ?? key;
  const whole = data?.runs.reduce((sum, r) => sum + r.thickness, 0) ?? 0;
  const thin = data?.runs.length ? Math.min(...data.runs.map((r) => r.thickness)) : null;
  const most = Math.max(0.01, ...(data?.shares ?? []));
  return (
    <div className="grid min-h-0 min-w-0 flex-1 grid-cols-2 gap-4 overflow-y-auto p-3 max-[1100px]:grid-cols-1">
      <section aria-label="Through the blade">
        <h3 className="font-semibold">Through the blade at one point</h3>
        <div className="flex flex-wrap gap-x-4">
          <Dial label="From the heel" value={x} min={0} max={1} step={0.005} says={length(at.x, unit)} onChange={setX} />
          <Dial label="Above the edge" value={h} min={0} max={1} step={0.005} says={length(at.h, unit)} onChange={setH} />
        </div>
        {data ? (
          <>
            <svg
              viewBox="0 0 100 16"
              preserveAspectRatio="none"
              className="mt-1 h-12 w-full rounded bg-plate"
              role="img"
              aria-label="The layers from the left face to the right"
            >
              {
                data.runs.reduce<{ at: number; bars: React.ReactNode[] }>(
                  (sum, run) => {
                    const width = (run.thickness / Math.max(whole, 1e-9)) * 100;
                    sum.bars.push(<rect key={sum.at} x={sum.at} y={0} width={width + 0.02} height={16} fill={grey(run.steel)} />);
                    return { at: sum.at + width, bars: sum.bars };
                  },
                  { at: 0, bars: [] },
                ).bars
              }
            </svg>
            <p className="text-sm">
              <span className="font-mono">{data.runs.length}</span> layers in{" "}
              <span className="font-mono">{length(whole, unit)}</span>
              {thin === null ? "" : ", thinnest "}
              {thin === null ? null : <span className="font-mono">{thickness(thin, unit)}</span>}
              <span className="text-quiet">; left face at the left.</span>
            </p>
          </>
        ) : (
          <p className="text-quiet">Counting…</p>
        )}
        {data ? (
          <div className="mt-2">
            <h3 className="font-semibold">On show</h3>
            <ul className="text-sm">
              {Object.entries(data.steels).map(([key, share]) => (
                <li key={key} className="flex items-center gap-2">
                  <span aria-hidden className="h-4 w-4 rounded border border-edge" style={{ background: grey(key) }} />
                  <span className="flex-1">{name(key)}</span>
                  <span className="font-mono">{percent(share)}</span>
                </li>
              ))}
            </ul>
          </div>
        ) : null}
      </section>
      <section aria-label="How thick the layers are">
        <h3 className="font-semibold">How thick the layers are on both faces</h3>
        {data?.shares.some((s) => s > 0) ? (
          <>
            <svg
              viewBox="0 0 210 96"
              className="w-full max-w-104"
              role="img"
              aria-label="Share of the face by thickness of its layers"
            >
              {data.shares.map((share, i) => (
                <rect
                  key={data.edges[i]}
                  x={5 + i * 10}
                  y={80 - (share / most) * 74}
                  width={9}
                  height={(share / most) * 74}
                  fill="currentColor"
                  opacity={(data.edges[i] ?? 1) < 0.025 ? 0.35 : 0.8}
                />
              ))}
              <line x1={5} x2={205} y1={80.5} y2={80.5} stroke="var(--edge)" />
              {[0, 6, 13, 20].map((i) => (
                <text
                  key={i}
                  x={5 + i * 10}
                  y={92}
                  fontSize={8.5}
                  textAnchor={i === 0 ? "start" : i === 20 ? "end" : "middle"}
                  fill="currentColor"
                >
                  {length(data.edges[i] ?? 0, unit)}
                </text>
              ))}
            </svg>
            <p className="text-sm text-quiet">
              Share of the face by the thickness of the layer there, square to it. Pale: under 25 µm, where it reads as grey.
              {data.thinnest ? ` The finest fiftieth: ${thickness(data.thinnest, unit)}.` : ""}
            </p>
          </>
        ) : (
          <p className="text-quiet">{data ? "No layers show: the faces are of one piece." : "Counting…"}</p>
        )}
      </section>
    </div>
  );
}
