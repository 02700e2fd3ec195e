import { beforeEach, expect, test, vi } from "vitest";
import { Unreachable } from "../api/client";
import type { Session } from "../api/types";
import { keepSession, lastSession } from "./lastSession";

const SMITH = { user: "ansgar" } as Session;
const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
    removeItem: (k: string) => kept.delete(k),
  });
});

test("who was signed in is known where the server is away", () => {
  keepSession(SMITH);
  expect(lastSession(new Unreachable())).toEqual({ user: "ansgar", away: true });
});

test("nobody is, after signing out", () => {
  keepSession(SMITH);
  keepSession({ user: null } as Session);
  expect(() => lastSession(new Unreachable())).toThrow(Unreachable);
});

test("what the server says counts, whatever is kept", () => {
  keepSession(SMITH);
  expect(() => lastSession(new Error("no"))).toThrow("no");
});

test("a browser that keeps nothing goes on", () => {
  vi.stubGlobal("localStorage", {
    setItem: () => {
      throw new DOMException("full", "QuotaExceededError");
    },
  });
  expect(keepSession(SMITH)).toBe(SMITH);
});
