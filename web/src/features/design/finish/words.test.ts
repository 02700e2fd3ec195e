import { expect, test } from "vitest";
import { micro, minutes, nail, reliefLine } from "./words";

test("depths in the units of the shop", () => {
  expect(micro(6.04, "mm")).toBe("6.0 µm");
  expect(micro(12.4, "mm")).toBe("12 µm");
  expect(micro(12.7, "inch")).toBe("0.50 thou");
});

test("what a nail says turns on no more than it can feel", () => {
  expect(nail(5, 8, 25)).toContain("slides");
  expect(nail(8.1, 8, 25)).toBe(nail(7.9, 8, 25));
  expect(nail(15, 8, 25)).toContain("every layer");
  expect(nail(30, 8, 25)).toContain("dirt");
});

test("minutes", () => {
  expect(minutes(0.5)).toBe("30 s");
  expect(minutes(5)).toBe("5 min");
  expect(minutes(150)).toBe("2 h 30 min");
});

test("the surface steps down where a steel is etched deeper", () => {
  const line = reliefLine(
    [
      { steel: "a", width: 2 },
      { steel: "b", width: 1 },
    ],
    { a: 2, b: 9 },
  );
  expect(line).toEqual([
    [0, 0],
    [2, 0],
    [2, 7],
    [3, 7],
  ]);
});
