import { describe, expect, it } from "vitest";
import type { Reading, Readings } from "../../../api/types";
import { asLines, closed, isOver, lessBefore, nextStation, withCell, withHeights } from "./readings";

const at = (x: number, side: "left" | "right", height: number): Reading => ({ x, side, height, state: "line" });

describe("readings of a test etch", () => {
  it("stand in rows by station, those still to be read among them", () => {
    const lines = asLines({ heights: [at(60, "right", 8), at(30, "left", 9)], stations: [90, 30] });
    expect(lines.map((l) => l.x)).toEqual([30, 60, 90]);
    expect(lines[0]).toEqual({ x: 30, left: { height: 9, state: "line" }, right: null });
    expect(lines[2]).toEqual({ x: 90, left: null, right: null });
  });

  it("change one cell and no other", () => {
    const before = [at(30, "left", 9), at(30, "right", 8)];
    expect(withCell(before, 30, "right", { height: 7, state: "line" })).toEqual([at(30, "left", 9), at(30, "right", 7)]);
    expect(withCell(before, 30, "left", null)).toEqual([at(30, "right", 8)]);
    expect(withCell([], 30, "left", { height: 4, state: "none" })[0]).toMatchObject({ height: null, state: "none" });
  });

  it("carry the mark of the faces the first of them was read on", () => {
    const first = withHeights({ heights: [] }, [at(30, "left", 9)], "one");
    expect(first.surface).toBe("one");
    // the grind is changed, then another height is typed: they are still of the old faces
    const more = withHeights(first, [at(30, "left", 9), at(60, "left", 9)], "two");
    expect(more.surface).toBe("one");
    expect(isOver(more, "two")).toBe(true);
    expect(isOver(more, "one")).toBe(false);
    expect(withHeights(more, [], "two").surface).toBe("");
  });

  it("of older designs say nothing of their faces, and stand", () => {
    expect(isOver({ heights: [at(30, "left", 9)] }, "two")).toBe(false);
    expect(isOver({ heights: [], surface: "one" }, "two")).toBe(false);
    expect(isOver(undefined, "two")).toBe(false);
    expect(withHeights({ heights: [at(30, "left", 9)] }, [at(30, "left", 8)], "two").surface).toBe("");
  });

  it("become a round when the faces are gone, their stations waiting", () => {
    const readings: Readings = {
      heights: [at(60, "right", 8), at(30, "left", 9)],
      stations: [90],
      surface: "one",
      within: 0.3,
      edge_thickness: 0.4,
    };
    const next = closed(readings, {});
    expect(next.heights).toEqual([]);
    expect(next.stations).toEqual([30, 60, 90]);
    expect(next.rounds).toEqual([{ heights: readings.heights, within: 0.3, ground: {} }]);
    expect(next.surface ?? "").toBe("");
    // what was measured on the old faces goes too
    expect(next.edge_thickness ?? null).toBeNull();
    expect(closed({ rounds: Array.from({ length: 40 }, () => ({})) }, {}).rounds).toHaveLength(40);
  });

  it("ask for the next station in the widest gap", () => {
    expect(nextStation([], 100)).toBeCloseTo(47, 0);
    const x = nextStation([{ x: 47, left: null, right: null }], 100);
    expect(x < 47 || x > 47).toBe(true);
  });

  it("tell what a round took off, beyond what was taken before", () => {
    expect(
      lessBefore(
        [
          [0, 0.3, 0.2],
          [100, 0.1, 0],
        ],
        undefined,
      ),
    ).toEqual([
      [0, 0.3, 0.2],
      [100, 0.1, 0],
    ]);
    const less = lessBefore(
      [[50, 0.3, 0.2]],
      [
        [0, 0.1, 0.1],
        [100, 0.3, 0.1],
      ],
    );
    expect(less[0]?.[1]).toBeCloseTo(0.1);
    expect(less[0]?.[2]).toBeCloseTo(0.1);
    expect(lessBefore([[0, 0.1, 0.1]], [[0, 0.2, 0.2]])).toEqual([[0, 0, 0]]);
  });
});
