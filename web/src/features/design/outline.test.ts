import { describe, expect, it } from "vitest";
import { bent, type DrawnOutline, dense, faultOf, HANDLES, handles, heightAt, lengthOf, stretched } from "./outline";

const BLADE: DrawnOutline = {
  edge: [
    [0, 0],
    [90, 0],
    [150, 18],
  ],
  spine: [
    [0, 30],
    [100, 30],
    [150, 18],
  ],
};

describe("an outline drawn by its points", () => {
  it("is read between its points", () => {
    expect(heightAt(BLADE.edge, 120)).toBeCloseTo(9);
    expect(heightAt(BLADE.spine, 20)).toBe(30);
    expect(lengthOf(BLADE)).toBe(150);
  });

  it("keeps its ends and its course when made denser", () => {
    const many = dense(BLADE.edge);
    expect(many[0]).toEqual([0, 0]);
    expect(many.at(-1)).toEqual([150, 18]);
    for (const x of [10, 80, 130]) expect(heightAt(many, x)).toBeCloseTo(heightAt(BLADE.edge, x), 1);
    for (let i = 1; i < many.length; i++) expect(many[i]?.[0]).toBeGreaterThan(many[i - 1]?.[0] ?? 0);
  });

  it("bends up to the handles beside the one moved, and no farther", () => {
    const before = handles(BLADE, "edge");
    const next = bent(BLADE, "edge", 3, -4);
    const after = handles(next, "edge");
    expect(after[3]?.[1]).toBeCloseTo(-4, 1);
    for (const i of [0, 1, 2, 4, 5]) expect(after[i]?.[1]).toBeCloseTo(before[i]?.[1] ?? 0, 1);
    expect(next.spine).toEqual(BLADE.spine);
  });

  it("moves both curves with the tip, so that they still meet", () => {
    const next = bent(BLADE, "spine", HANDLES - 1, 12);
    expect(next.edge.at(-1)).toEqual([150, 12]);
    expect(next.spine.at(-1)).toEqual([150, 12]);
  });

  it("stretches along only", () => {
    const next = stretched(BLADE, 75);
    expect(lengthOf(next)).toBe(75);
    expect(heightAt(next.edge, 60)).toBeCloseTo(9);
  });

  it("says where spine and edge meet", () => {
    expect(faultOf(BLADE)).toBe("");
    expect(faultOf(bent(BLADE, "spine", 2, -2))).toContain("mm from the heel");
  });
});
