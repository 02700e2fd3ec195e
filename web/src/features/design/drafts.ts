/** Drafts kept in this browser, each user's own: what is not saved yet outlives the page, a crash, a server that is gone. */

import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Draft } from "./draft";

/** The last so many designs of one user. */
export const MOST_KEPT = 40;
const NAME = "varistrat";
const BEFORE = (id: number) => `varistrat:draft:${id}`;

type Kept = { user: string; design: number; at: number; draft: Draft };
interface Shelf extends DBSchema {
  drafts: { key: [string, number]; value: Kept; indexes: { age: [string, number] } };
}

function shelf(): Promise<IDBPDatabase<Shelf>> {
  return openDB<Shelf>(NAME, 1, {
    upgrade(db) {
      db.createObjectStore("drafts", { keyPath: ["user", "design"] }).createIndex("age", ["user", "at"]);
    },
  });
}

/** The draft of a design as it was left, undefined without one; one that a version before left elsewhere is brought along. */
export async function keptDraft(user: string, design: number): Promise<Draft | undefined> {
  const before = localStorage.getItem(BEFORE(design));
  if (before) {
    const draft = JSON.parse(before) as Draft;
    await keepDraft(user, design, draft);
    localStorage.removeItem(BEFORE(design));
    return draft;
  }
  const db = await shelf();
  try {
    return (await db.get("drafts", [user, design]))?.draft;
  } finally {
    db.close();
  }
}

/** Throws when this browser cannot: no room, or a private window. */
export async function keepDraft(user: string, design: number, draft: Draft): Promise<void> {
  const db = await shelf();
  try {
    const write = db.transaction("drafts", "readwrite", { durability: "relaxed" });
    await write.store.put({ user, design, at: Date.now(), draft });
    const mine = IDBKeyRange.bound([user, 0], [user, Number.POSITIVE_INFINITY]);
    let over = (await write.store.index("age").count(mine)) - MOST_KEPT;
    for (let old = await write.store.index("age").openCursor(mine); old && over > 0; over -= 1) {
      await old.delete();
      old = await old.continue();
    }
    await write.done;
  } finally {
    db.close();
  }
}
