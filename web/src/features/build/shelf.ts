/** What this tablet keeps of the builds one works on, each user's own: the build as last fetched, what waits to be sent, what is half
 * typed, the pictures. So that a day without network, a reload or a flat battery loses nothing. */

import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Build, BuildRecord, BuildTold, Entry } from "../../api/types";

const NAME = "varistrat-builds";
/** The last so many builds of one user, with their pictures. */
export const MOST_PACKS = 12;

export type Pack = {
  user: string;
  shop: number;
  build: number;
  at: number;
  info: Build;
  told: BuildTold;
  records: BuildRecord[];
};
export type Waiting = {
  user: string;
  shop: number;
  build: number;
  id: string;
  /** In the order they were made. */
  n: number;
  entry: Entry;
  /** Why the server would not have it. */
  refused?: { wrong: string; cure: string };
};
type Typed = { user: string; build: number; op: string; field: string; text: string };
export type Picture = { user: string; build: number; name: string; mark: string; blob: Blob };
type Heard = { id: string; times: number };
/** A photo as the camera gave it, until the server has it. */
export type Shot = { user: string; build: number; uid: string; blob: Blob };

interface Shelf extends DBSchema {
  packs: { key: [string, number]; value: Pack; indexes: { age: [string, number] } };
  waiting: { key: string; value: Waiting; indexes: { user: string; build: [string, number] } };
  typed: { key: [string, number, string, string]; value: Typed };
  pictures: { key: [string, number, string]; value: Picture };
  heard: { key: string; value: Heard };
  shots: { key: string; value: Shot };
}

let opened: Promise<IDBPDatabase<Shelf>> | null = null;

function shelf(): Promise<IDBPDatabase<Shelf>> {
  opened ??= openDB<Shelf>(NAME, 1, {
    upgrade(db) {
      db.createObjectStore("packs", { keyPath: ["user", "build"] }).createIndex("age", ["user", "at"]);
      const waiting = db.createObjectStore("waiting", { keyPath: "id" });
      waiting.createIndex("user", "user");
      waiting.createIndex("build", ["user", "build"]);
      db.createObjectStore("typed", { keyPath: ["user", "build", "op", "field"] });
      db.createObjectStore("pictures", { keyPath: ["user", "build", "name"] });
      db.createObjectStore("heard", { keyPath: "id" });
      db.createObjectStore("shots", { keyPath: "uid" });
    },
    // another tab has a newer one: let it
    blocking: () => void closeShelf(),
    terminated: () => {
      opened = null;
    },
  });
  return opened;
}

export async function closeShelf(): Promise<void> {
  const db = opened;
  opened = null;
  (await db)?.close();
}

const of = (user: string, build: number) => IDBKeyRange.bound([user, build], [user, build, []]);

export const packOf = async (user: string, build: number): Promise<Pack | undefined> =>
  (await shelf()).get("packs", [user, build]);
export const packsOf = async (user: string): Promise<Pack[]> =>
  (await shelf()).getAll("packs", IDBKeyRange.bound([user, 0], [user, Number.POSITIVE_INFINITY]));

/** Keeps it, and lets go of the oldest beyond MOST_PACKS of this user. */
export async function keepPack(pack: Pack): Promise<void> {
  const db = await shelf();
  await db.put("packs", pack);
  const mine = await db.getAllKeysFromIndex(
    "packs",
    "age",
    IDBKeyRange.bound([pack.user, 0], [pack.user, Number.POSITIVE_INFINITY]),
  );
  for (const [user, build] of mine.slice(0, Math.max(0, mine.length - MOST_PACKS))) {
    await db.delete("packs", [user, build]);
    await db.delete("pictures", of(user, build));
  }
}

/** Written through to the disk before it resolves: what is said to be kept is kept. Throws when this browser cannot. */
export async function keepWaiting(entries: Omit<Waiting, "n">[]): Promise<void> {
  const db = await shelf();
  const write = db.transaction("waiting", "readwrite", { durability: "strict" });
  const begun = Date.now() * 1000;
  for (const [i, one] of entries.entries()) await write.store.put({ ...one, n: begun + i });
  await write.done;
}

/** In the order they were made. */
export async function waitingOf(user: string, build?: number): Promise<Waiting[]> {
  const db = await shelf();
  const found =
    build === undefined
      ? await db.getAllFromIndex("waiting", "user", user)
      : await db.getAllFromIndex("waiting", "build", [user, build]);
  return found.sort((a, b) => a.n - b.n);
}

export async function noLongerWaiting(ids: string[]): Promise<void> {
  const write = (await shelf()).transaction("waiting", "readwrite");
  for (const id of ids) await write.store.delete(id);
  await write.done;
}

/** It stays, with the reason, until somebody looks. */
export async function keepRefused(refused: { id: string; wrong: string; cure: string }[]): Promise<void> {
  const write = (await shelf()).transaction("waiting", "readwrite");
  for (const { id, wrong, cure } of refused) {
    const one = await write.store.get(id);
    if (one) await write.store.put({ ...one, refused: { wrong, cure } });
  }
  await write.done;
}

/** What stands half typed in a field; nothing once it is empty. */
export async function keepTyped(user: string, build: number, op: string, field: string, text: string): Promise<void> {
  const db = await shelf();
  if (text) await db.put("typed", { user, build, op, field, text });
  else await db.delete("typed", [user, build, op, field]);
}

export async function typedOf(user: string, build: number, op: string): Promise<Record<string, string>> {
  const found = await (await shelf()).getAll("typed", IDBKeyRange.bound([user, build, op], [user, build, op, []]));
  return Object.fromEntries(found.map((t) => [t.field, t.text]));
}

export const pictureOf = async (user: string, build: number, name: string): Promise<Picture | undefined> =>
  (await shelf()).get("pictures", [user, build, name]);
export const keepPicture = async (picture: Picture): Promise<void> => {
  await (await shelf()).put("pictures", picture);
};

export async function keepShot(shot: Shot): Promise<void> {
  const write = (await shelf()).transaction("shots", "readwrite", { durability: "strict" });
  await write.store.put(shot);
  await write.done;
}
export const shotOf = async (uid: string): Promise<Shot | undefined> => (await shelf()).get("shots", uid);
export const shotSent = async (uid: string): Promise<void> => (await shelf()).delete("shots", uid);

/** How often a timer was heard ringing here. */
export const heardOf = async (id: string): Promise<number> => (await (await shelf()).get("heard", id))?.times ?? 0;
export const keepHeard = async (id: string, times: number): Promise<void> => {
  await (await shelf()).put("heard", { id, times });
};

/** On signing out: all that was fetched goes; what waits to be sent stays for who wrote it. */
export async function clearShelf(user: string): Promise<void> {
  const db = await shelf();
  const all = IDBKeyRange.bound([user], [user, []]);
  await db.delete("packs", all);
  await db.delete("pictures", all);
}
