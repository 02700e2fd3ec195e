import { useState } from "react";
import type { Blade, ProblemItem } from "../../api/types";
import { Button, Segments } from "../../ui";
import { ForgeFields } from "./blade/ForgeFields";
import { GrindFields } from "./blade/GrindFields";
import { LieFields } from "./blade/LieFields";
import { OutlineFields } from "./blade/OutlineFields";
import { sentence, under } from "./fields/problems";
import { Shell } from "./Panel";
import type { PanelCommon } from "./StepPanel";

export const FRESH_BLADE: Blade = {
  format: "varistrat.blade/1",
  outline: { shape: "drop_point", length: 150, height: 30, point: 0.4 },
  spine_thickness: { heel: 4, mid: 3.5, tip: 2 },
  grind: { right: { kind: "flat", edge_thickness: 0.4 }, left: { kind: "flat", edge_thickness: 0.4 } },
};

/** What every part of the panel is given: the blade, the words for a problem of a field, and how to change it. */
export type BladeFields = {
  document: PanelCommon["document"];
  blade: Blade;
  at: (path: string) => string | undefined;
  /** Problems of the blade, paths relative to it. */
  problems: ProblemItem[];
  put: (next: Partial<Blade>, what: string) => void;
};

const PARTS = [
  { value: "outline", label: "Outline" },
  { value: "grind", label: "Grind" },
  { value: "forge", label: "Forge" },
  { value: "lie", label: "Place" },
] as const;
type Part = (typeof PARTS)[number]["value"];
const ABOUT: Record<Part, string> = {
  outline: "Its shape seen from the side, heel to tip, and its tang.",
  grind: "How thick it is, and what is ground off each side.",
  forge: "How much of the shape is forged before grinding.",
  lie: "Where along the bar it is laid out, and which way.",
};
const PATHS: Record<Part, string[]> = {
  outline: ["blade.outline", "blade.tang"],
  grind: ["blade.grind", "blade.spine_thickness"],
  forge: ["blade.forging"],
  lie: ["blade.place"],
};

/** Outline, thickness and grind, forging and place of the blade. */
export function BladePanel({ document, problems, change }: Pick<PanelCommon, "document" | "problems" | "change">) {
  const [part, setPart] = useState<Part>("outline");
  const blade = document.blade;
  if (!blade) {
    return (
      <Shell title="No blade yet" about="A blade shows what the bar's pattern becomes on bevelled faces.">
        <div className="col-span-full">
          <Button kind="main" onClick={() => change({ type: "blade", blade: FRESH_BLADE, what: "add" })}>
            Cut a blade from the bar
          </Button>
        </div>
      </Shell>
    );
  }
  const own = under(problems, "blade");
  const fields: BladeFields = {
    document,
    blade,
    problems: own,
    at: (path) => own.filter((p) => p.path === path).map(sentence)[0],
    put: (next, what) => change({ type: "blade", blade: { ...blade, ...next }, what }),
  };
  return (
    <Shell
      title="Blade"
      about={ABOUT[part]}
      actions={
        <Button kind="quiet" onClick={() => change({ type: "blade", blade: null, what: "remove" })}>
          Take it out
        </Button>
      }
    >
      <div className="col-span-full">
        <Segments<Part>
          label="Part of the blade"
          value={part}
          options={PARTS.map((p) => ({
            value: p.value,
            label: problems.some((q) => PATHS[p.value].some((path) => q.path.startsWith(path))) ? `${p.label} !` : p.label,
          }))}
          onChange={setPart}
          snug
        />
      </div>
      {part === "outline" ? (
        <OutlineFields {...fields} />
      ) : part === "grind" ? (
        <GrindFields {...fields} />
      ) : part === "forge" ? (
        <ForgeFields {...fields} />
      ) : (
        <LieFields {...fields} />
      )}
    </Shell>
  );
}
