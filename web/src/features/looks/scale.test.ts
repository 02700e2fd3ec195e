import { describe, expect, it } from "vitest";
import { type Feature, fromScale, inWords, keyOf, onScale, wanted } from "./scale";

const feature = (curve: string, low: number, high: number) =>
  ({
    key: "w",
    title: "W",
    low_word: "fine",
    high_word: "bold",
    unit: "mm",
    low,
    high,
    curve,
    about: "",
    shape: true,
  }) as Feature;

describe("scales of a look", () => {
  it("run from one end to the other and back, evenly, by ratio or by root", () => {
    for (const [curve, low, high] of [
      ["even", 4, 70],
      ["ratio", 0.9, 9],
      ["root", 0, 32],
    ] as const) {
      const f = feature(curve, low, high);
      expect(onScale(f, low)).toBeCloseTo(0);
      expect(onScale(f, high)).toBeCloseTo(1);
      for (const at of [0.1, 0.5, 0.9]) expect(onScale(f, fromScale(f, at))).toBeCloseTo(at, 1);
    }
    expect(fromScale(feature("ratio", 0.9, 9), 0.5)).toBeCloseTo(2.85, 2);
    expect(fromScale(feature("root", 0, 32), 0.5)).toBeCloseTo(8, 2);
  });
  it("have words", () => {
    const f = feature("even", 0, 1);
    expect([0, 0.2, 0.5, 0.8, 1].map((at) => inWords(f, at))).toEqual([
      "fine",
      "towards fine",
      "between the two",
      "towards bold",
      "bold",
    ]);
  });
});

describe("what is wanted", () => {
  it("is said once for each feature, and can be taken back", () => {
    const one = wanted([], "width", { value: 3, sure: "near" });
    const two = wanted(one, "width", { value: 4, sure: "about" });
    expect(two).toEqual([{ feature: "width", value: 4, sure: "about" }]);
    expect(wanted(two, "width", null)).toEqual([]);
    expect(wanted(two, "slant", { value: 30 })).toHaveLength(2);
  });
  it("knows a face again however its numbers are said", () => {
    const a = { family: "twist", values: { turns: 5, hand: 1 }, dark: "1084", bright: "15n20" };
    expect(keyOf(a)).toBe(keyOf({ ...a, values: { hand: 1, turns: 5 } }));
    expect(keyOf(a)).not.toBe(keyOf({ ...a, dark: "1095" }));
  });
});
