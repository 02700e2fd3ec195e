import { expect, test } from "vitest";
import { inBand, sidePath } from "./words";

test("a side is drawn with its edge down, or up where it is turned over", () => {
  expect(sidePath([0, 10], [2, 5], 30, false, 2)).toBe("M0.0 56.0L20.0 50.0");
  expect(sidePath([0, 10], [2, 5], 30, true, 2)).toBe("M0.0 4.0L20.0 10.0");
});

test("only what is judged counts, its limits with it", () => {
  const band = { low: 2, high: 8, start: 10, end: 90 };
  expect(inBand([5, 10, 50, 90, 95], [1, 2, 8, 8.1, 1], band)).toEqual({ judged: 3, good: 2 });
  expect(inBand([], [], band)).toEqual({ judged: 0, good: 0 });
});
