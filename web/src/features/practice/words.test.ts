import { expect, test } from "vitest";
import { inBand, sidePath, stretched } from "./words";

test("a side is drawn with its edge down, or up where it is turned over", () => {
  expect(sidePath([0, 10], [2, 5], 30, false, 2)).toBe("M0.0 56.0L20.0 50.0");
  expect(sidePath([0, 10], [2, 5], 30, true, 2)).toBe("M0.0 4.0L20.0 10.0");
});

test("only what is judged counts, its limits with it", () => {
  const band = { low: 2, high: 8, start: 10, end: 90 };
  expect(inBand([5, 10, 50, 90, 95], [1, 2, 8, 8.1, 1], band)).toEqual({ judged: 3, good: 2 });
  expect(inBand([], [], band)).toEqual({ judged: 0, good: 0 });
});

test("a tap means a place, a drag a stretch, and neither leaves the blade", () => {
  expect(stretched(60, 60, 200)).toEqual({ at: 60 });
  expect(stretched(60, 63, 200)).toEqual({ at: 62 });
  expect(stretched(60, 101, 200)).toEqual({ at: 81, wide: 40 });
  expect(stretched(101, 60, 200)).toEqual(stretched(60, 101, 200));
  expect(stretched(150, 900, 200)).toEqual({ at: 175, wide: 50 });
  expect(stretched(-40, -5, 200)).toEqual({ at: 0, wide: 10 });
});
