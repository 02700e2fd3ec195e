import { useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { useSize } from "../../../lib/useSize";
import type { BarViewProps } from "./BarView";
import { Picture } from "./Picture";

const FRAMES = 12;

/** The same face at twelve depths side by side, from the skin down to the middle. Choose one to grind to it. */
export function DepthFilm({ subject, row, ground, onGround }: BarViewProps) {
  const unit = useUnit();
  const [ref, room] = useSize<HTMLDivElement>();
  const columns = room.width > 900 ? 4 : 3;
  const rows = Math.ceil(FRAMES / columns);
  const cell = {
    width: Math.max(60, Math.floor(room.width / columns) - 10),
    height: Math.max(24, Math.floor(room.height / rows) - 26),
  };
  const shown = Math.min(row.length, (row.width * cell.width) / cell.height);
  const x0 = Math.max(0, (row.length - shown) / 2);
  const depths = Array.from({ length: FRAMES }, (_, i) => Math.round((i / (FRAMES - 1)) * row.thickness * 0.5 * 1000) / 1000);
  const body = {
    ...subject,
    view: "face",
    x0: Math.round(x0 * 100) / 100,
    x1: Math.round((x0 + shown) * 100) / 100,
  };
  return (
    <div ref={ref} className="min-h-0 min-w-0 flex-1 overflow-y-auto p-3">
      <ol
        className="grid gap-1.5"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
        aria-label="Twelve depths"
      >
        {depths.map((depth, i) => (
          <li key={depth}>
            <button
              type="button"
              onClick={() => onGround(depth)}
              aria-pressed={Math.abs(ground - depth) < 1e-3}
              className="flex w-full flex-col items-center rounded-lg border-2 border-transparent bg-plate p-0.5 text-plate-ink hover:border-edge aria-pressed:border-accent"
            >
              <span style={{ height: cell.height }} className="grid w-full place-items-center">
                {room.width > 60 ? (
                  <Picture
                    path="/api/predict/bar.png"
                    body={{ ...body, z: row.thickness / 2 - depth }}
                    box={cell}
                    label={`Ground ${length(depth, unit)} off`}
                    lane={`film-${i}`}
                  />
                ) : null}
              </span>
              <span className="font-mono text-xs">{length(depth, unit)} off</span>
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}
