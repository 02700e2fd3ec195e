import { beforeEach, expect, test, vi } from "vitest";
import { lostPiece } from "./lostPiece";

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal("sessionStorage", {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
  });
});

test("a page stands while the server is out of reach", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
  const reload = vi.fn();
  await lostPiece(reload);
  expect(reload).not.toHaveBeenCalled();
});

test("a front end that was built again is loaded anew, once", async () => {
  vi.stubGlobal("fetch", () => Promise.resolve({ ok: true }));
  const reload = vi.fn();
  await lostPiece(reload);
  await lostPiece(reload);
  expect(reload).toHaveBeenCalledTimes(1);
});
