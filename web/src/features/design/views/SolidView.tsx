import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from "react";
import { post, saveFile, whatWentWrong } from "../../../api/client";
import type { Row } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { underWay } from "../../../lib/rest";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Button, Segments } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { Dial } from "./Dial";
import { Picture } from "./Picture";
import type { View3d } from "./scene";

/** So many times as long as it is wide: more of a long bar would only be a thread. */
const MOST_TIMES = 4;
const SHARP_PX = 1000;
const GROUND = "#292929";

/** Bar or blade in three dimensions with its pattern on every face; a bar can be cut through. Without WebGL, a still picture. */
export function SolidView({ subject, row, bladeLength }: { subject: object; row: Row | null; bladeLength?: number }) {
  const blade = bladeLength !== undefined;
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<View3d | null>(null);
  const [state, setState] = useState<"opening" | "open" | "still">("opening");
  const [why, setWhy] = useState("");
  const [cut, setCut] = useState<"none" | "across" | "down">("none");
  const [share, setShare] = useState(0.6);
  const toast = useToast();
  const shown = blade ? bladeLength : row ? Math.min(row.length, MOST_TIMES * Math.max(row.width, row.thickness)) : 0;
  const body = { ...subject, px: SHARP_PX, ...(blade ? { blade: true } : { x1: shown }) };
  const key = JSON.stringify(body);

  useEffect(() => {
    let gone = false;
    const over = underWay("the solid");
    import("./scene")
      .then(({ openView }) => {
        if (gone || !canvas.current) return;
        view.current = openView(canvas.current, GROUND);
      })
      .catch((e) => {
        setWhy(e instanceof Error ? e.message : String(e));
        setState("still");
      })
      .finally(over);
    return () => {
      gone = true;
      view.current?.close();
      view.current = null;
    };
  }, []);

  useEffect(() => {
    const stop = new AbortController();
    (async () => {
      const glb = await (await post("/api/files/solid.glb", JSON.parse(key), stop.signal, "solid")).arrayBuffer();
      for (let i = 0; i < 100 && !view.current && !stop.signal.aborted; i++) await new Promise((r) => setTimeout(r, 50));
      if (stop.signal.aborted || !view.current) return;
      await view.current.load(glb);
      setState("open");
    })().catch((e) => {
      if (e instanceof DOMException && e.name === "AbortError") return;
      if (stop.signal.aborted) return;
      setWhy(whatWentWrong(e));
      setState("still");
    });
    return () => stop.abort();
  }, [key]);

  useEffect(() => {
    if (room.width && room.height && state !== "still") view.current?.resize(room.width, room.height);
  }, [room.width, room.height, state]);

  const at = cut === "down" && row ? (share - 0.5) * row.thickness : share * shown;
  useCut(view, state === "open" ? { kind: cut, at, row, shown, subject } : null);

  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, 10], ArrowDown: [0, -10] }[e.key];
    if (!by) return;
    e.preventDefault();
    e.stopPropagation();
    view.current?.turn(by[0] as number, by[1] as number);
  };
  const save = () =>
    saveFile("/api/files/solid.glb", { ...body, px: 2048 }, blade ? "blade.glb" : "bar.glb").catch((e) =>
      toast(`Nothing was saved. ${whatWentWrong(e)}`),
    );
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="relative min-h-24 flex-1 overflow-hidden rounded-lg bg-plate">
        {state === "still" ? (
          <Still subject={subject} row={row} blade={blade} why={why} room={room} />
        ) : (
          <canvas
            ref={canvas}
            tabIndex={0}
            role="img"
            aria-label="The solid in three dimensions: drag or use the arrow keys to turn it"
            aria-busy={state === "opening"}
            onKeyDown={keys}
            style={{ width: room.width, height: room.height }}
            className="absolute inset-0"
          />
        )}
        {state === "opening" ? (
          <p className="absolute inset-0 grid animate-pulse place-items-center text-plate-quiet">Laying the pattern round it…</p>
        ) : null}
      </div>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
        {state !== "still" ? (
          <>
            <Segments
              label="Cutting plane"
              value={cut}
              options={[
                { value: "none", label: "whole" },
                { value: "across", label: "across" },
                ...(row ? [{ value: "down" as const, label: "down" }] : []),
              ]}
              onChange={setCut}
            />
            {cut !== "none" ? (
              <Dial
                label={cut === "across" ? "At" : "Height"}
                value={share}
                min={0.02}
                max={0.98}
                step={0.005}
                says={length(cut === "down" && row ? at + row.thickness / 2 : at, unit)}
                onChange={setShare}
              />
            ) : null}
          </>
        ) : null}
        <span className="ml-auto">
          <Button compact onClick={() => void save()} label="Save the solid as a GLB file">
            GLB
          </Button>
        </span>
      </div>
    </div>
  );
}

type Cutting = { kind: "none" | "across" | "down"; at: number; row: Row | null; shown: number; subject: object };

/** Cuts at once, and lays the section's picture on the cut as soon as it is drawn. */
function useCut(view: RefObject<View3d | null>, cutting: Cutting | null) {
  const key = cutting ? JSON.stringify({ ...cutting, row: cutting.row?.length }) : "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key names all of it
  useEffect(() => {
    if (!cutting) return;
    const { kind, at, row, shown, subject } = cutting;
    if (kind === "none") {
      view.current?.cut(null);
      return;
    }
    const stop = new AbortController();
    let url = "";
    const lay = (picture: string | null, size: { width: number; height: number; middle?: number }) =>
      view.current?.cut({ kind: row ? kind : "blade", at, picture, ...size });
    const flat = !row
      ? { width: 1, height: 1 }
      : kind === "across"
        ? { width: row.width, height: row.thickness }
        : { width: shown, height: row.width };
    lay(null, flat);
    const over = underWay("its cut");
    const timer = window.setTimeout(async () => {
      const what = !row
        ? { view: "section", side: "right", x: at, px: 160 }
        : kind === "across"
          ? { view: "end", x: at, px: 500 }
          : { view: "face", z: at, x0: 0, x1: shown, px: 1400 };
      try {
        const path = row ? "/api/predict/bar.png" : "/api/predict/blade.png";
        const answer = await post(path, { ...subject, ...what, quality: "portrait" }, stop.signal, "solid-cut");
        url = URL.createObjectURL(await answer.blob());
        const [width = 1, height = 1, middle = 0] = (answer.headers.get("X-Section-Mm") ?? "").split(" ").map(Number);
        lay(url, row ? flat : { width, height, middle });
      } catch {
        // a newer cut is on its way
      } finally {
        over();
      }
    }, 60);
    return () => {
      window.clearTimeout(timer);
      over();
      stop.abort();
      if (url) window.setTimeout(() => URL.revokeObjectURL(url), 2000);
    };
  }, [key]);
}

/** What is shown where there is no WebGL: the bar from a corner, drawn by the server; the blade stays in its faces above. */
function Still({
  subject,
  row,
  blade,
  why,
  room,
}: {
  subject: object;
  row: Row | null;
  blade: boolean;
  why: string;
  room: { width: number; height: number };
}) {
  const [yaw, setYaw] = useState(35);
  const [pitch, setPitch] = useState(30);
  if (blade || !row)
    return (
      <p className="grid h-full place-items-center p-4 text-center text-plate-quiet">
        This browser shows nothing in three dimensions ({why}). Both faces are shown above; sections are under “Section”.
      </p>
    );
  return (
    <div className="grid h-full grid-rows-[minmax(0,1fr)_auto] p-2 text-plate-quiet">
      <div className="grid place-items-center overflow-hidden">
        <Picture
          path="/api/predict/bar.png"
          body={{ ...subject, view: "solid", yaw, pitch, x1: Math.min(row.length, 160) }}
          box={{ width: Math.max(40, room.width - 20), height: Math.max(40, room.height - 60) }}
          label="The bar seen from a corner"
          lane="bar-solid"
        />
      </div>
      <div className="flex gap-4">
        <Dial label="Round" value={yaw} min={-80} max={80} step={2} says={`${yaw}°`} onChange={setYaw} />
        <Dial label="Above" value={pitch} min={-80} max={80} step={2} says={`${pitch}°`} onChange={setPitch} />
      </div>
    </div>
  );
}
