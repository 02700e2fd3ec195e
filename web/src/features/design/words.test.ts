import { describe, expect, it } from "vitest";
import type { Step } from "../../api/types";
import { under } from "./fields/problems";
import { barSize, stepDetail, worst } from "./words";

describe("words for bars and steps", () => {
  it("gives a round bar one size", () => {
    expect(barSize({ form: "round", length: 434.2, width: 20.11, thickness: 20.11 }, "mm")).toBe("434 × ⌀20.1 mm");
    expect(barSize({ form: "rectangle", length: 563, width: 40, thickness: 5.5 }, "fraction")).toBe(
      "22 11/64 × 1 37/64 × 7/32 in",
    );
  });

  it("says in short what a step does", () => {
    expect(stepDetail({ kind: "twist", hand: "left", turns: 13 } as Step)).toBe("left, 13");
    const zones = [
      { from: 0, to: 10, turns: 1.5 },
      { from: 20, to: 30, turns: 2 },
    ];
    expect(stepDetail({ kind: "twist", zones } as Step)).toBe("right, 3.5");
    expect(stepDetail({ kind: "turn", degrees: 90, about: "z" } as Step)).toBe("90° z");
    expect(stepDetail({ kind: "weld", thickness: 9 } as Step)).toBe("");
  });

  it("grades a step by its worst finding", () => {
    expect(worst(["note", "stop", "care"])).toBe("stop");
    expect(worst(["note", "care"])).toBe("care");
    expect(worst([])).toBeNull();
  });
});

describe("problems on their way to their fields", () => {
  const problems = [
    "recipe.bar.steps[1].turns",
    "recipe.bar.steps[1]",
    "recipe.bar.steps[10].turns",
    "recipe.bar.steps[1].zones[0].to",
  ].map((path) => ({ path, wrong: "w", cure: "c" }));

  it("keeps what lies under a place, relative to it, and nothing of its namesakes", () => {
    expect(under(problems, "recipe.bar.steps[1]").map((p) => p.path)).toEqual(["turns", "", "zones[0].to"]);
    expect(under(under(problems, "recipe.bar.steps[1]"), "zones").map((p) => p.path)).toEqual(["[0].to"]);
    expect(under(problems, "blade")).toEqual([]);
  });
});
