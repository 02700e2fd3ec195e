import { useState } from "react";
import { saveFile, whatWentWrong } from "../../../api/client";
import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { BarViewProps } from "./BarView";
import { Dial } from "./Dial";
import { Picture } from "./Picture";

/** The bar cut through at any place and angle; saved as a drawing in mm. */
export function SectionView({ subject, row }: BarViewProps) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const [share, setShare] = useState(0.5);
  const [turn, setTurn] = useState(0);
  const [lean, setLean] = useState(0);
  const toast = useToast();
  const x = Math.round(share * row.length * 100) / 100;
  const plane = { x, turn, lean };
  const save = (kind: "svg" | "dxf" | "tiff") =>
    saveFile("/api/files/section", { ...subject, plane, kind }, `section.${kind === "tiff" ? "tif" : kind}`).catch((e) =>
      toast(`Nothing was saved. ${whatWentWrong(e)}`),
    );
  const picture = () =>
    saveFile("/api/predict/bar.png", { ...subject, view: "section", plane, px: 1600, quality: "full" }, "section.png").catch(
      (e) => toast(`Nothing was saved. ${whatWentWrong(e)}`),
    );
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 p-3">
      <div ref={ref} className="grid min-h-24 flex-1 place-items-center overflow-hidden rounded-lg bg-plate p-2">
        {room.width > 40 ? (
          <Picture
            path="/api/predict/bar.png"
            body={{ ...subject, view: "section", plane }}
            box={{ width: room.width - 16, height: room.height - 16 }}
            label={`Section at ${length(x, unit)}, turned ${turn}°, leant ${lean}°`}
            lane="bar-section"
          />
        ) : null}
      </div>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
        <Dial label="At" value={share} min={0} max={1} step={0.002} says={length(x, unit)} onChange={setShare} />
        <Dial label="Turned" value={turn} min={-90} max={90} step={1} says={`${turn}°`} onChange={setTurn} />
        <Dial label="Leant over" value={lean} min={-90} max={90} step={1} says={`${lean}°`} onChange={setLean} />
        <span className="flex gap-1">
          <Button compact onClick={() => void picture()} label="Save this section as PNG, with its scale">
            PNG
          </Button>
          <Button compact onClick={() => void save("svg")} label="Save this section as SVG, in mm">
            SVG
          </Button>
          <Button compact onClick={() => void save("dxf")} label="Save this section as DXF, in mm">
            DXF
          </Button>
          <Button compact onClick={() => void save("tiff")} label="Save which steel is where as a 16-bit TIFF">
            TIFF
          </Button>
        </span>
      </div>
    </div>
  );
}
