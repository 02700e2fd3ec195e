import { describe, expect, it } from "vitest";
import { changes, type Row, ranked, verdict } from "./suits";

const row = (name: string, first: number[], error = 0.01): Row => ({
  design: name.charCodeAt(0),
  name,
  first: [first],
  error: [first.map(() => error)],
  problem: "",
});

describe("which design suits", () => {
  it("is told best first, and what is not told apart is as good", () => {
    const list = ranked([row("A", [0.5]), row("B", [0.7]), row("C", [0.68])], 0, 0);
    expect(list.map((r) => [r.name, r.asGood])).toEqual([
      ["B", true],
      ["C", true],
      ["A", false],
    ]);
    expect(verdict(list)).toBe("B and C are not told apart: about 70 of 100 first grade.");
    expect(verdict(ranked([row("A", [0.5]), row("B", [0.7])], 0, 0))).toBe("B suits best: 70 of 100 first grade.");
    expect(verdict(ranked([row("A", [0])], 0, 0))).toContain("None");
    expect(verdict([])).toBe("");
  });
  it("leaves out what has no core", () => {
    expect(ranked([{ ...row("A", []), problem: "no core" }, row("B", [0.1])], 0, 0)).toHaveLength(1);
  });
  it("changes with the hand only where that is sure", () => {
    const rows = [row("A", [0.99, 0.6, 0.2]), row("B", [0.9, 0.59, 0.4])];
    expect(changes(rows, [0.5, 1, 2], 0)).toEqual([
      { scale: 0.5, name: "A" },
      { scale: 2, name: "B" },
    ]);
  });
});
