import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Bend, Hardening, HardeningSheet, StraightPlace } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { widestGap } from "../../../lib/stations";
import { length } from "../../../lib/units";
import { Button, Notice, Segments } from "../../../ui";
import { Measure } from "../fields/Measure";
import type { PutHardening } from "./HardeningTab";

type State = "soft" | "window" | "clamp";
const STATES: Record<State, { label: string; how: string }> = {
  soft: {
    label: "soft, cold",
    how: "Annealed: carried at the two marks, pressed between them that far past straight; it springs back the rest.",
  },
  window: {
    label: "in the window",
    how: "Straight after the quench, while it is still mostly austenite: light pressure, and look again.",
  },
  clamp: {
    label: "in the clamp",
    how: "For a temper: warmed first, on a flat bar, a shim under the bulge, pulled down at the marks.",
  },
};

const OUT = [
  { key: "bow", label: "Bow", unit: "mm", least: -100 },
  { key: "edgewise", label: "Edgewise", unit: "mm", least: -100 },
  { key: "twist", label: "Twist, °", unit: "deg", least: -180 },
] as const;

/** How it bent, read at several places, and how it lies to be bent back. */
export function StraightenFields({ said, sheet, put }: { said: Partial<Hardening>; sheet: HardeningSheet; put: PutHardening }) {
  const [state, setState] = useState<State>("clamp");
  const hardened = said.hardened ?? {};
  const places = hardened.straight?.places ?? [];
  const set = (next: StraightPlace[], what: string) =>
    put({ hardened: { ...hardened, straight: { places: next } } }, `hardened.straight.${what}`);
  const change = (i: number, with_: Partial<StraightPlace>) =>
    set(
      places.map((p, k) => (k === i ? { ...p, ...with_ } : p)),
      String(i),
    );
  const bends = sheet.bends[state] ?? [];
  const next = widestGap(
    places.map((p) => p.x),
    0,
    sheet.length,
  );
  return (
    <section aria-label="Straight" className="space-y-2">
      <h3 className="text-lg font-bold">Is it straight?</h3>
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <Measure
          label="Bow over its length"
          unit="mm"
          optional
          placeholder="straight"
          value={hardened.bow}
          onChange={(bow) => put({ hardened: { ...hardened, bow } }, "hardened.bow")}
        />
        {hardened.bow ? (
          <div>
            <Segments<"left" | "right" | "none">
              titled
              label="Hollow face"
              snug
              value={hardened.hollow ?? "none"}
              options={[
                { value: "none", label: "?" },
                { value: "left", label: "left" },
                { value: "right", label: "right" },
              ]}
              onChange={(h) => put({ hardened: { ...hardened, hollow: h === "none" ? null : h } }, "hardened.hollow")}
            />
          </div>
        ) : null}
      </div>
      {places.length ? (
        <p className="text-sm text-quiet">
          Lay a straight edge from heel to point. Bow: how far the middle of the blade lies off it towards the left face (right:
          −). Edgewise: towards the spine (edge: −). Twist: degrees against the heel, as a right-hand screw turns.
        </p>
      ) : null}
      {places.map((p, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: places have no other name
        <div key={i} className="grid grid-cols-[1fr_1fr_1fr_1fr_2.75rem] items-end gap-1.5">
          <Measure label="From heel" unit="mm" narrow value={p.x} onChange={(v) => v !== null && change(i, { x: v })} />
          {OUT.map(({ key, label, unit, least }) => (
            <Measure
              key={key}
              label={label}
              unit={unit}
              narrow
              min={least}
              value={p[key] ?? 0}
              onChange={(v) => change(i, { [key]: v ?? 0 })}
            />
          ))}
          <Button
            compact
            kind="quiet"
            label={`Remove place ${i + 1}`}
            onClick={() =>
              set(
                places.filter((_, k) => k !== i),
                "out",
              )
            }
          >
            <Trash2 size={16} aria-hidden />
          </Button>
        </div>
      ))}
      {places.length < 40 ? (
        <Button compact onClick={() => set([...places, { x: next, bow: 0, edgewise: 0, twist: 0 }], "in")}>
          <Plus size={16} aria-hidden /> Read at one more place
        </Button>
      ) : null}
      {sheet.bends.clamp?.length ? (
        <>
          <Segments<State>
            label="Straightened"
            snug
            value={state}
            onChange={setState}
            options={(Object.keys(STATES) as State[]).map((value) => ({ value, label: STATES[value].label }))}
          />
          <p className="text-sm text-quiet">{STATES[state].how}</p>
          {bends.map((b) => (
            <BendPicture key={b.way} bend={b} state={state} long={sheet.length} />
          ))}
        </>
      ) : null}
    </section>
  );
}

const NAMES = { bow: "Bow", edgewise: "Bent edgewise", twist: "Twist" };

/** How the blade lies: hollow side up, on two supports or a shim, and where it is pulled down. */
function BendPicture({ bend, state, long }: { bend: Bend; state: State; long: number }) {
  const unit = useUnit();
  const out = `${NAMES[bend.way]}: ${bend.way === "twist" ? `${Math.abs(bend.size).toFixed(1)}°` : length(Math.abs(bend.size), unit)} at ${length(bend.at, unit)} from the heel`;
  if (bend.way === "twist")
    return (
      <div className="rounded-lg border border-line p-2">
        <p className="font-semibold">{out}</p>
        <p>
          Hold the heel and turn that place {bend.size > 0 ? "to the left" : "to the right"} by {Math.abs(bend.size).toFixed(1)}°,
          and {bend.over.toFixed(1)}° past.
        </p>
        {bend.grade === "stop" ? <Notice tone="stop">Hard steel hardly twists: it snaps. Soften it first.</Notice> : null}
      </div>
    );
  const x = (mm: number) => 12 + (276 * mm) / Math.max(long, 1);
  const [low = 0, high = long] = bend.supports;
  // in the clamp the hollow lies up; to be pressed it lies on its ends, the bulge up
  const [ends, belly] = state === "clamp" ? [24, 60] : [46, 8];
  return (
    <figure className="rounded-lg border border-line p-2">
      <figcaption className="font-semibold">{out}</figcaption>
      <svg viewBox="0 0 300 78" className="w-full" role="img" aria-label={`It lies with the ${bend.up || "hollow"} side up`}>
        <rect x="4" y="62" width="292" height="8" className="fill-line" />
        <path
          d={`M ${x(low)} ${ends} Q ${x(bend.at)} ${belly} ${x(high)} ${ends}`}
          className="fill-none stroke-ink"
          strokeWidth="5"
          strokeLinecap="round"
        />
        {state === "clamp" ? (
          <rect x={x(bend.at) - 7} y="50" width="14" height="12" className="fill-accent" />
        ) : (
          <path
            d={`M ${x(low)} 62 l -6 -12 h 12 z M ${x(high)} 62 l -6 -12 h 12 z`}
            className="fill-accent"
            transform="translate(0,0)"
          />
        )}
        {[low, high].map((at) => (
          <path
            key={at}
            d={state === "clamp" ? `M ${x(at)} 4 v 12 m -4 -5 l 4 5 l 4 -5` : ""}
            className="fill-none stroke-stop"
            strokeWidth="2.5"
          />
        ))}
        {state === "clamp" ? null : (
          <path d={`M ${x(bend.at)} 4 v 14 m -4 -5 l 4 5 l 4 -5`} className="fill-none stroke-stop" strokeWidth="2.5" />
        )}
      </svg>
      <p>
        {state === "clamp" ? (
          <>
            The {bend.up ? `hollow side (${bend.up})` : "hollow side"} up, a shim of{" "}
            <b className="font-mono">{length(bend.over, unit)}</b> under the bulge, pulled down at {length(low, unit)} and{" "}
            {length(high, unit)}.
          </>
        ) : (
          <>
            The bulge{bend.up ? ` (the ${bend.up} side is hollow)` : ""} up, carried at {length(low, unit)} and{" "}
            {length(high, unit)}; pressed at {length(bend.at, unit)} about <b className="font-mono">{length(bend.over, unit)}</b>{" "}
            past straight.
          </>
        )}
      </p>
      {bend.grade !== "note" ? (
        <Notice tone={bend.grade}>
          It strains the skin by {(100 * bend.strain).toFixed(2)} %; hard steel goes at about 0.9 %. Half of it at a time, warm.
        </Notice>
      ) : null}
    </figure>
  );
}
