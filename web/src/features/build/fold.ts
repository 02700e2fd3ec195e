/** Where a build stands, folded from its entries as the core does (core/build/state.py): for where there is no network. */

import type { Entry } from "../../api/types";

export type Standing = "open" | "done" | "skipped";
export type Measured = { value: number; typed: string; id: string };
export type OpState = {
  standing: Standing;
  times: number;
  why: string;
  minutes: number | null;
  /** By quantity, of the bar as a whole. */
  measured: Partial<Record<string, Measured>>;
  answers: Record<number, boolean>;
  /** By place among the operation's timers: since when, and which entry said so. */
  running: Record<number, { since: number; id: string }>;
  notes: Entry[];
  photos: Entry[];
  faults: Entry[];
  /** Tests of the edge since it was last done. */
  tests: Entry[];
};
export type BuildState = {
  operations: Record<string, OpState>;
  amended: Entry[];
  /** The smith's own grade, the last. */
  graded: Entry | null;
  begun: number | null;
  ended: number | null;
  void: Set<string>;
};

const NOTHING: OpState = {
  standing: "open",
  times: 0,
  why: "",
  minutes: null,
  measured: {},
  answers: {},
  running: {},
  notes: [],
  photos: [],
  faults: [],
  tests: [],
};
const fresh = (): OpState => structuredClone(NOTHING);
export const stateOf = (state: BuildState, op: string): OpState => state.operations[op] ?? NOTHING;

/** Each once, by the clock and then by id. */
export function inOrder(entries: Entry[]): Entry[] {
  const once = new Map<string, Entry>();
  for (const e of entries) if (!once.has(e.id)) once.set(e.id, e);
  return [...once.values()].sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : 1));
}

function voidOf(ordered: Entry[]): Set<string> {
  const byId = new Map(ordered.map((e) => [e.id, e]));
  const gone = new Set<string>();
  const heard = new Set<string>();
  for (const e of ordered.toReversed()) {
    if (e.kind === "voided" && !gone.has(e.id)) {
      const of = byId.get(e.entry);
      const late = of?.kind === "voided" && heard.has(e.entry);
      if (of && !late && e.entry !== e.id) gone.add(e.entry);
    }
    heard.add(e.id);
  }
  return gone;
}

export function fold(entries: Entry[]): BuildState {
  const ordered = inOrder(entries);
  const state: BuildState = { operations: {}, amended: [], graded: null, begun: null, ended: null, void: voidOf(ordered) };
  for (const e of ordered) {
    if (state.void.has(e.id) || e.kind === "voided") continue;
    const at = Date.parse(e.at);
    state.begun ??= at;
    state.ended = at;
    if (e.kind === "amended") {
      state.amended.push(e);
      continue;
    }
    if (e.kind === "graded") {
      state.graded = e;
      continue;
    }
    const name = e.op ?? "";
    state.operations[name] ??= fresh();
    tell(state.operations[name], e, at);
  }
  return state;
}

function tell(op: OpState, e: Entry, at: number): void {
  switch (e.kind) {
    case "measured":
      if (e.place == null) op.measured[e.quantity] = { value: e.value, typed: e.typed ?? "", id: e.id };
      break;
    case "done":
      op.standing = "done";
      op.why = "";
      op.running = {};
      op.times += 1;
      if (e.minutes != null) op.minutes = (op.minutes ?? 0) + e.minutes;
      break;
    case "skipped":
      op.standing = "skipped";
      op.why = e.why;
      op.running = {};
      break;
    case "redone":
      // what was answered and measured the first time says nothing of the second
      op.standing = "open";
      op.why = e.why ?? "";
      op.answers = {};
      op.measured = {};
      op.tests = [];
      break;
    case "checked":
      op.answers[e.check] = e.good;
      break;
    case "timer":
      if (!e.running) delete op.running[e.timer];
      else op.running[e.timer] ??= { since: at, id: e.id };
      break;
    case "note":
      op.notes.push(e);
      break;
    case "photo":
      op.photos.push(e);
      break;
    case "fault":
      op.faults.push(e);
      break;
    case "tested":
      op.tests.push(e);
  }
}

/** The first of a route that is neither done nor skipped. */
export function nextOf(state: BuildState, route: string[]): string | undefined {
  return route.find((op) => stateOf(state, op).standing === "open");
}
