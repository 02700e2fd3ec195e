import { describe, expect, it } from "vitest";
import type { FireSheet } from "../../../api/types";
import { marksOf, whenEven } from "./carbon";

const sheet = (even: string[], even_in: number | null) =>
  ({ steps: even.map((e, i) => ({ even: e, title: `Step ${i}` })), even_in, forge: 1140 }) as unknown as FireSheet;

describe("when carbon is even", () => {
  it("says by which step, counted as the list is", () => {
    expect(whenEven(sheet(["own", "partly", "even", "even"], 0), "C")).toBe("Carbon has evened out by step 3, step 2.");
    expect(whenEven(sheet(["even"], 0), "C")).toContain("by step 1");
  });

  it("does not take back what a later weld undoes", () => {
    expect(whenEven(sheet(["even", "own", "even"], 0), "C")).toContain("by step 3");
  });

  it("says how long it would still take, in the user's degrees", () => {
    expect(whenEven(sheet(["own"], 41.2), "C")).toBe(
      "Layers as thick as in the end would take about 42 min more at 1140 °C to even out.",
    );
    expect(whenEven(sheet(["own"], 41.2), "F")).toContain("2080 °F");
    expect(whenEven(sheet(["own"], 150), "C")).toContain("2.5 h");
    expect(whenEven(sheet(["own"], 1517), "C")).toContain("25 h");
    expect(whenEven(sheet(["own"], 0.3), "C")).toBe("Carbon has all but evened out.");
  });

  it("says when no fire is kept so long", () => {
    expect(whenEven(sheet(["own"], null), "C")).toContain("does not even out in any fire");
  });
});

describe("marks across the layers", () => {
  const round = (values: number[]) => values.map((v) => Math.round(v * 1e4) / 1e4);

  it("are round and few, in the user's own unit", () => {
    expect(round(marksOf(16.8, "mm"))).toEqual([0, 5, 10, 15]);
    expect(round(marksOf(5.5, "mm"))).toEqual([0, 1, 2, 3, 4, 5]);
    expect(round(marksOf(0.6, "mm"))).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6]);
    expect(round(marksOf(25.4, "inch"))).toEqual([0, 5.08, 10.16, 15.24, 20.32, 25.4]);
    expect(marksOf(2.54, "thou")).toHaveLength(6);
  });

  it("never run past the end", () => {
    for (const across of [0.03, 0.7, 3, 11.1, 48, 200]) {
      const marks = marksOf(across, "mm");
      expect(marks.at(-1)).toBeLessThanOrEqual(across * 1.0001);
      expect(marks.length).toBeGreaterThan(3);
      expect(marks.length).toBeLessThan(9);
    }
  });
});
