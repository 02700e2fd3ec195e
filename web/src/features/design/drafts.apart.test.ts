import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Document } from "../../api/types";
import { fresh } from "./draft";
import { keepDraft, keptDraft, MOST_KEPT } from "./drafts";

const draft = (name: string) => fresh({ recipe: { bar: {} } } as Document, name, 1);
const left = new Map<string, string>();

beforeEach(() => {
  left.clear();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => left.get(k) ?? null,
    removeItem: (k: string) => left.delete(k),
  });
  return new Promise<void>((done) => {
    indexedDB.deleteDatabase("varistrat").onsuccess = () => done();
  });
});

describe("drafts in the browser", () => {
  it("are found again as they were left", async () => {
    expect(await keptDraft("withy", 3)).toBeUndefined();
    await keepDraft("withy", 3, draft("one"));
    await keepDraft("withy", 3, draft("two"));
    expect((await keptDraft("withy", 3))?.name).toBe("two");
  });
  it("are each user's own", async () => {
    await keepDraft("withy", 3, draft("mine"));
    expect(await keptDraft("reed", 3)).toBeUndefined();
  });
  it("are bounded: the oldest of one user go first, nobody else's", async () => {
    vi.useFakeTimers({ toFake: ["Date"] });
    await keepDraft("reed", 1, draft("reed's"));
    for (let i = 1; i <= MOST_KEPT + 3; i += 1) {
      vi.setSystemTime(1_000_000 + 1000 * i);
      await keepDraft("withy", i, draft(`${i}`));
    }
    vi.useRealTimers();
    const kept = await Promise.all([1, 2, 3, 4, MOST_KEPT + 3].map((i) => keptDraft("withy", i)));
    expect(MOST_KEPT).toBe(40);
    expect(kept.map((d) => d?.name)).toEqual([undefined, undefined, undefined, "4", `${MOST_KEPT + 3}`]);
    expect((await keptDraft("reed", 1))?.name).toBe("reed's");
  });
  it("of the version before come along", async () => {
    left.set("varistrat:draft:7", JSON.stringify(draft("old")));
    expect((await keptDraft("withy", 7))?.name).toBe("old");
    expect(left.size).toBe(0);
    expect((await keptDraft("withy", 7))?.name).toBe("old");
  });
  it("say so when they cannot be kept", async () => {
    vi.stubGlobal("indexedDB", {
      open: () => {
        throw new DOMException("no room", "QuotaExceededError");
      },
    });
    await expect(keepDraft("withy", 1, draft("lost"))).rejects.toThrow("no room");
    vi.unstubAllGlobals();
  });
});
