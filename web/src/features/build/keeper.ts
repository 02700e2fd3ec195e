/** One build on this tablet: what is known of it, what waits to be sent, and the way to the server and back. */

import { api, ask, Problem, post, Unreachable } from "../../api/client";
import type { Build, BuildRecord, BuildTold, Entry } from "../../api/types";
import { type BuildState, fold } from "./fold";
import {
  keepPack,
  keepRefused,
  keepShot,
  keepWaiting,
  noLongerWaiting,
  type Pack,
  packOf,
  shotOf,
  shotSent,
  type Waiting,
  waitingOf,
} from "./shelf";

/** Entries in one request, as the server takes them. */
const AT_ONCE = 500;
export type Link = "asking" | "here" | "away" | "signed out" | "other shop" | "absent";
export type Known = {
  info: Build | null;
  told: BuildTold | null;
  records: BuildRecord[];
  waiting: Waiting[];
  state: BuildState;
  link: Link;
  /** Why this tablet could not keep what was written; empty while it can. */
  unkept: string;
  /** Why the server would not say; empty while it does. */
  wrong: string;
};
export type Written = Entry extends infer E ? (E extends Entry ? Omit<E, "id" | "at"> & { at?: string } : never) : never;

const EMPTY = fold([]);

/** By the clock of this tablet, with its zone. */
export function nowHere(now = new Date()): string {
  const off = -now.getTimezoneOffset();
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, "0");
  const local = new Date(now.getTime() + off * 60_000).toISOString().slice(0, -1);
  return `${local}${off < 0 ? "-" : "+"}${two(off / 60)}:${two(off % 60)}`;
}

export class Keeper {
  private known: Known = {
    info: null,
    told: null,
    records: [],
    waiting: [],
    state: EMPTY,
    link: "asking",
    unkept: "",
    wrong: "",
  };
  private readonly watchers = new Set<() => void>();
  private sending: Promise<void> | null = null;
  private queued: Promise<void> | null = null;

  constructor(
    readonly user: string,
    readonly shop: number,
    readonly build: number,
  ) {}

  readonly snapshot = (): Known => this.known;
  readonly subscribe = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  private set(change: Partial<Known>): void {
    const next = { ...this.known, ...change };
    if (change.records || change.waiting)
      next.state = fold([...next.records.map((r) => r.entry), ...next.waiting.filter((w) => !w.refused).map((w) => w.entry)]);
    this.known = next;
    for (const w of this.watchers) w();
  }

  /** From this tablet, then from the server. */
  async open(): Promise<void> {
    try {
      const [pack, waiting] = await Promise.all([packOf(this.user, this.build), waitingOf(this.user, this.build)]);
      // a build of another shop that has the same number here is none of this one's
      if (pack && pack.shop === this.shop) this.set({ info: pack.info, told: pack.told, records: pack.records, waiting });
      else this.set({ waiting });
    } catch (e) {
      this.set({ unkept: whyNot(e) });
    }
    await this.sync();
  }

  /** Written down: on this tablet first, then on the server. Resolves when it is safe here; what is written is shown at once. */
  async write(said: Written[]): Promise<Entry[]> {
    const entries = said.map((s) => ({ ...s, id: crypto.randomUUID(), at: s.at ?? nowHere() }) as Entry);
    const { user, shop, build } = this;
    const waiting = entries.map((entry) => ({ user, shop, build, id: entry.id, entry }));
    try {
      await keepWaiting(waiting);
      this.set({ unkept: "" });
    } catch (e) {
      // no room, or a private window: it is still sent, and it is said
      this.set({ unkept: whyNot(e) });
    }
    this.set({ waiting: [...this.known.waiting, ...waiting.map((w, i) => ({ ...w, n: Date.now() * 1000 + i }))] });
    void this.sync();
    return entries;
  }

  /** A photo of an operation, kept here until the server has it. */
  async photograph(op: string, blob: Blob, caption = ""): Promise<void> {
    const uid = crypto.randomUUID();
    try {
      await keepShot({ user: this.user, build: this.build, uid, blob });
    } catch (e) {
      this.set({ unkept: whyNot(e) });
      // it is in no other place: sent at once, or said
      await photoSent(this.build, uid, blob);
    }
    await this.write([{ op, kind: "photo", photo: uid, caption }]);
  }

  /** What the server would not have, given up by who wrote it. */
  async drop(id: string): Promise<void> {
    await noLongerWaiting([id]).catch(() => undefined);
    this.set({ waiting: this.known.waiting.filter((w) => w.id !== id) });
  }

  /** Sends what waits, then fetches what is new. One at a time; asked meanwhile, it is done once more, for all who asked. */
  sync(): Promise<void> {
    if (this.sending) {
      this.queued ??= this.sending.then(() => {
        this.queued = null;
        return this.sync();
      });
      return this.queued;
    }
    this.sending = this.turn().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async turn(): Promise<void> {
    try {
      await this.send();
      await this.fetch();
    } catch (e) {
      this.set(
        e instanceof Unreachable
          ? { link: "away" }
          : e instanceof Problem
            ? { link: linkOf(e), wrong: e.message }
            : { link: "away", wrong: String(e) },
      );
    }
  }

  private async send(): Promise<void> {
    for (;;) {
      const batch = this.known.waiting.filter((w) => !w.refused && w.shop === this.shop).slice(0, AT_ONCE);
      if (!batch.length) return;
      const wrong = await this.sendShots(batch);
      const kept = await sent(this.build, wrong.length ? batch.filter((w) => !wrong.some((r) => r.id === w.id)) : batch);
      kept.refused.push(...wrong);
      const gone = new Set(kept.kept);
      const refused = new Map(kept.refused.map((r) => [r.id, r]));
      // those it neither kept nor refused would be sent for ever
      if (!batch.some((w) => gone.has(w.id) || refused.has(w.id))) throw new Unreachable();
      // told by the next fetch; till then they stand here, so that nothing flickers
      const now = batch.filter((w) => gone.has(w.id)).map((w) => ({ row: 0, by: this.user, came: w.entry.at, entry: w.entry }));
      this.set({
        records: [...this.known.records, ...now],
        waiting: this.known.waiting
          .filter((w) => !gone.has(w.id))
          .map((w) => (refused.has(w.id) ? { ...w, refused: refused.get(w.id) } : w)),
      });
    }
  }

  /** The photos of these entries, before the entries that name them; what the server would not have. */
  private async sendShots(batch: Waiting[]): Promise<{ id: string; wrong: string; cure: string }[]> {
    const refused = [];
    for (const w of batch) {
      if (w.entry.kind !== "photo") continue;
      const shot = await shotOf(w.entry.photo).catch(() => undefined);
      if (!shot) continue;
      try {
        await photoSent(this.build, shot.uid, shot.blob);
        await shotSent(shot.uid).catch(() => undefined);
      } catch (e) {
        if (!(e instanceof Problem) || e.status !== 422) throw e;
        const first = e.body.problems[0];
        refused.push({ id: w.id, wrong: first?.wrong ?? e.message, cure: first?.cure ?? "" });
      }
    }
    if (refused.length) await keepRefused(refused).catch(() => undefined);
    return refused;
  }

  private async fetch(): Promise<void> {
    const path = { build_id: this.build };
    const fresh: BuildRecord[] = [];
    const certain = this.known.records.filter((r) => r.row > 0);
    let after = Math.max(0, ...certain.map((r) => r.row));
    for (;;) {
      const more = await ask(api.GET("/api/builds/{build_id}/entries", { params: { path, query: { after } } }));
      if (!more.length) break;
      fresh.push(...more);
      after = more.at(-1)?.row ?? after;
    }
    const info = await ask(api.GET("/api/builds/{build_id}", { params: { path } }));
    const stale = fresh.length > 0 || !this.known.told || info.plan !== this.known.info?.plan;
    const told = stale ? await ask(api.GET("/api/builds/{build_id}/told", { params: { path } })) : this.known.told;
    const known = new Set(fresh.map((r) => r.entry.id));
    const records = [...certain.filter((r) => !known.has(r.entry.id)), ...fresh];
    if (!told) return;
    this.set({ info, told, records, link: "here", wrong: "" });
    const pack: Pack = { user: this.user, shop: this.shop, build: this.build, at: Date.now(), info, told, records };
    await keepPack(pack).catch((e) => this.set({ unkept: whyNot(e) }));
  }
}

const whyNot = (e: unknown) => (e instanceof Error ? e.message : String(e));

function linkOf(e: Problem): Link {
  if (e.status === 401) return "signed out";
  if (e.status === 404) return "absent";
  if (e.body.code === "other_shop") return "other shop";
  return "away";
}

/** Posts these, and lets go here of what is safe there. */
async function sent(build: number, batch: Waiting[]) {
  const kept = await ask(
    api.POST("/api/builds/{build_id}/entries", {
      params: { path: { build_id: build } },
      body: { entries: batch.map((w) => w.entry) as Record<string, unknown>[] },
    }),
  );
  await noLongerWaiting(kept.kept).catch(() => undefined);
  if (kept.refused.length) await keepRefused(kept.refused).catch(() => undefined);
  return kept;
}

async function photoSent(build: number, uid: string, blob: Blob): Promise<void> {
  const form = new FormData();
  form.set("file", blob, "photo");
  await post(`/api/builds/${build}/photos/${uid}`, form);
}

const keepers = new Map<string, Keeper>();

/** The one keeper of a build in this page. */
export function keeperOf(user: string, shop: number, build: number): Keeper {
  const key = JSON.stringify([user, shop, build]);
  const found = keepers.get(key) ?? new Keeper(user, shop, build);
  keepers.set(key, found);
  return found;
}

/** What waits of any build of this shop, sent without opening it; how many still wait. */
export async function sendAll(user: string, shop: number): Promise<number> {
  const builds = new Set((await waitingOf(user)).filter((w) => w.shop === shop && !w.refused).map((w) => w.build));
  for (const build of builds) {
    const keeper = keeperOf(user, shop, build);
    await (keeper.snapshot().info ? keeper.sync() : keeper.open());
  }
  return (await waitingOf(user)).length;
}
