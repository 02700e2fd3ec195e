import type { KilnRun } from "../../../api/types";
import { useDegrees } from "../../../app/session";
import { degrees, temperature } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import { AxisName, BottomAxis, LeftAxis, path, scaled } from "../../../ui/chart";
import { glowOf } from "./glow";

const LEFT = 48;
const BOTTOM = 30;
const TICKS = [5, 10, 15, 30, 60, 120, 240, 480, 960, 1440];

/** The plan behind, the run before it: set point, chamber, blade; alarms where they were raised. */
export function KilnChart({ run, corners }: { run: KilnRun | null; corners: number[][] }) {
  const heat = useDegrees();
  const [ref, room] = useSize<HTMLDivElement>();
  const WIDTH = Math.max(280, room.width);
  const HEIGHT = Math.max(200, room.height);
  const rows = run ? thin(run.record) : [];
  const end =
    Math.max(
      10,
      ...corners.map((c) => c[0] ?? 0),
      ...rows.slice(-1).map((r) => (r[0] ?? 0) / 60),
      run ? (run.reading[0] ?? 0) / 60 : 0,
    ) * 1.03;
  const top = Math.max(100, ...corners.map((c) => c[1] ?? 0), ...rows.map((r) => r[2] ?? 0)) * 1.08;
  const x = scaled([0, end], [LEFT, WIDTH - 10]);
  const y = scaled([0, top], [HEIGHT - BOTTOM, 8]);
  const line = (column: number) => path(rows.map((r) => [x((r[0] ?? 0) / 60), y(r[column] ?? 0)]));
  const planned = path(corners.map(([m, c]) => [x(m ?? 0), y(c ?? 0)]));
  const tick = TICKS.find((t) => end / t <= 8) ?? 1440;
  const hot = top > 700 ? 200 : top > 300 ? 100 : 50;
  const marks = Array.from({ length: Math.floor(top / hot) + 1 }, (_, i) => i * hot);
  const alarms = run?.events.filter((e) => e.kind === "alarm") ?? [];
  const chamber = run?.reading[2] ?? 20;
  return (
    <figure className="flex min-h-0 flex-1 flex-col">
      <div ref={ref} className="min-h-64 min-w-0 flex-1 overflow-hidden">
        <svg
          width={WIDTH}
          height={HEIGHT}
          className="block"
          role="img"
          aria-label={
            run
              ? `Kiln run: chamber ${temperature(chamber, heat)} after ${Math.round((run.reading[0] ?? 0) / 60)} min`
              : "Planned kiln curve"
          }
        >
          <LeftAxis from={LEFT} to={WIDTH - 10} marks={marks.map((m) => ({ at: y(m), text: degrees(m, heat) }))} />
          <BottomAxis
            y={HEIGHT - 10}
            from={LEFT}
            to={WIDTH - 10}
            marks={Array.from({ length: Math.floor(end / tick) + 1 }, (_, i) => i * tick).map((m) => ({
              at: x(m),
              text: tick >= 60 ? `${m / 60} h` : `${m} min`,
            }))}
          />
          <path d={planned} fill="none" className="stroke-quiet" strokeWidth={6} opacity={0.28} strokeLinejoin="round" />
          <path d={line(1)} fill="none" className="stroke-quiet" strokeWidth={1.5} strokeDasharray="6 4" />
          <path d={line(3)} fill="none" className="stroke-accent" strokeWidth={2.2} />
          <path d={line(2)} fill="none" className="stroke-ink" strokeWidth={2.2} />
          {run ? (
            <circle
              cx={x((run.reading[0] ?? 0) / 60)}
              cy={y(chamber)}
              r={6}
              fill={glowOf(chamber)}
              className="stroke-ink"
              strokeWidth={1.5}
            />
          ) : null}
          {alarms.map((e) => (
            <path
              key={`${e.alarm}${e.seconds}`}
              d={`M${x(e.seconds / 60)} 8V${HEIGHT - BOTTOM}`}
              className="stroke-stop"
              strokeWidth={1.5}
              strokeDasharray="2 3"
            />
          ))}
          <AxisName height={HEIGHT}>°{heat}</AxisName>
        </svg>
      </div>
      <figcaption className="flex flex-wrap gap-x-5 text-sm text-quiet">
        <Key className="stroke-quiet opacity-40" width={6} word="plan" />
        {run ? (
          <>
            <Key className="stroke-quiet" width={1.5} dash="6 4" word="set point" />
            <Key className="stroke-ink" width={2.2} word="chamber" />
            <Key className="stroke-accent" width={2.2} word="blade" />
            {alarms.length ? <Key className="stroke-stop" width={1.5} dash="2 3" word="alarm" /> : null}
          </>
        ) : null}
      </figcaption>
    </figure>
  );
}

function Key({ className, width, dash, word }: { className: string; width: number; dash?: string; word: string }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width={26} height={10} aria-hidden>
        <path d="M0 5H26" className={className} strokeWidth={width} strokeDasharray={dash} />
      </svg>
      {word}
    </span>
  );
}

const MOST = 600;

/** No more points than there are pixels. */
function thin(rows: number[][]): number[][] {
  const every = Math.ceil(rows.length / MOST);
  return every <= 1 ? rows : rows.filter((_, i) => i % every === 0 || i === rows.length - 1);
}
