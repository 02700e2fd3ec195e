import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { api, ask } from "../../../api/client";
import type { BladeSection, CoreLine, Measures } from "../../../api/types";
import { type Answer, type Failure, useWorkedOut } from "../../../api/worked";
import { useTable } from "../table";
import { CoreChart, type Dot, Legend, type Spread, type Trail } from "./CoreChart";
import { lineHeight, ofSide } from "./line";
import { SectionGlance } from "./SectionGlance";
import { useStudy } from "./useStudy";

/** What the tabs of Grind share: the blade measured and cut across, the core line as heights square to the edge, the study. */
export type Grinding = {
  measures: Answer<Measures>;
  sections: BladeSection[] | null;
  /** Its shape as it was worked out last. */
  length: number;
  surface: string;
  takes: number[] | null;
  setTakes: (takes: number[] | null) => void;
  study: ReturnType<typeof useStudy>;
  /** The line of the design as it stands. */
  now: Trail;
  /** Heights square to the edge, of vertical ones. */
  square: (xs: number[], hs: number[]) => number[];
};

const Context = createContext<Grinding | null>(null);

export function useGrinding(): Grinding {
  const found = useContext(Context);
  if (!found) throw new Error("outside Grind");
  return found;
}

export function GrindingProvider({ children }: { children: ReactNode }) {
  const { document, ledger, core } = useTable();
  const { recipe, blade, off, handle, finish } = document;
  const [takes, setTakes] = useState<number[] | null>(null);
  const study = useStudy();
  const measures = useWorkedOut<Measures>(
    "measures",
    { document: { recipe, blade, off, handle, finish }, belts: takes },
    (body, signal) => ask(api.POST("/api/blade/measures", { body, signal })) as Promise<Measures>,
    !!blade,
  );
  const sections = useWorkedOut<BladeSection[]>(
    "sections",
    { document: { recipe, blade, off }, stations: 60 },
    (body, signal) => ask(api.POST("/api/blade/sections", { body, signal })),
    !!blade,
  ).data;
  const line = useMemo(() => lineOf(core), [core]);
  const value = {
    measures,
    sections,
    length: ledger?.shape?.length ?? 100,
    surface: ledger?.shape?.surface ?? "",
    takes,
    setTakes,
    study,
    ...line,
  };
  return <Context value={value}>{children}</Context>;
}

function lineOf(core: CoreLine | null): Pick<Grinding, "now" | "square"> {
  const stations = core?.stations ?? [];
  const right = ofSide(stations, "right");
  const slantAt = (x: number) =>
    right.reduce((best, s) => (Math.abs(s.x - x) < Math.abs(best.x - x) ? s : best), right[0] ?? { x: 0, slant: 1 }).slant;
  const now: Trail = {
    label: "core line",
    x: right.map((s) => s.x),
    right: right.map(lineHeight),
    left: ofSide(stations, "left").map(lineHeight),
    look: "now",
  };
  return { now, square: (xs, hs) => hs.map((h, i) => h * slantAt(xs[i] ?? 0)) };
}

/** The core line of both sides over the blade's length, with what a tab lays over it. */
export function LineChart({
  name,
  trails,
  spread,
  dots = [],
}: {
  name: string;
  trails?: Trail[];
  spread?: Spread;
  dots?: Dot[];
}) {
  const { core, plate } = useTable();
  const { length, now } = useGrinding();
  const shown = trails ?? [now];
  if (!core) return <p className="m-auto animate-pulse text-quiet">Working out the core line…</p>;
  const right = ofSide(core.stations, "right");
  return (
    <>
      <CoreChart
        label={`Core line of both sides, ${name}`}
        length={length}
        heights={right.map((s) => [s.x, s.height])}
        band={right.map((s) => [s.x, core.band.low * s.slant, core.band.high * s.slant])}
        judged={[core.band.start, core.band.end]}
        trails={shown}
        spread={spread}
        dots={dots}
        at={plate.at}
        onAt={plate.setAt}
      />
      <Legend trails={shown} spread={spread} dots={dots.length > 0} />
    </>
  );
}

/** The blade cut across at the station pointed at, and where one pointed last. */
export function Glance() {
  const { at } = useTable().plate;
  const { sections, length } = useGrinding();
  const [last, setLast] = useState<number | null>(null);
  useEffect(() => {
    if (at !== null) setLast(at);
  }, [at]);
  return sections ? <SectionGlance sections={sections} at={at ?? last ?? length * 0.4} /> : null;
}

export function why(failure: Failure | null): string {
  if (!failure) return "";
  if (failure.kind === "invalid") return failure.problems.map((p) => `${p.wrong}; ${p.cure}.`).join(" ");
  return failure.why;
}

/** Why there is no line to look at: none at all, or (`bent`) one whose core does not lie flat. */
export function NoCore({ bent }: { bent: boolean }) {
  return (
    <div className="m-auto max-w-md text-center text-quiet">
      <p className="mb-2 font-semibold text-ink">
        {bent ? "This core does not lie flat between clads." : "There is no core line on this blade."}
      </p>
      <p>
        {bent
          ? "Its line is predicted, but tolerances and what a test etch says are only worked out for a core between two clads."
          : "A core line needs a laminate: a hard core between clads, let into a slot, jacketed, or joined at the edge. Start a new design from one of the laminates, or give the stack like outsides."}
      </p>
    </div>
  );
}
