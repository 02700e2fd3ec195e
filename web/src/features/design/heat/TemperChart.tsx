import type { HardeningSheet, TemperedReading } from "../../../api/types";
import { useDegrees } from "../../../app/session";
import { degrees, temperature } from "../../../lib/units";
import { BottomAxis, LeftAxis, path, scaled } from "../../../ui/chart";

const WIDTH = 340;
const HEIGHT = 190;
const LEFT = 34;
const BOTTOM = 34;
const DASHES = ["", "7 4", "2 4", "10 3 2 3"];
/** Run colours of tempered steel, straw to blue. */
const RUN: [number, string][] = [
  [200, "#f3ead0"],
  [215, "#ecd89c"],
  [235, "#d9ad4f"],
  [255, "#a5653a"],
  [275, "#6f3f66"],
  [295, "#37468c"],
  [320, "#7199c0"],
  [350, "#9a9a94"],
];

/** Hardness of every steel against the heat of its temper, over the run colours; what is wanted, what was read. */
export function TemperChart({ sheet, wanted, tempered }: { sheet: HardeningSheet; wanted: number; tempered: TemperedReading[] }) {
  const heat = useDegrees();
  const parts = sheet.parts.filter((p) => p.curve.length);
  const all = parts.flatMap((p) => p.curve.map((c) => c[1] ?? 0));
  const low = Math.floor(Math.min(wanted, ...all) - 1);
  const high = Math.ceil(Math.max(wanted, ...all) + 1);
  const x = scaled([150, 350], [LEFT, WIDTH - 8]);
  const y = scaled([low, high], [HEIGHT - BOTTOM, 6]);
  const readings = tempered.flatMap((t) => (t.hrc ?? []).map((h) => [t.celsius + sheet.oven, h] as const));
  const said = parts.map((p) => `${p.name} ${p.tempered?.toFixed(1)} HRC`).join(", ");
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full max-w-104"
        role="img"
        aria-label={
          sheet.set_oven === null
            ? `Hardness over the tempering heat: ${said}`
            : `Hardness after tempering at ${temperature(sheet.set_oven, heat)}: ${said}`
        }
      >
        <defs>
          <linearGradient id="run" x1={x(200)} x2={x(350)} y1="0" y2="0" gradientUnits="userSpaceOnUse">
            {RUN.map(([t, c]) => (
              <stop key={t} offset={(t - 200) / 150} stopColor={c} />
            ))}
          </linearGradient>
        </defs>
        <rect
          x={LEFT}
          y={HEIGHT - BOTTOM}
          width={WIDTH - LEFT - 8}
          height={9}
          fill="url(#run)"
          className="stroke-edge"
          strokeWidth={0.5}
        />
        <BottomAxis
          y={HEIGHT - 8}
          from={LEFT}
          to={WIDTH - 8}
          base={HEIGHT - BOTTOM}
          up={HEIGHT - BOTTOM - 6}
          marks={[150, 200, 250, 300, 350].map((t) => ({ at: x(t), text: degrees(t, heat) }))}
        />
        <LeftAxis
          from={LEFT}
          to={WIDTH - 8}
          short
          marks={Array.from({ length: high - low + 1 }, (_, i) => low + i)
            .filter((h) => h % (high - low > 12 ? 5 : 2) === 0)
            .map((h) => ({ at: y(h), text: h }))}
        />
        <rect x={x(250)} y={6} width={x(350) - x(250)} height={HEIGHT - BOTTOM - 6} className="fill-care" opacity={0.1} />
        <path d={`M${LEFT} ${y(wanted)}H${WIDTH - 8}`} className="stroke-accent" strokeDasharray="3 3" />
        {sheet.temper !== null && sheet.temper !== undefined ? (
          <path d={`M${x(sheet.temper)} 6V${HEIGHT - BOTTOM}`} className="stroke-accent" strokeWidth={1.6} />
        ) : null}
        {parts.map((p, i) => (
          <path
            key={p.key}
            d={path(p.curve.map(([t, h]) => [x(t ?? 0), y(h ?? 0)]))}
            fill="none"
            className="stroke-ink"
            strokeWidth={p.key === sheet.lead ? 2.6 : 1.6}
            strokeDasharray={DASHES[i % DASHES.length]}
          />
        ))}
        {readings.map(([t, h]) => (
          <circle key={`${t}-${h}`} cx={x(t)} cy={y(h)} r={4} className="fill-accent stroke-panel" strokeWidth={1.5} />
        ))}
      </svg>
      <figcaption className="text-sm text-quiet">
        HRC after two hours at °{heat}, run colours below.{" "}
        {parts.map((p, i) => (
          <span key={p.key} className="mr-2 whitespace-nowrap">
            <svg width={22} height={8} aria-hidden className="inline">
              <path
                d="M0 4H22"
                className="stroke-ink"
                strokeWidth={p.key === sheet.lead ? 2.6 : 1.6}
                strokeDasharray={DASHES[i % DASHES.length]}
              />
            </svg>{" "}
            {p.name}
          </span>
        ))}
        {sheet.set_oven !== null && sheet.set_oven !== undefined
          ? ` Set the oven to ${temperature(sheet.set_oven, heat)}${sheet.colour ? `; bright steel runs to ${sheet.colour}` : ", no run colour yet"}.`
          : ""}{" "}
        Shaded: brittle.
      </figcaption>
    </figure>
  );
}
