import { Camera, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Document, Inferred, Reading, Round, Side } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { length, lengthText, UNIT_MARK } from "../../../lib/units";
import { Button, Choice, Notice, Segments } from "../../../ui";
import type { Change } from "../draft";
import { Measure } from "../fields/Measure";
import { Fold } from "../Panel";
import { asLines, type Cell, closed, isOver, nextStation, withCell, withHeights } from "./readings";

type Props = { document: Document; surface: string; bladeLength: number; change: (c: Change) => void; onPhoto: () => void };

/** The readings table: core heights off the test-etched blade, a row per station. */
export function ReadingsTable({ document, surface, bladeLength, change, onPhoto }: Props) {
  const unit = useUnit();
  const readings = document.readings ?? {};
  const heights = readings.heights ?? [];
  const lines = asLines(readings);
  const stations = readings.stations ?? [];
  const put = (next: Reading[], what: string, waiting: number[] = stations) =>
    change({
      type: "plan",
      plan: { readings: { ...withHeights(readings, next, surface), stations: waiting } },
      what: `readings.${what}`,
    });
  const set = (x: number, side: Side, cell: Cell) => put(withCell(heights, x, side, cell), `${x}.${side}`);
  const shown = lines;
  return (
    <>
      <p className="col-span-full -mt-1 text-sm text-quiet">
        Etch the ground blade for half a minute, wipe it, and read how high the core shows, square to the edge. Gloves, goggles,
        fresh air; acid into water, never the reverse; follow the maker's sheet and local rules.
      </p>
      {isOver(readings, surface) ? (
        <div className="col-span-full">
          <Notice tone="care">
            <span>
              The blade's shape or grind was changed since these heights were read. They say nothing of faces that were ground
              anew.
            </span>
            <Button onClick={() => change({ type: "plan", plan: { readings: closed(readings, {}) }, what: "readings.round" })}>
              It was ground: a new round
            </Button>
            <Button onClick={() => change({ type: "plan", plan: { readings: { ...readings, surface } }, what: "readings.hold" })}>
              Only the plan changed: they hold
            </Button>
          </Notice>
        </div>
      ) : null}
      <section className="col-span-full" aria-label="Readings">
        <div className="grid grid-cols-[4.6rem_1fr_1fr_2.75rem] items-end gap-x-1.5 text-sm text-quiet">
          <span>heel, {UNIT_MARK[unit]}</span>
          <span>left, {UNIT_MARK[unit]}</span>
          <span>right, {UNIT_MARK[unit]}</span>
          <span />
        </div>
        {shown.map((l) => (
          <div key={l.x} className="mb-1 grid grid-cols-[4.6rem_1fr_1fr_2.75rem] items-start gap-x-1.5">
            <span className="grid min-h-11 content-center font-mono">{lengthText(l.x, unit)}</span>
            <HeightCell label={`Left at ${length(l.x, unit)}`} cell={l.left} onChange={(c) => set(l.x, "left", c)} />
            <HeightCell label={`Right at ${length(l.x, unit)}`} cell={l.right} onChange={(c) => set(l.x, "right", c)} />
            <Button
              compact
              kind="quiet"
              label={`Remove the readings at ${length(l.x, unit)}`}
              onClick={() =>
                put(
                  heights.filter((r) => r.x !== l.x),
                  "remove",
                  stations.filter((x) => x !== l.x),
                )
              }
            >
              <Trash2 size={16} aria-hidden />
            </Button>
          </div>
        ))}
        {heights.length || (shown.length && !readings.rounds?.length) ? null : (
          <p className="py-2 text-quiet">
            {readings.rounds?.length
              ? "The faces are new since the last grinding: etch them again and read them afresh."
              : "Nothing read yet. Five stations a side say most of it."}
          </p>
        )}
      </section>
      <AddStation
        lines={shown.map((l) => l.x)}
        suggest={nextStation(shown, bladeLength)}
        most={bladeLength}
        onAdd={(x) => put(heights, "station", [...stations, x])}
      />
      <Rounds rounds={readings.rounds ?? []} />
      <div className="col-span-full">
        <Button onClick={onPhoto}>
          <Camera size={16} aria-hidden /> Pick on a photo
        </Button>
      </div>
      <Measure
        label="Read to within"
        unit="mm"
        value={readings.within ?? 0.4}
        hint="two readings in three are nearer"
        onChange={(v) =>
          change({ type: "plan", plan: { readings: { ...readings, within: Math.max(v ?? 0.4, 0.02) } }, what: "readings.within" })
        }
      />
      <span />
      <Fold
        title="readings that settle what heights cannot"
        open={readings.edge_thickness != null || readings.off_middle != null}
      >
        <Measure
          label="Edge thickness"
          unit="mm"
          optional
          placeholder="not measured"
          value={readings.edge_thickness ?? null}
          hint="mean of a few places"
          onChange={(v) =>
            change({ type: "plan", plan: { readings: { ...readings, edge_thickness: v } }, what: "readings.edge" })
          }
        />
        <Measure
          label="Blade right of tang"
          unit="mm"
          optional
          min={-20}
          placeholder="not measured"
          value={readings.off_middle ?? null}
          hint="middle of the ground faces; left: −"
          onChange={(v) => change({ type: "plan", plan: { readings: { ...readings, off_middle: v } }, what: "readings.middle" })}
        />
      </Fold>
    </>
  );
}

/** Earlier test etches: what was read, and what was ground off for it. */
function Rounds({ rounds }: { rounds: Round[] }) {
  const unit = useUnit();
  if (!rounds.length) return null;
  return (
    <section aria-label="Rounds so far" className="col-span-full">
      <h3 className="text-sm font-semibold text-quiet">Rounds so far</h3>
      <ol className="text-sm">
        {rounds.map((r, i) => {
          const most = (side: Side) => Math.max(0, ...(r.ground?.[side] ?? []).flatMap((row) => row.slice(1)));
          const read = r.heights?.length ?? 0;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: rounds have no other name
            <li key={i} className="border-t border-line py-1">
              {i + 1}. {read} {read === 1 ? "height" : "heights"} read; then{" "}
              {most("left") || most("right") ? (
                <>
                  ground off, at the most: <span className="font-mono">{length(most("left"), unit)}</span> left,{" "}
                  <span className="font-mono">{length(most("right"), unit)}</span> right.
                </>
              ) : (
                "ground anew."
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function HeightCell({ label, cell, onChange }: { label: string; cell: Cell; onChange: (cell: Cell) => void }) {
  if (cell && cell.state !== "line") {
    return (
      <Choice
        label={label}
        value={cell.state}
        options={[
          { value: "none", label: "no core" },
          { value: "spine", label: "all core" },
          { value: "line", label: "a height" },
        ]}
        onChange={(state) => onChange(state === "line" ? null : { height: null, state })}
      />
    );
  }
  return (
    <div className="flex items-start gap-1">
      <div className="min-w-0 flex-1">
        <Measure
          bare
          narrow
          label={label}
          unit="mm"
          optional
          placeholder="–"
          value={cell?.height ?? null}
          onChange={(v) => onChange(v === null ? null : { height: v, state: "line" })}
        />
      </div>
      {cell ? null : (
        <button
          type="button"
          title="Clad down to the edge: no core seen here"
          aria-label={`${label}: no core seen`}
          className="min-h-11 rounded-lg px-1 text-[0.75rem] leading-tight text-quiet hover:text-ink"
          onClick={() => onChange({ height: null, state: "none" })}
        >
          no
          <br />
          core
        </button>
      )}
    </div>
  );
}

function AddStation({
  lines,
  suggest,
  most,
  onAdd,
}: {
  lines: number[];
  suggest: number;
  most: number;
  onAdd: (x: number) => void;
}) {
  const [x, setX] = useState<number | null>(null);
  const at = Math.round((x ?? suggest) * 100) / 100;
  const wrong = at <= 0 || at >= most ? "on the blade, please" : lines.includes(at) ? "already there" : "";
  return (
    <div className="col-span-full flex items-end gap-2">
      <div className="w-40">
        <Measure
          label="New station"
          unit="mm"
          optional
          placeholder={String(suggest)}
          value={x}
          problem={x === null ? undefined : wrong || undefined}
          onChange={setX}
        />
      </div>
      <Button
        disabled={!!wrong}
        onClick={() => {
          onAdd(at);
          setX(null);
        }}
      >
        <Plus size={16} aria-hidden /> Add
      </Button>
    </div>
  );
}

const HELPS = { edge_thickness: "the edge's thickness", off_middle: "each face from the tang's middle" };

/** What the readings say, with their uncertainty, and what to take off where. */
export type Faces = "design" | "read" | "ground";

export function EtchSays({
  inferred,
  faces,
  onFaces,
  onTake,
}: {
  inferred: Inferred;
  /** Which blade lies on the plate above. */
  faces: Faces;
  onFaces: (faces: Faces) => void;
  onTake: () => void;
}) {
  const unit = useUnit();
  const [offset = 0, offsetSd = 0] = inferred.mean_offset;
  const [share = 0, shareSd = 0] = inferred.mean_share;
  const thick = inferred.thickness.reduce((a, b) => a + b, 0) / Math.max(1, inferred.thickness.length);
  const mm = offset * thick;
  const help = inferred.helps[0];
  const worth = help && help.then < 0.85 * help.now;
  return (
    <section className="flex flex-col gap-3" aria-label="What the test etch says">
      <div>
        <h3 className="text-sm font-semibold text-quiet">What the readings say</h3>
        <p>
          The core lies <b className="font-mono">{length(Math.abs(mm), unit)}</b> to the {mm >= 0 ? "right" : "left"} of the
          middle, <span className="text-quiet">± {length(1.645 * offsetSd * thick, unit)}</span>, and takes{" "}
          <b className="font-mono">{Math.round(share * 1000) / 10} %</b> of the thickness{" "}
          <span className="text-quiet">± {Math.round(1645 * shareSd) / 10} %</span>. <span className="text-quiet">(9 in 10)</span>
        </p>
        {inferred.misfit > 2 ? (
          <Notice tone="care">The readings do not go together well: check sides and stations, or read less finely.</Notice>
        ) : null}
        <p className="text-sm text-quiet">
          Heights tell well how the core wanders. Whether all of it stands right, or the grind does, they cannot part
          {worth && help ? (
            <>
              : measuring {HELPS[help.reading]} would narrow the {help.of} by {Math.round(100 * (1 - help.then / help.now))} %.
            </>
          ) : (
            " for sure."
          )}
        </p>
      </div>
      <Correction inferred={inferred} />
      <div>
        <h3 className="mb-1 text-sm font-semibold text-quiet">On the faces above, before and after</h3>
        <Segments<Faces>
          label="On the faces above"
          value={faces}
          snug
          options={[
            { value: "design", label: "as designed" },
            { value: "read", label: "as read" },
            { value: "ground", label: "ground so" },
          ]}
          onChange={onFaces}
        />
      </div>
      <Button kind="main" onClick={onTake}>
        Take the grinding over
      </Button>
    </section>
  );
}

/** Removals at a few stations, and what cannot be met. */
function Correction({ inferred }: { inferred: Inferred }) {
  const unit = useUnit();
  const most = Math.max(...Object.values(inferred.removal).flat());
  const n = inferred.plan_x.length;
  const some = [...new Set([0, 0.25, 0.5, 0.75, 1].map((v) => Math.round(v * (n - 1))))];
  const low = inferred.unmet.filter((u) => u.kind === "low");
  const high = inferred.unmet.filter((u) => u.kind === "high");
  const at = (key: string, i: number) => inferred.removal[key]?.[i] ?? 0;
  const cell = (side: Side, i: number) => {
    const edge = at(`${side}_edge`, i);
    const spine = at(`${side}_spine`, i);
    return edge + spine < 0.005 ? "–" : `${length(edge, unit)} / ${length(spine, unit)}`;
  };
  return (
    <div>
      <h3 className="text-sm font-semibold text-quiet">What to take off, at the edge / at the spine</h3>
      {most < 0.005 ? (
        <p>{inferred.unmet.length ? "Grinding cannot mend what is out." : "Nothing: the line lies where it is wanted."}</p>
      ) : (
        <>
          <table className="w-full text-right text-sm">
            <thead className="text-quiet">
              <tr>
                <th scope="col" className="text-left font-normal">
                  at
                </th>
                <th scope="col" className="font-normal">
                  left
                </th>
                <th scope="col" className="font-normal">
                  right
                </th>
              </tr>
            </thead>
            <tbody className="font-mono">
              {some.map((i) => (
                <tr key={i} className="border-t border-line">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {length(inferred.plan_x[i] ?? 0, unit)}
                  </th>
                  <td>{cell("left", i)}</td>
                  <td>{cell("right", i)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1">
            Grind it, etch again, read again: the new faces want new readings. That leaves{" "}
            <span className="font-mono">{length(Math.min(...inferred.edge_left), unit)}</span> at the edge and{" "}
            <span className="font-mono">{length(Math.min(...inferred.spine_left), unit)}</span> at the spine where it is least.
          </p>
        </>
      )}
      {low.length ? (
        <Notice tone="care">
          {low.length} places stay too low, up to {length(Math.max(...low.map((u) => u.by)), unit)}: there is not steel enough
          left to bring the line up.
        </Notice>
      ) : null}
      {high.length ? (
        <Notice tone="care">
          {high.length} places stand too high, up to {length(inferred.shorten, unit)}. Grinding a face only raises its line: bring
          the other side up to it, or take {length(inferred.shorten, unit)} off the edge itself, which makes the blade that much
          narrower.
        </Notice>
      ) : null}
    </div>
  );
}
