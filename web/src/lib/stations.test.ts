import { describe, expect, it } from "vitest";
import { widestGap } from "./stations";

describe("where to read next", () => {
  it("is the middle first, then the widest gap", () => {
    expect(widestGap([], 0, 150)).toBe(75);
    expect(widestGap([75], 0, 150)).toBe(38);
    expect(widestGap([75, 38], 0, 150)).toBe(113);
    expect(widestGap([140, 10], 0, 150)).toBe(75);
  });
  it("keeps inside what was asked for", () => {
    expect(widestGap([90], 2, 92)).toBe(46);
    expect(widestGap([], 10, 10)).toBe(10);
  });
});
