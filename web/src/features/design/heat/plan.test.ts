import { describe, expect, it } from "vitest";
import type { Document, Fired, Step } from "../../../api/types";
import { glowOf } from "./glow";
import { pathOf, saidOf, withHeats, withScale } from "./plan";
import { readHrc } from "./ReadingsFields";

const document = {
  recipe: { bar: { start: { kind: "solid" }, steps: [{ kind: "weld" }, { kind: "draw", scale: 0.4 }] as Step[] } },
  fire: { gas: "rich", steps: [{ at: [1], heats: 4, minutes: 6 }] },
} as unknown as Document;

describe("what the smith says of the heats", () => {
  it("is found by the step's address", () => {
    expect(saidOf(document, [1])).toEqual({ at: [1], heats: 4, minutes: 6 });
    expect(saidOf(document, [0])).toEqual({});
    expect(pathOf(document, [1])).toBe("fire.steps[0]");
  });

  it("is added to, and taken back figure by figure", () => {
    expect(withHeats(document, [1], { heats: null })?.steps).toEqual([{ at: [1], minutes: 6 }]);
    expect(withHeats(document, [0], { celsius: 1150 })?.steps).toEqual([
      { at: [1], heats: 4, minutes: 6 },
      { at: [0], celsius: 1150 },
    ]);
    expect(withHeats(document, [0], { celsius: 1150 })?.gas).toBe("rich");
  });

  it("is gone when nothing is said any more", () => {
    const half = { ...document, fire: withHeats(document, [1], { heats: null }) } as Document;
    expect(withHeats(half, [1], { minutes: null })?.steps).toEqual([]);
  });

  it("puts scale into the steps, and takes it out", () => {
    const fired = [
      { bar: [], step: 0, scale: 0.123 },
      { bar: [], step: 1, scale: 0.5 },
    ] as unknown as Fired[];
    const counted = withScale(document, fired);
    expect(counted.recipe.bar.steps?.map((s) => s.scale)).toEqual([0.12, 0.5]);
    expect(withScale(counted, fired, true).recipe.bar.steps?.map((s) => s.scale)).toEqual([0, 0]);
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
