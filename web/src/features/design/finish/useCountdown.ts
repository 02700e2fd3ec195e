import { useEffect, useState } from "react";

const TICK_MS = 500;

/** Seconds that are left, by the clock of the day so that a page that slept shows the truth; it rings at its end, unless it was stopped. */
export function useCountdown(forMinutes: number): { until: number | null; left: number; start: () => void } {
  const [until, setUntil] = useState<number | null>(null);
  const [, tick] = useState(0);
  useEffect(() => {
    if (until === null) return;
    const timer = window.setInterval(() => {
      tick((n) => n + 1);
      if (Date.now() < until) return;
      window.clearInterval(timer);
      void import("../../build/bell").then((m) => m.ring());
    }, TICK_MS);
    return () => window.clearInterval(timer);
  }, [until]);
  const start = () => {
    // the bell may only be rung on a page that was touched
    void import("../../build/bell").then((m) => m.unlockBell());
    setUntil(until === null ? Date.now() + forMinutes * 60_000 : null);
  };
  return { until, left: until === null ? 0 : (until - Date.now()) / 1000, start };
}
