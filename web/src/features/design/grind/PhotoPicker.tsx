import { useEffect, useRef, useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Document, Reading, Side } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button, Modal, Notice, Segments } from "../../../ui";
import { type Spot, Spots, spotAt } from "../../../ui/spots";
import { Measure } from "../fields/Measure";

type Picked = { spot: Spot; x: number; height: number; inside: boolean };

/** Core heights picked on a photograph. It stays in this browser: only the places clicked are sent. */
export function PhotoPicker({
  document,
  bladeLength,
  curves,
  open,
  onClose,
  onTake,
}: {
  document: Document;
  bladeLength: number;
  /** Edge and spine, [x, y] in mm. */
  curves: { edge: number[][]; spine: number[][] } | null;
  open: boolean;
  onClose: () => void;
  onTake: (readings: Reading[]) => void;
}) {
  return (
    <Modal open={open} onClose={onClose} title="Pick the core line on a photo" huge>
      {open && curves ? <Body document={document} bladeLength={bladeLength} curves={curves} onTake={onTake} /> : null}
    </Modal>
  );
}

function on(curve: number[][], x: number): number {
  for (let i = 1; i < curve.length; i++) {
    const [x0 = 0, y0 = 0] = curve[i - 1] ?? [];
    const [x1 = 0, y1 = 0] = curve[i] ?? [];
    if (x <= x1) return y0 + ((x - x0) / Math.max(1e-9, x1 - x0)) * (y1 - y0);
  }
  return curve.at(-1)?.[1] ?? 0;
}

function Body({
  document,
  bladeLength,
  curves,
  onTake,
}: {
  document: Document;
  bladeLength: number;
  curves: { edge: number[][]; spine: number[][] };
  onTake: (readings: Reading[]) => void;
}) {
  const unit = useUnit();
  const [url, setUrl] = useState("");
  const [side, setSide] = useState<Side>("right");
  const [far, setFar] = useState(Math.round(bladeLength * 0.6));
  const [marks, setMarks] = useState<Spot[]>([]);
  // every click counts at once; what it means comes back from the server
  const [spots, setSpots] = useState<Spot[]>([]);
  const [picked, setPicked] = useState<Picked[]>([]);
  const [rim, setRim] = useState<number[][]>([]);
  const [problem, setProblem] = useState("");
  const near = Math.round(bladeLength * 0.06);
  const [from, setFrom] = useState(near);
  /** Only the newest answer counts. */
  const asked = useRef(0);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);

  const wanted = [
    { name: `the edge, ${length(from, unit)} from the heel`, x: from, y: on(curves.edge, from) },
    { name: `the spine, ${length(from, unit)} from the heel`, x: from, y: on(curves.spine, from) },
    { name: `the edge, ${length(far, unit)} from the heel`, x: far, y: on(curves.edge, far) },
    { name: `the spine, ${length(far, unit)} from the heel`, x: far, y: on(curves.spine, far) },
  ];
  const next = wanted[marks.length];
  const body = (points: Spot[], all: Spot[]) => ({
    document,
    marks: all.map((m, i) => ({ px: m.px, py: m.py, x: wanted[i]?.x ?? 0, y: wanted[i]?.y ?? 0 })),
    points: points.map((p) => [p.px, p.py] as [number, number]),
  });
  const see = (points: Spot[], all: Spot[]) => {
    const mine = ++asked.current;
    return ask(api.POST("/api/blade/photo", { body: body(points, all) }))
      .then((found) => {
        if (asked.current !== mine) return;
        setProblem("");
        setRim(found.rim);
        setPicked(points.map((spot, i) => ({ spot, x: 0, height: 0, inside: false, ...found.points[i] })));
      })
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  const click = (spot: Spot) => {
    if (next) {
      const all = [...marks, spot];
      setMarks(all);
      if (all.length === wanted.length) void see([], all);
    } else {
      const all = [...spots, spot];
      setSpots(all);
      void see(all, marks);
    }
  };
  const back = () => {
    if (spots.length) {
      const all = spots.slice(0, -1);
      setSpots(all);
      void see(all, marks);
    } else {
      setMarks(marks.slice(0, -1));
      setRim([]);
      setProblem("");
    }
  };
  const good = picked.filter((p) => p.inside);
  return (
    <div className="grid max-h-[75vh] grid-cols-[minmax(0,1fr)_19rem] gap-4 max-[900px]:grid-cols-1">
      <div className="grid min-h-72 place-items-center overflow-auto rounded-lg bg-plate">
        {url ? (
          <Spots
            src={url}
            next={next?.name ?? "the core line"}
            marks={marks}
            onSpot={click}
            onBroken={() => {
              setProblem("This file is not a picture the browser can show: use a JPEG or PNG.");
              setUrl("");
            }}
            over={(size) => (
              <>
                {rim.length ? (
                  <svg
                    viewBox={`0 0 ${size.w} ${size.h}`}
                    className="pointer-events-none absolute inset-0 h-full w-full"
                    aria-hidden
                  >
                    <polygon
                      points={rim.map((p) => p.join(",")).join(" ")}
                      fill="none"
                      stroke="#8fb6e6"
                      strokeWidth={size.w / 500}
                    />
                  </svg>
                ) : null}
                {picked.map((p) => (
                  <span
                    key={`${p.spot.px},${p.spot.py}`}
                    style={spotAt(p.spot, size)}
                    className={`pointer-events-none absolute h-3 w-3 -translate-1/2 rounded-full border-2 ${p.inside ? "border-[#e3b256]" : "border-[#ef9585]"}`}
                  />
                ))}
              </>
            )}
            className="w-fit"
          />
        ) : (
          <label className="grid cursor-pointer place-items-center gap-2 p-8 text-center text-plate-ink">
            <span>Choose a photograph of one side, taken as square on as you can. It stays on this computer.</span>
            <input
              type="file"
              accept="image/*"
              onChange={(e) => {
                const file = e.target.files?.[0];
                if (file) {
                  setMarks([]);
                  setPicked([]);
                  setSpots([]);
                  setRim([]);
                  setUrl(URL.createObjectURL(file));
                }
              }}
            />
          </label>
        )}
      </div>
      <div className="flex flex-col gap-3 overflow-y-auto">
        <Segments
          label="Which side the photo shows"
          value={side}
          options={[
            { value: "left", label: "left side" },
            { value: "right", label: "right side" },
          ]}
          onChange={setSide}
        />
        <p className="text-sm text-quiet">
          First mark four places whose position is known: edge and spine at two stations, with a pen line across the blade at
          each. That gives scale and perspective.
        </p>
        <div className="grid grid-cols-2 gap-2">
          <Measure
            label="First station"
            unit="mm"
            value={from}
            onChange={(v) => setFrom(Math.min(Math.max(v ?? near, 0), far - 5))}
          />
          <Measure
            label="Second station"
            unit="mm"
            value={far}
            onChange={(v) => setFar(Math.min(Math.max(v ?? far, from + 5), bladeLength * 0.95))}
          />
        </div>
        {url ? (
          <p className="font-semibold" role="status">
            {next ? `${marks.length + 1}. Click on ${next.name}.` : "Now click along the core line."}
          </p>
        ) : null}
        {problem ? <Notice tone="stop">{problem}</Notice> : null}
        {rim.length ? (
          <p className="text-sm text-quiet">
            The thin line is your blade's outline as the marks place it: it should lie on the rim.
          </p>
        ) : null}
        {picked.length ? (
          <ul className="font-mono text-sm">
            {picked.map((p) => (
              <li key={`${p.spot.px},${p.spot.py}`} className="flex justify-between border-b border-line py-0.5">
                <span>{length(p.x, unit)} from heel</span>
                <span>{p.inside ? length(p.height, unit) : "off the blade"}</span>
              </li>
            ))}
          </ul>
        ) : null}
        <div className="mt-auto flex flex-wrap gap-2">
          <Button disabled={!marks.length} onClick={back}>
            Take back
          </Button>
          <Button
            kind="main"
            disabled={!good.length}
            onClick={() =>
              onTake(
                good.map((p) => ({
                  x: Math.round(p.x * 10) / 10,
                  side,
                  height: Math.round(p.height * 100) / 100,
                  state: "line" as const,
                })),
              )
            }
          >
            Take {good.length} {good.length === 1 ? "height" : "heights"}
          </Button>
        </div>
      </div>
    </div>
  );
}
