import { useCallback, useEffect, useRef, useState } from "react";
import { lines, whatWentWrong } from "../../../api/client";
import type { Document, Study } from "../../../api/types";

export type StudyRun = {
  state: "none" | "running" | "done" | "failed";
  done: number;
  study: Study | null;
  of: string;
  why: string;
};

const NOTHING: StudyRun = { state: "none", done: 0, study: null, of: "", why: "" };

/** The tolerance study of a draft: started by hand, with progress, stopped by hand or by leaving. */
export function useStudy() {
  const [run, setRun] = useState<StudyRun>(NOTHING);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);

  const start = useCallback(async (document: Document) => {
    stop.current?.abort();
    const mine = new AbortController();
    stop.current = mine;
    const { recipe, blade, off, aim, sizes } = document;
    const of = JSON.stringify({ recipe, blade, off, aim, sizes });
    setRun((old) => ({ ...old, state: "running", done: 0, why: "" }));
    try {
      const told = lines<{ done?: number; study?: Study }>(
        "/api/blade/study",
        { document: { recipe, blade, off, aim, sizes } },
        mine.signal,
      );
      for await (const said of told) {
        if (said.study) setRun({ state: "done", done: 1, study: said.study, of, why: "" });
        else setRun((old) => (stop.current === mine ? { ...old, done: said.done ?? old.done } : old));
      }
      setRun((old) =>
        stop.current === mine && old.state === "running" ? { ...old, state: "failed", why: "The study broke off." } : old,
      );
    } catch (e) {
      if (e instanceof DOMException && e.name === "AbortError") return;
      setRun((old) => ({ ...old, state: "failed", why: whatWentWrong(e) }));
    }
  }, []);

  const cancel = useCallback(() => {
    stop.current?.abort();
    stop.current = null;
    setRun((old) => ({ ...old, state: old.study ? "done" : "none", done: 0 }));
  }, []);
  return { run, start, cancel };
}

export function studyKey(document: Document): string {
  const { recipe, blade, off, aim, sizes } = document;
  return JSON.stringify({ recipe, blade, off, aim, sizes });
}
