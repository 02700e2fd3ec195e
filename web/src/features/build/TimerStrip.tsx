import { BellRing, Square } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { ring, unlockBell } from "./bell";
import { heardOf, keepHeard } from "./shelf";
import { clockText, left, type Running, rings, runningOf } from "./timers";
import { useBuild } from "./useBuild";
import { buildAddress } from "./where";

/** A bell that nobody hears is struck again. */
const STRIKE_EVERY_MS = 8_000;
const STRIKES = 8;

/** Timers that run, whatever one is looking at: they ring, flash, and say at once what rang while the tablet slept. */
export function TimerStrip() {
  const { route, of, info, keeper } = useBuild();
  const running = runningOf(route, of);
  const now = useClock(running.length > 0);
  const heard = useHeard(running);
  const due = running.filter((t) => rings(t, now) > (heard.times[t.id] ?? Number.POSITIVE_INFINITY));
  useBell(due.length > 0);
  useEffect(() => {
    window.addEventListener("pointerdown", unlockBell);
    window.addEventListener("keydown", unlockBell);
    return () => {
      window.removeEventListener("pointerdown", unlockBell);
      window.removeEventListener("keydown", unlockBell);
    };
  }, []);
  if (!running.length) return null;
  const stop = (t: Running) => void keeper.write([{ op: t.op.id, kind: "timer", timer: t.at, running: false }]);
  return (
    <ul aria-label="Timers" className="no-print flex shrink-0 flex-wrap gap-2 border-b border-line bg-panel px-3 py-1.5">
      {running.map((t) => {
        const isDue = due.includes(t);
        const ms = left(t, now);
        const over = !t.again && ms <= 0;
        return (
          <li
            key={t.id}
            className={`flex items-center gap-2 rounded-lg border px-3 max-[560px]:gap-0 max-[560px]:px-1.5 ${isDue ? "animate-pulse border-care bg-care-wash" : "border-line bg-well"}`}
          >
            {isDue ? <BellRing size={20} aria-hidden className="text-care" /> : null}
            <Link to={buildAddress(info.id, "sheet", t.op.id)} className="flex min-h-11 items-center gap-2">
              <span role="timer" aria-label={`${t.says}: ${clockText(ms)}`} className="font-mono text-xl font-bold">
                {over ? "0:00" : clockText(ms)}
              </span>
              <span className="max-w-48 truncate max-[560px]:max-w-17">{t.says}</span>
              {over ? <span className="text-sm text-quiet">rang {clockText(ms)}</span> : null}
            </Link>
            {isDue ? (
              <button
                type="button"
                className="min-h-11 rounded-lg bg-ink px-4 font-semibold text-panel"
                onClick={() => (t.again ? heard.hear(t.id, rings(t, now)) : stop(t))}
              >
                Heard
              </button>
            ) : null}
            <button
              type="button"
              aria-label={`Stop: ${t.says}`}
              title="Stop"
              className="grid min-h-11 min-w-9 place-items-center"
              onClick={() => stop(t)}
            >
              <Square size={16} aria-hidden />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function useClock(on: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!on) return;
    setNow(Date.now());
    const each = window.setInterval(() => setNow(Date.now()), 500);
    return () => window.clearInterval(each);
  }, [on]);
  return now;
}

/** How often each was heard on this tablet; unknown until it has been looked up. */
function useHeard(running: Running[]) {
  const [times, setTimes] = useState<Record<string, number>>({});
  const ids = running.map((t) => t.id).join(" ");
  useEffect(() => {
    for (const id of ids.split(" ").filter(Boolean))
      void heardOf(id).then(
        (n) => setTimes((old) => ({ [id]: n, ...old })),
        () => setTimes((old) => ({ [id]: 0, ...old })),
      );
  }, [ids]);
  const hear = (id: string, n: number) => {
    setTimes((old) => ({ ...old, [id]: n }));
    void keepHeard(id, n).catch(() => undefined);
  };
  return { times, hear };
}

function useBell(due: boolean) {
  const struck = useRef(0);
  useEffect(() => {
    if (!due) return;
    struck.current = 0;
    const strike = () => {
      struck.current += 1;
      if (struck.current > STRIKES) return;
      ring();
      if ("vibrate" in navigator) navigator.vibrate([300, 150, 300]);
    };
    strike();
    const each = window.setInterval(strike, STRIKE_EVERY_MS);
    return () => window.clearInterval(each);
  }, [due]);
}
