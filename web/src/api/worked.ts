/** What the server works out of a draft: asked through TanStack Query, the last answer kept in sight until the next is there. */

import { type Query, type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSettled } from "../lib/rest";
import { api, ask, fetchPicture, lane, type PicturePath, Problem, post, Unreachable } from "./client";
import { fetchFace } from "./faces";
import { finer, roughPx } from "./fineness";
import type { BarId, CoreLine, Document, Finding, Ledger, Portrait, ProblemItem, Quality } from "./types";

export type Failure =
  | { kind: "invalid"; problems: ProblemItem[] }
  | { kind: "unreachable"; why: string }
  | { kind: "failed"; why: string };
export type Answer<T> = { data: T | null; failure: Failure | null; busy: boolean };

const AGAIN_MS = 3000;
/** While the hand moves the faces come first: the ledger and the bar's own pictures wait this long. */
const FACES_FIRST_MS = 90;
/** What others let go first, and for how long at most: the core line is a moment's work; the faces are what the eyes are on. */
const LINE_FIRST_MS = 90;
const LEDGER_LATER_MS = 150;
const REST_LATER_MS = 500;
/** The fires take as long as the rest of the ledger: they are asked once the hands rest. */
const FIRES_LATER_MS = 500;
const RESTED_MS = 80;
/** An answer holds while the shop's numbers do; somebody else may change those. */
const FRESH_MS = 10_000;
const KEPT_MS = 60_000;
const WORKED = "worked";
const CORE = "core";
const FACES = "/api/predict/blade.png";

const wait = (ms: number) => new Promise((done) => window.setTimeout(done, ms));

/** Steels or numbers of the shop were changed: nothing that was worked out with them counts any more; what is in sight is asked anew. */
export function forgetWorked(queries: QueryClient): void {
  queries.removeQueries({ queryKey: [WORKED], type: "inactive" });
  // a first answer that is still under way would be taken for a new one
  void queries.cancelQueries({ queryKey: [WORKED] }).then(() => queries.invalidateQueries({ queryKey: [WORKED] }));
}

function failureOf(e: unknown): Failure | null {
  if (e instanceof Problem) {
    if (e.body.code === "superseded") return null;
    if (e.status === 422) return { kind: "invalid", problems: e.body.problems };
    return { kind: "failed", why: e.message };
  }
  if (e instanceof Unreachable) return { kind: "unreachable", why: e.message };
  return e ? { kind: "failed", why: String(e) } : null;
}

type Question<T> = {
  /** What kind of thing it is. */
  name: string;
  /** All that it hangs on. */
  said: string;
  fetch: (signal: AbortSignal) => Promise<T>;
  on?: boolean;
  /** Seen through and shown even when the hand has moved on, so that a picture keeps following it; others are dropped. */
  patient?: boolean;
  keptMs?: number;
};

/**
 * The answer to the newest question. Pure functions of what was said: equal questions are asked once.
 * While a patient one is under way the newest waits, and those between are never asked.
 */
function useAnswer<T>(question: Question<T>): Answer<T> {
  const { said, on = true } = question;
  const [taken, setTaken] = useState(question);
  const now = taken.said === said && taken.name === question.name ? question : taken;
  const query = useQuery<T>({
    queryKey: [WORKED, now.name, now.said],
    queryFn: ({ signal }) => now.fetch(signal),
    enabled: on,
    staleTime: FRESH_MS,
    gcTime: question.keptMs ?? KEPT_MS,
    // out of reach: until it is back; refused: never
    retry: (_, e) => e instanceof Unreachable,
    retryDelay: AGAIN_MS,
  });
  const shown = useRef<T | null>(null);
  if (query.data !== undefined) shown.current = query.data;
  const behind = now.said !== said;
  // in the same breath, not a round later
  if (behind && !(query.isFetching && now.patient && !query.failureCount)) setTaken(question);
  const wrong = query.error ?? query.failureReason;
  return { data: on ? shown.current : null, failure: on ? failureOf(wrong) : null, busy: on && (query.isFetching || behind) };
}

/** The ledger, findings and problems of a draft, with the rows of one of its bars. */
export function useLedger(document: Document, bar: BarId): Answer<Ledger> {
  const queries = useQueryClient();
  const said = useSettled(JSON.stringify({ document, bar }), FACES_FIRST_MS);
  const fetch = async (signal: AbortSignal) => {
    await letPass(queries, isFace, LEDGER_LATER_MS);
    return ask(api.POST("/api/predict/ledger", { body: JSON.parse(said), signal }));
  };
  return useAnswer({ name: "ledger", said, fetch, patient: true });
}

const NOTHING: Finding[] = [];

/** What the fires add to the findings of the blade; nothing while that is not known of this draft. */
export function useFiredFindings(document: Document): Finding[] {
  const said = useSettled(JSON.stringify({ document }), FIRES_LATER_MS);
  const fetch = (signal: AbortSignal) => ask(api.POST("/api/predict/fired-findings", { body: JSON.parse(said), signal }));
  const answer = useAnswer({ name: "fired", said, fetch });
  return answer.busy || answer.failure ? NOTHING : (answer.data ?? NOTHING);
}

/** Portraits of one bar after every step, and of the bars that go into it, to one scale: each by the id of its step or bar. */
export function usePortraits(document: Document, bar: BarId, pxPerMm: number, maxMm: number): Answer<Portrait[]> {
  const { recipe, off } = document;
  const body = { document: { recipe, off }, bar, px_per_mm: pxPerMm, max_mm: maxMm };
  const queries = useQueryClient();
  const said = useSettled(JSON.stringify(body), 2 * FACES_FIRST_MS);
  const fetch = async (signal: AbortSignal) => {
    await letPass(queries, isFace, REST_LATER_MS);
    return ask(api.POST("/api/predict/portraits", { body: JSON.parse(said), headers: lane("portraits"), signal }));
  };
  return useAnswer({ name: "portraits", said, fetch });
}

/** Of the picture at rest, how fine its previews are now: as fine as comes in time on this machine. */
let fineness = 0.5;

/** A picture of the draft, as an address for an image: quick and rough while things move, the full one when they rest. */
export function usePicture(path: PicturePath, body: object, px: number, name: string): Answer<string> {
  const queries = useQueryClient();
  const key = JSON.stringify({ ...body, px });
  const rested = useSettled(key, RESTED_MS);
  const quality: Quality = rested === key ? "screen" : "preview";
  const rough = quality === "preview";
  const answer = useAnswer<Blob | string>({
    name: `${path}${name}`,
    said: `${quality}${key}`,
    fetch: async (signal) => {
      if (path !== FACES) await letPass(queries, isFace, rough ? LEDGER_LATER_MS : REST_LATER_MS);
      else if (rough) await letPass(queries, isCore, LINE_FIRST_MS, true);
      const began = performance.now();
      const asked = rough ? roughPx(px, fineness) : px;
      const fetch = rough && path === FACES ? fetchFace : fetchPicture.bind(null, path);
      const picture = await fetch({ ...body, px: asked, quality }, name, signal);
      if (rough && path === FACES) fineness = finer(fineness, performance.now() - began);
      return picture;
    },
    patient: rough,
    // of the many on the way none is looked at again
    keptMs: rough ? 0 : KEPT_MS,
  });
  return { ...answer, data: useAddress(answer.data) };
}

const isCore = (name: string) => name === CORE;
const isFace = (name: string) => name.startsWith(FACES);

/** Lets those that are under way go first, if wished until they are seen: they share the machine's few cores. */
async function letPass(queries: QueryClient, first: (name: string) => boolean, most: number, seen = false): Promise<void> {
  // effects of the page, which asks for them, may come after those of who waits: in the same breath, before the browser paints
  await Promise.resolve();
  const predicate = (q: Query) => first(String(q.queryKey[1]));
  const under = queries.getQueryCache().findAll({ queryKey: [WORKED], fetchStatus: "fetching", predicate });
  if (!under.length) return;
  const there = Promise.allSettled(under.map((q) => q.promise));
  await Promise.race([seen ? there.then(drawn) : there, wait(most)]);
}

/** What has come is in the page. */
const drawn = () => new Promise<void>((done) => requestAnimationFrame(() => window.setTimeout(done)));

/** An address that holds its picture as it is; of bytes an object address for as long as they are in sight. */
function useAddress(picture: Blob | string | null): string | null {
  const [made, setMade] = useState<{ of: Blob; address: string } | null>(null);
  const shown = useRef<string | null>(null);
  useEffect(() => {
    if (!picture || typeof picture === "string") return;
    const address = URL.createObjectURL(picture);
    setMade({ of: picture, address });
    // the image still shows the old one until it has decoded the new
    return () => void window.setTimeout(() => URL.revokeObjectURL(address), 1000);
  }, [picture]);
  if (typeof picture === "string") shown.current = picture;
  else if (made && made.of === picture) shown.current = made.address;
  return picture ? shown.current : null;
}

/** The core line of a draft: follows the hand like a preview, for it is cheap. */
export function useCore(document: Document, wanted: boolean): Answer<CoreLine> {
  const { recipe, blade, off, aim } = document;
  const on = wanted && !!blade;
  const said = on ? JSON.stringify({ document: { recipe, blade, off, aim } }) : "";
  const fetch = async (signal: AbortSignal) =>
    (await (await post("/api/blade/core", { ...JSON.parse(said), stations: 60 }, signal)).json()) as CoreLine;
  return useAnswer({ name: CORE, said, fetch, on, patient: true, keptMs: 5000 });
}

/** Whatever the server works out from a body: asked again when it changes, once the hand rests. */
export function useWorkedOut<T>(
  name: string,
  body: object,
  work: (body: never, signal: AbortSignal) => Promise<T>,
  on = true,
): Answer<T> {
  const queries = useQueryClient();
  const said = useSettled(JSON.stringify(body), 2 * FACES_FIRST_MS);
  const fetch = async (signal: AbortSignal) => {
    await letPass(queries, isFace, REST_LATER_MS);
    return work(JSON.parse(said) as never, signal);
  };
  return useAnswer({ name, said, fetch, on });
}

/** The document once the hand rests: for pictures that may come after the blade's. */
export function useCalm(document: Document): Document {
  const settled = useSettled(JSON.stringify(document), FACES_FIRST_MS);
  return useMemo(() => JSON.parse(settled) as Document, [settled]);
}
