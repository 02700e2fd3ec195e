import { describe, expect, it } from "vitest";
import type { CutPlan } from "../../../api/types";
import { keyed, locked, moved } from "./laid";

const bar = (code: string, ...pieces: string[]) =>
  ({ code, cuts: pieces.map((piece) => ({ piece })), by_hand: false }) as unknown as CutPlan["bars"][number];
const PLAN = { bars: [bar("R2", "a", "b"), bar("R2", "c"), bar("R5", "d")] } as unknown as CutPlan;

describe("bars laid out by hand", () => {
  it("tells bars that are alike apart", () => {
    expect(keyed(PLAN).map((k) => k.key)).toEqual(["R2#0", "R2#1", "R5#0"]);
  });

  it("moves a piece, and leaves all others where they lie", () => {
    expect(moved(PLAN, "b", "R2#1")).toEqual([
      { item: "R2", pieces: ["a"] },
      { item: "R2", pieces: ["c", "b"] },
      { item: "R5", pieces: ["d"] },
    ]);
    // to a bar not yet cut; one that is empty then is not cut
    expect(moved(PLAN, "d", "R9#0")).toEqual([
      { item: "R2", pieces: ["a", "b"] },
      { item: "R2", pieces: ["c"] },
      { item: "R9", pieces: ["d"] },
    ]);
  });

  it("keeps only what is locked", () => {
    expect(locked(PLAN, new Set(["R2#1"]))).toEqual([{ item: "R2", pieces: ["c"] }]);
    expect(locked(PLAN, new Set())).toEqual([]);
  });
});
