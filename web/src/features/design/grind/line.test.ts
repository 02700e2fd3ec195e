import { describe, expect, it } from "vitest";
import { path, strip, ticks } from "../../../ui/chart";
import { lineHeight } from "./line";
import { asLines, nextStation, withCell } from "./readings";

describe("the core line as drawn", () => {
  it("is the top of what begins at the edge", () => {
    expect(lineHeight({ shown: [[0, 7.5]] })).toBe(7.5);
    expect(lineHeight({ shown: [[3, 9]] })).toBe(0);
    expect(lineHeight({ shown: [] })).toBe(0);
  });
  it("has round ticks that reach no farther than what is shown", () => {
    expect(ticks(14, 3)).toEqual([0, 5, 10]);
    expect(ticks(0.5, 5)).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5]);
  });
  it("leaves gaps where there is no line", () => {
    expect(path([[0, 1], null, [2, 3], [4, 5]])).toBe("M0,1ZM2,3L4,5");
    expect(strip([[0, 0]], [[0, 5]])).toBe("M0,0L0,5Z");
  });
});

describe("readings of a test etch", () => {
  const heights = [
    { x: 40, side: "right" as const, height: 8, state: "line" as const },
    { x: 15, side: "left" as const, height: null, state: "none" as const },
  ];
  it("become a row per station, heel first", () => {
    expect(asLines({ heights })).toEqual([
      { x: 15, right: null, left: { height: null, state: "none" } },
      { x: 40, right: { height: 8, state: "line" }, left: null },
    ]);
  });
  it("are replaced and removed one by one", () => {
    const next = withCell(heights, 40, "right", { height: 9, state: "line" });
    expect(next).toHaveLength(2);
    expect(next.find((r) => r.x === 40)?.height).toBe(9);
    expect(withCell(heights, 40, "right", null)).toHaveLength(1);
  });
  it("are suggested in the widest gap", () => {
    expect(nextStation([], 100)).toBe(47);
    expect(nextStation([{ x: 47, right: null, left: null }], 100)).toBe(25);
  });
});
