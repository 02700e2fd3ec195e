import { useCallback, useEffect, useRef, useState } from "react";
import { lines, whatWentWrong } from "../../../api/client";
import type { PhotoFit } from "../../../api/types";

export type FitRun = { state: "none" | "running" | "done" | "failed"; done: number; fit: PhotoFit | null; why: string };
const NOTHING: FitRun = { state: "none", done: 0, fit: null, why: "" };
type Said = { done?: number; fit?: PhotoFit; problem?: string };

/** The fit of a photo: begun by hand, with progress, stopped by hand or by leaving. */
export function useFit(address: string) {
  const [run, setRun] = useState<FitRun>(NOTHING);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);

  const start = useCallback(
    async (body: object) => {
      stop.current?.abort();
      const mine = new AbortController();
      stop.current = mine;
      setRun({ ...NOTHING, state: "running" });
      try {
        for await (const said of lines<Said>(address, body, mine.signal)) {
          if (stop.current !== mine) return;
          if (said.fit) setRun({ state: "done", done: 1, fit: said.fit, why: "" });
          else if (said.problem) setRun({ ...NOTHING, state: "failed", why: said.problem });
          else setRun((old) => ({ ...old, done: said.done ?? old.done }));
        }
        setRun((old) =>
          stop.current === mine && old.state === "running" ? { ...old, state: "failed", why: "It broke off: try again." } : old,
        );
      } catch (e) {
        if (e instanceof DOMException && e.name === "AbortError") return;
        setRun({ ...NOTHING, state: "failed", why: whatWentWrong(e) });
      }
    },
    [address],
  );
  const cancel = useCallback(() => {
    stop.current?.abort();
    stop.current = null;
    setRun(NOTHING);
  }, []);
  return { run, start, cancel };
}
