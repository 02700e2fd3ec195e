import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { api, ask, fetchPicture, lane, Problem, post, Unreachable } from "../../api/client";
import type { BarId, CoreLine, Document, Finding, Ledger, Portrait, ProblemItem, Quality } from "../../api/types";

export type Failure = { kind: "invalid"; problems: ProblemItem[] } | { kind: "unreachable" } | { kind: "failed"; why: string };

const AGAIN_MS = 3000;
/** While the hand moves the faces come first: the ledger and the bar's own pictures wait this long. */
const FACES_FIRST_MS = 90;

/** The core line is a moment's work: while the hand moves the faces let it go first, but wait no longer than this. */
const LINE_FIRST_MS = 60;
let line: Promise<unknown> = Promise.resolve();

function wait(ms: number): Promise<void> {
  return new Promise((done) => window.setTimeout(done, ms));
}

function failureOf(e: unknown): Failure | null {
  if (e instanceof DOMException && e.name === "AbortError") return null;
  if (e instanceof Problem) {
    if (e.body.code === "superseded") return null;
    if (e.status === 422) return { kind: "invalid", problems: e.body.problems };
    return { kind: "failed", why: e.message };
  }
  if (e instanceof Unreachable) return { kind: "unreachable" };
  return { kind: "failed", why: String(e) };
}

type Answer<T> = { data: T | null; failure: Failure | null; busy: boolean };

type Job<T> = {
  key: string;
  work: (signal: AbortSignal) => Promise<T> /** Seen through even when overtaken. */;
  patient: boolean;
};

/**
 * Asks for what belongs to the job's key, one question at a time; the last answer stays until the
 * next is there. While a slider moves, a patient job is finished and shown before the newest is
 * asked for, so that the picture keeps following the hand; an impatient one is dropped.
 * `useTurn`: when in the browser's round it is asked; in useLayoutEffect before all pictures.
 */
function useAsked<T>(job: Job<T>, release?: (old: T) => void, useTurn = useEffect): Answer<T> {
  const [answer, setAnswer] = useState<Answer<T>>({ data: null, failure: null, busy: true });
  const wanted = useRef(job);
  wanted.current = job;
  const running = useRef<{ key: string; patient: boolean; stop: AbortController } | null>(null);
  const shown = useRef<T | null>(null);
  const timer = useRef(0);
  const letGo = useRef(release);
  const alive = useRef(true);

  const start = useRef(() => {
    const now = wanted.current;
    const stop = new AbortController();
    const mine = { key: now.key, patient: now.patient, stop };
    running.current = mine;
    const done = (next: () => void) => {
      if (running.current !== mine) return;
      running.current = null;
      next();
      if (alive.current && wanted.current.key !== mine.key) start.current();
    };
    now.work(stop.signal).then(
      (data) => {
        if (!alive.current || running.current !== mine) {
          letGo.current?.(data);
          return;
        }
        done(() => {
          if (shown.current !== null) letGo.current?.(shown.current);
          shown.current = data;
          setAnswer({ data, failure: null, busy: wanted.current.key !== mine.key });
        });
      },
      (e) =>
        done(() => {
          const failure = failureOf(e);
          if (!failure || !alive.current) return;
          if (failure.kind === "unreachable")
            timer.current = window.setTimeout(() => running.current ?? start.current(), AGAIN_MS);
          setAnswer((old) => ({ ...old, failure, busy: false }));
        }),
    );
  });

  useTurn(() => {
    setAnswer((old) => (old.busy ? old : { ...old, busy: true }));
    if (running.current && !running.current.patient && running.current.key !== job.key) {
      running.current.stop.abort();
      running.current = null;
    }
    if (!running.current) start.current();
  }, [job.key]);

  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
      window.clearTimeout(timer.current);
      running.current?.stop.abort();
      running.current = null;
    };
  }, []);
  return answer;
}

/** The ledger, findings and problems of a draft, with the rows of one of its bars. */
export function useLedger(document: Document, bar: BarId): Answer<Ledger> {
  const settled = useSettled(JSON.stringify({ document, bar }), FACES_FIRST_MS);
  return useAsked({
    key: settled,
    work: (signal) => ask(api.POST("/api/predict/ledger", { body: JSON.parse(settled), signal })),
    patient: true,
  });
}

/** The fires take as long as the rest of the ledger: they are asked once the hands rest. */
const FIRES_LATER_MS = 500;

/** What the fires add to the findings of the blade; nothing while that is not known of this draft. */
export function useFiredFindings(document: Document): Finding[] {
  const settled = useSettled(JSON.stringify({ document }), FIRES_LATER_MS);
  const answer = useAsked({
    key: settled,
    work: (signal) => ask(api.POST("/api/predict/fired-findings", { body: JSON.parse(settled), signal })),
    patient: false,
  });
  return answer.busy || answer.failure ? NOTHING : (answer.data ?? NOTHING);
}
const NOTHING: Finding[] = [];

/** Portraits of one bar after every step, and of the bars that go into it, to one scale: each by the id of its step or bar. */
export function usePortraits(document: Document, bar: BarId, pxPerMm: number, maxMm: number): Answer<Portrait[]> {
  const { recipe, off } = document;
  const body = { document: { recipe, off }, bar, px_per_mm: pxPerMm, max_mm: maxMm };
  const settled = useSettled(JSON.stringify(body), 2 * FACES_FIRST_MS);
  return useAsked({
    key: settled,
    work: (signal) => ask(api.POST("/api/predict/portraits", { body: JSON.parse(settled), headers: lane("portraits"), signal })),
    patient: false,
  });
}

/** A picture of the draft: quick and rough while things move, the full one when they rest. */
export function usePicture(
  path: "/api/predict/blade.png" | "/api/predict/bar.png",
  body: object,
  px: number,
  name: string,
): Answer<string> {
  const key = JSON.stringify({ ...body, px });
  const rested = useSettled(key, 140);
  const quality: Quality = rested === key ? "screen" : "preview";
  return useAsked(
    {
      key: `${quality}${key}`,
      work: (signal) => {
        const size = quality === "preview" ? Math.round(px / 2) : px;
        const draw = () => fetchPicture(path, { ...body, px: size, quality }, name, signal);
        return quality === "preview" ? Promise.race([line, wait(LINE_FIRST_MS)]).then(draw) : draw();
      },
      patient: quality === "preview",
    },
    (url) => URL.revokeObjectURL(url),
  );
}

/** The core line of a draft: follows the hand like a preview, for it is cheap. */
export function useCore(document: Document, on: boolean): Answer<CoreLine> {
  const { recipe, blade, off, aim } = document;
  const key = on && blade ? JSON.stringify({ document: { recipe, blade, off, aim } }) : "";
  return useAsked<CoreLine>(
    {
      key: key || "none",
      work: async (signal) => {
        if (!key) throw new DOMException("", "AbortError");
        // straight to fetch: the line must be asked for before the pictures are
        const answer = post("/api/blade/core", { ...JSON.parse(key), stations: 60 }, signal).then((r) => r.json());
        line = answer.catch(() => undefined);
        return (await answer) as CoreLine;
      },
      patient: true,
    },
    undefined,
    useLayoutEffect,
  );
}

/** Whatever the server works out from a body: asked again when it changes, once the hand rests. */
export function useWorkedOut<T>(body: object, work: (body: never, signal: AbortSignal) => Promise<T>): Answer<T> {
  const settled = useSettled(JSON.stringify(body), 2 * FACES_FIRST_MS);
  return useAsked({ key: settled, work: (signal) => work(JSON.parse(settled) as never, signal), patient: false });
}

/** The document once the hand rests: for pictures that may come after the blade's. */
export function useCalm(document: Document): Document {
  const settled = useSettled(JSON.stringify(document), FACES_FIRST_MS);
  return useMemo(() => JSON.parse(settled) as Document, [settled]);
}

/** `value` once it has stood still for `ms`; the first one at once. */
function useSettled(value: string, ms: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), ms);
    return () => window.clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
