import { Timer } from "lucide-react";
import type { Operation } from "../../../api/types";
import { useSay } from "../../../app/session";
import { unlockBell } from "../bell";
import { useBuild } from "../useBuild";

/** The timers of an operation, to be begun; those that run stand above. */
export function TimerButtons({ op }: { op: Operation }) {
  const { of, keeper } = useBuild();
  const say = useSay();
  const running = of(op.id).running;
  const idle = op.timers.map((t, i) => ({ ...t, i })).filter((t) => !(t.i in running));
  if (!idle.length) return null;
  return (
    <div className="grid grid-cols-2 gap-2">
      {idle.map((t) => (
        <button
          key={t.i}
          type="button"
          className="flex min-h-16 items-center gap-3 rounded-lg border border-edge bg-well px-4 text-left"
          onClick={() => {
            unlockBell();
            void keeper.write([{ op: op.id, kind: "timer", timer: t.i, running: true }]);
          }}
        >
          <Timer size={24} aria-hidden className="shrink-0" />
          <span className="min-w-0">
            <span className="block text-xl font-bold">
              {t.again ? "every " : ""}
              {minutesText(t.minutes)}
            </span>
            <span className="block truncate text-sm text-quiet">{say(t.says)}</span>
          </span>
        </button>
      ))}
    </div>
  );
}

function minutesText(minutes: number): string {
  if (minutes < 90) return `${Math.round(minutes)} min`;
  return `${(minutes / 60).toFixed(minutes % 60 ? 1 : 0)} h`;
}
