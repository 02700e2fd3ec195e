import { describe, expect, it } from "vitest";
import type { Document, Fired, Step } from "../../../api/types";
import { glowOf } from "./glow";
import { pathOf, saidOf, withHeats, withoutScale } from "./plan";
import { readHrc } from "./ReadingsFields";

const document = {
  recipe: {
    bar: {
      id: "whole",
      start: { kind: "solid" },
      steps: [
        { id: "a", kind: "weld" },
        { id: "b", kind: "draw", scale: 0.4 },
      ] as Step[],
    },
  },
  fire: { gas: "rich", steps: [{ step: "b", heats: 4, minutes: 6 }] },
} as unknown as Document;

describe("what the smith says of the heats", () => {
  it("is found by the step's id", () => {
    expect(saidOf(document, "b")).toEqual({ step: "b", heats: 4, minutes: 6 });
    expect(saidOf(document, "a")).toEqual({});
    expect(pathOf(document, "b")).toBe("fire.steps[0]");
  });

  it("is added to, and taken back figure by figure", () => {
    expect(withHeats(document, "b", { heats: null })?.steps).toEqual([{ step: "b", minutes: 6 }]);
    expect(withHeats(document, "a", { celsius: 1150 })?.steps).toEqual([
      { step: "b", heats: 4, minutes: 6 },
      { step: "a", celsius: 1150 },
    ]);
    expect(withHeats(document, "a", { celsius: 1150 })?.gas).toBe("rich");
  });

  it("is gone when nothing is said any more", () => {
    const half = { ...document, fire: withHeats(document, "b", { heats: null }) } as Document;
    expect(withHeats(half, "b", { minutes: null })?.steps).toEqual([]);
  });

  it("takes the scale out of the steps", () => {
    const fired = [
      { bar: "whole", step: "a", scale: 0.123 },
      { bar: "whole", step: "b", scale: 0.5 },
    ] as unknown as Fired[];
    const scaled = {
      ...document,
      recipe: { bar: { ...document.recipe.bar, steps: document.recipe.bar.steps?.map((s) => ({ ...s, scale: 0.3 })) } },
    };
    expect(withoutScale(scaled as Document, fired).recipe.bar.steps?.map((s) => s.scale)).toEqual([0, 0]);
  });
});

describe("readings as typed", () => {
  it.each([
    ["61 62.5 61", [61, 62.5, 61]],
    ["61, 62", [61, 62]],
    ["60,5; 61", [60.5, 61]],
    ["", []],
  ])("%s", (text, values) => {
    expect(readHrc(text)).toEqual(values);
  });

  it.each(["many", "61 two", "5", "99", Array(25).fill("60").join(" ")])("refuses %j", (text) => {
    expect(readHrc(text)).toBeNull();
  });
});

describe("the glow", () => {
  it("is dark when cold and nearly white when burning", () => {
    expect(glowOf(20)).toBe("#2a2522");
    expect(glowOf(1500)).toBe("#fffbe9");
    expect(glowOf(850)).toMatch(/^rgb\(\d+ \d+ \d+\)$/);
  });
});
