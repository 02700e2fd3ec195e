import { Maximize2, Minimize2 } from "lucide-react";
import { useState } from "react";
import type { BarId, Blade, Document, Ledger, Row } from "../../../api/types";
import { useKeys } from "../../../lib/useKeys";
import { Button } from "../../../ui";
import { BladeDepth, BladeSection } from "./BladeViews";
import { DepthFilm } from "./DepthFilm";
import { FaceView } from "./FaceView";
import { LayersView } from "./LayersView";
import { OutlineView } from "./OutlineView";
import { RimsView } from "./SectionsView";
import { SectionView } from "./SectionView";
import { SolidView } from "./SolidView";
import { WindowView } from "./WindowView";

/** What every look at a bar is given: which bar it is (as the server takes it), its row of the ledger, how far it is ground. */
export type BarViewProps = { subject: object; row: Row; ground: number; onGround: (mm: number) => void };

const BAR = ["Face", "Section", "Window", "3-D", "Depths"] as const;
const BLADE = ["Ground", "Outline", "Section", "Rims", "3-D", "Layers"] as const;
type Name = (typeof BAR)[number] | (typeof BLADE)[number];

/** The chosen bar, or the blade, from close by: several ways to look at it, and as large as the screen if wanted. */
export function BarView({
  document,
  bar,
  stages,
  row,
  shape,
  blade,
  ground,
  onGround,
  onChange,
  view,
  onView,
}: {
  document: Document;
  bar: BarId;
  stages: number;
  row: Row;
  shape: Ledger["shape"];
  /** The blade is chosen, not a bar. */
  blade: boolean;
  ground: number;
  onGround: (mm: number) => void;
  /** The blade is changed in a look itself. */
  onChange: (blade: Blade, what: string) => void;
  /** Which of the ways to look, as the address says it; empty: the first. */
  view: string;
  onView: (view: string) => void;
}) {
  const [large, setLarge] = useState(false);
  useKeys(large ? { escape: () => setLarge(false) } : {});
  const onBlade = blade && !!shape;
  const names: readonly Name[] = onBlade ? BLADE : BAR;
  const name = names.find((n) => n.toLowerCase() === view) ?? names[0];
  const subject = { document: { recipe: document.recipe, off: document.off }, bar, stages };
  const look = { subject, row, ground, onGround };
  return (
    <div className={large ? "fixed inset-0 z-40 flex bg-panel" : "flex min-h-0 min-w-0 flex-1 short:flex-col"}>
      <div
        className={`flex shrink-0 flex-col border-r border-line py-1 ${large ? "" : "short:flex-row short:border-r-0 short:border-b short:py-0"}`}
      >
        <div role="tablist" aria-label="Ways to look" className={large ? "flex flex-col" : "flex flex-col short:flex-row"}>
          {names.map((n) => (
            <button
              key={n}
              type="button"
              role="tab"
              aria-selected={n === name}
              onClick={() => onView(n.toLowerCase())}
              className={`min-h-10 border-l-3 px-3 text-left text-sm ${large ? "" : "short:border-b-3 short:border-l-0"} ${n === name ? "border-ink font-semibold" : "border-transparent text-quiet hover:text-ink"}`}
            >
              {n}
            </button>
          ))}
        </div>
        <span className={large ? "mt-auto" : "mt-auto short:mt-0 short:ml-auto"}>
          <Button
            kind="quiet"
            compact
            label={large ? "Back to the work" : "Look larger"}
            pressed={large}
            onClick={() => setLarge(!large)}
          >
            {large ? <Minimize2 size={16} aria-hidden /> : <Maximize2 size={16} aria-hidden />}
          </Button>
        </span>
      </div>
      <div role="tabpanel" aria-label={name} className="flex min-h-0 min-w-0 flex-1">
        {onBlade && shape ? (
          name === "Section" ? (
            <BladeSection document={document} shape={shape} />
          ) : name === "3-D" ? (
            <SolidView key="blade" subject={{ document }} row={null} bladeLength={shape.length} />
          ) : name === "Layers" ? (
            <LayersView document={document} shape={shape} />
          ) : name === "Outline" ? (
            <OutlineView document={document} onBlade={onChange} />
          ) : name === "Rims" ? (
            <RimsView document={document} shape={shape} />
          ) : (
            <BladeDepth document={document} shape={shape} />
          )
        ) : name === "Section" ? (
          <SectionView {...look} />
        ) : name === "Window" ? (
          <WindowView {...look} />
        ) : name === "3-D" ? (
          <SolidView key="bar" subject={subject} row={row} />
        ) : name === "Depths" ? (
          <DepthFilm {...look} />
        ) : (
          <FaceView {...look} />
        )}
      </div>
    </div>
  );
}
