import { describe, expect, it } from "vitest";
import { under } from "./fields/problems";
import { barSize, worst } from "./words";

describe("words for bars and steps", () => {
  it("gives a round bar one size", () => {
    expect(barSize({ form: "round", length: 434.2, width: 20.11, thickness: 20.11 }, "mm")).toBe("434 × ⌀20.1 mm");
    expect(barSize({ form: "rectangle", length: 563, width: 40, thickness: 5.5 }, "fraction")).toBe("22.17 × 1.575 × 0.217 in");
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
