import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { api, ask, Problem, Unreachable } from "../../api/client";
import type { DesignFull, ProblemItem } from "../../api/types";
import { useMay, useSession } from "../../app/session";
import { upgraded } from "./bars";
import { type Change, type Draft, fresh, reduce } from "./draft";
import { keepDraft } from "./drafts";

export type Saving =
  | { state: "saved" }
  | { state: "looking" }
  | { state: "saving" }
  | { state: "waiting" }
  | { state: "unreachable"; why: string }
  | { state: "invalid"; problems: ProblemItem[] }
  | { state: "signed_out" }
  | { state: "stale"; current: number; kept: number }
  | { state: "failed"; why: string };

const SAVE_AFTER_MS = 1200;
const TRY_AGAIN_MS = 3000;
const KEEP_AFTER_MS = 150;

/** Where one goes on: an unsaved draft as it was left; a saved one only lends its undo and redo. */
function takenUp({ design, left }: { design: DesignFull; left: Draft | undefined }): Draft {
  const start = fresh(design.document, design.name, design.current);
  if (!left) return start;
  try {
    const past = left.past.map((p) => ({ ...p, document: upgraded(p.document) }));
    const future = left.future.map((p) => ({ ...p, document: upgraded(p.document) }));
    if (left.dirty) return { ...left, past, future, document: upgraded(left.document) };
    return left.base === design.current ? { ...left, past, future, document: design.document, name: design.name } : start;
  } catch {
    return start;
  }
}

/** Keeps the draft in the browser shortly after every change, and at once when the page goes; whether that works. */
function useKept(user: string, design: number, draft: Draft): boolean {
  const [works, setWorks] = useState(true);
  const waiting = useRef<Draft | null>(null);
  const keep = useCallback(() => {
    const next = waiting.current;
    waiting.current = null;
    if (next)
      keepDraft(user, design, next).then(
        () => setWorks(true),
        () => setWorks(false),
      );
  }, [user, design]);
  useEffect(() => {
    waiting.current = draft;
    const timer = window.setTimeout(keep, KEEP_AFTER_MS);
    return () => window.clearTimeout(timer);
  }, [draft, keep]);
  useEffect(() => {
    window.addEventListener("pagehide", keep);
    document.addEventListener("visibilitychange", keep);
    return () => {
      window.removeEventListener("pagehide", keep);
      document.removeEventListener("visibilitychange", keep);
      keep();
    };
  }, [keep]);
  return works;
}

/** The draft of one design: kept in the browser at every change, saved to the server when the hands rest. left: as it was left last time. */
export function useDraft(design: DesignFull, left: Draft | undefined) {
  const user = useSession().session.user ?? "";
  const may = useMay("smith");
  const [draft, dispatch] = useReducer(reduce, { design, left }, takenUp);
  const [saving, setSaving] = useState<Saving>({ state: draft.dirty ? "waiting" : "saved" });
  const [attempt, setAttempt] = useState(0);
  const queries = useQueryClient();
  const latest = useRef(draft);
  latest.current = draft;
  const blocked = useRef(false);
  /** One save at a time: a second one would stand on what the first has not yet made, and be one's own stale save. */
  const busy = useRef(false);
  const gone = useRef(false);
  /** The newest save of ours, known here before the draft is told of it. */
  const newest = useRef(draft.base);
  const [again, setAgain] = useState(0);

  const keeps = useKept(user, design.id, draft);

  const save = useCallback(async () => {
    const sent = latest.current;
    if (!sent.dirty || blocked.current || busy.current) return;
    if (!may) {
      setSaving({ state: "looking" });
      return;
    }
    setSaving({ state: "saving" });
    busy.current = true;
    try {
      const body = { document: sent.document, base: Math.max(sent.base, newest.current), name: sent.name };
      const line = await ask(api.PUT("/api/designs/{design_id}", { params: { path: { design_id: design.id } }, body }));
      newest.current = line.current;
      dispatch({ type: "saved", document: sent.document, name: sent.name, base: line.current });
      setSaving({ state: "saved" });
      queries.invalidateQueries({ queryKey: ["designs"] });
      queries.invalidateQueries({ queryKey: ["revisions", design.id] });
    } catch (e) {
      if (e instanceof Problem && e.body.code === "stale") {
        blocked.current = true;
        setSaving({ state: "stale", current: e.body.current ?? 0, kept: e.body.kept ?? 0 });
      } else if (e instanceof Problem && e.status === 422) setSaving({ state: "invalid", problems: e.body.problems });
      else if (e instanceof Problem && e.status === 401) setSaving({ state: "signed_out" });
      else if (e instanceof Unreachable) {
        setSaving({ state: "unreachable", why: e.message });
        window.setTimeout(() => setAttempt((n) => n + 1), TRY_AGAIN_MS);
      } else setSaving({ state: "failed", why: e instanceof Error ? e.message : String(e) });
    } finally {
      busy.current = false;
      // what was changed meanwhile has found a save under way
      const changed = latest.current.document !== sent.document || latest.current.name !== sent.name;
      if (changed && gone.current) void save();
      else if (changed) setAgain((n) => n + 1);
    }
  }, [design.id, queries, may]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a change of the document or name starts the clock again
  useEffect(() => {
    if (!draft.dirty) return;
    const timer = window.setTimeout(save, attempt ? 0 : SAVE_AFTER_MS);
    return () => window.clearTimeout(timer);
  }, [draft.document, draft.name, draft.dirty, draft.base, attempt, again, save]);

  // the page may have gone while its save was on the way: the server knows what it has, and tells before anything more is changed
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what was left by the page before
  useEffect(() => void save(), []);

  useEffect(() => {
    const leave = () => {
      if (document.visibilityState === "hidden") void save();
    };
    document.addEventListener("visibilitychange", leave);
    gone.current = false;
    return () => {
      document.removeEventListener("visibilitychange", leave);
      gone.current = true;
      void save();
    };
  }, [save]);

  const press = usePress();
  const change = useCallback(
    (c: Change) => dispatch({ type: "change", change: c, now: Date.now(), press: press.current }),
    [press],
  );
  const undo = useCallback(() => dispatch({ type: "undo" }), []);
  const redo = useCallback(() => dispatch({ type: "redo" }), []);

  /** Puts a version from the server on the table; the draft goes on the undo pile. */
  const take = useCallback((full: DesignFull) => {
    blocked.current = false;
    const past = [...latest.current.past, { document: latest.current.document, name: latest.current.name }];
    dispatch({ type: "replace", draft: { ...fresh(full.document, full.name, full.current), past } });
    setSaving({ state: "saved" });
  }, []);

  /** After a stale save: put this draft on top of what the other saved. */
  const keepMine = useCallback((current: number) => {
    blocked.current = false;
    dispatch({ type: "replace", draft: { ...latest.current, base: current, dirty: true } });
    setSaving({ state: "waiting" });
  }, []);

  return { draft, saving, keeps, change, undo, redo, take, keepMine, save };
}

/** The number of the pointer's press under way, 0 while nothing is held. */
function usePress() {
  const press = useRef(0);
  useEffect(() => {
    let count = 0;
    const down = () => {
      count += 1;
      press.current = count;
    };
    // a click is told after the pointer is up: it still belongs to no press
    const up = () => {
      press.current = 0;
    };
    window.addEventListener("pointerdown", down, true);
    window.addEventListener("pointerup", up, true);
    window.addEventListener("pointercancel", up, true);
    return () => {
      window.removeEventListener("pointerdown", down, true);
      window.removeEventListener("pointerup", up, true);
      window.removeEventListener("pointercancel", up, true);
    };
  }, []);
  return press;
}
