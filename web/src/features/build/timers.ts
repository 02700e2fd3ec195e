/** Timers of a build: since when they run, when they ring, and how often they were heard. Pure. */

import type { Operation } from "../../api/types";
import type { OpState } from "./fold";

export type Running = {
  /** Of the entry that began it. */
  id: string;
  op: Operation;
  at: number;
  says: string;
  since: number;
  minutes: number;
  again: boolean;
};

export function runningOf(ops: Operation[], of: (id: string) => OpState): Running[] {
  return ops.flatMap((op) =>
    Object.entries(of(op.id).running).flatMap(([n, { since, id }]) => {
      const timer = op.timers[Number(n)];
      return timer
        ? [{ id, op, at: Number(n), says: timer.says, since, minutes: timer.minutes, again: timer.again ?? false }]
        : [];
    }),
  );
}

/** How often it has rung by now: once, or each time anew. */
export function rings(t: Running, now: number): number {
  const passed = (now - t.since) / 60_000;
  if (passed < t.minutes || t.minutes <= 0) return 0;
  return t.again ? Math.floor(passed / t.minutes) : 1;
}

/** ms until it rings next; of one that rings once and has, how long ago, below nothing. */
export function left(t: Running, now: number): number {
  const times = t.again ? rings(t, now) + 1 : 1;
  return t.since + times * t.minutes * 60_000 - now;
}

/** "4:05", "1:12:30"; of what is past: "2:10 ago". */
export function clockText(ms: number): string {
  const s = Math.round(Math.abs(ms) / 1000);
  const two = (n: number) => String(n).padStart(2, "0");
  const text =
    s >= 3600 ? `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}` : `${Math.floor(s / 60)}:${two(s % 60)}`;
  return ms < 0 ? `${text} ago` : text;
}
