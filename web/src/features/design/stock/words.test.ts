import { describe, expect, it } from "vitest";
import { causeName, oneIn } from "./words";

describe("chances in words", () => {
  it("says them as one would", () => {
    expect(oneIn(0.143)).toBe("1 time in 7");
    expect(oneIn(0.05)).toBe("1 time in 20");
    expect(oneIn(0.01)).toBe("1 time in 100");
    expect(oneIn(0.5)).toBe("1 time in 2");
    expect(oneIn(0.4)).toBe("2 times in 5");
    expect(oneIn(0.66)).toBe("2 times in 3");
    expect(oneIn(0.0004)).toBe("nearly never");
    expect(oneIn(1)).toBe("nearly always");
  });

  it("has words for a cause nobody told it of", () => {
    expect(causeName("weld_ends")).toContain("ends");
    expect(causeName("new_thing")).toBe("new thing");
  });
});
