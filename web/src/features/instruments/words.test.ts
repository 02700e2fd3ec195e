import { expect, test } from "vitest";
import { takenText } from "./words";

const MM = { length: "mm", heat: "C", weight: "g" } as const;

test("what counts is what is shown, in the user's own units", () => {
  expect(takenText({ value: 12.34, unit: "mm" }, MM)).toBe("12.34 mm");
  expect(takenText({ value: 63.5, unit: "mm" }, { ...MM, length: "inch" })).toBe("2.5 in");
  expect(takenText({ value: 812.5, unit: "g" }, MM)).toBe("812.5 g");
  expect(takenText({ value: 283.5, unit: "g" }, { ...MM, weight: "oz" })).toBe("10 oz");
  expect(takenText({ value: 815.4, unit: "C" }, { ...MM, heat: "F" })).toBe("1500 °F");
  expect(takenText({ value: 61.5, unit: "HRC" }, MM)).toBe("61.5 HRC");
});
