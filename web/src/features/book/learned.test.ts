import { expect, test } from "vitest";
import type { Factor } from "../../api/types";
import { along, factorText, offerText } from "./learned";

const factor = (more: object) =>
  ({ n: 5, quantity: "minutes", factor: 1.324, low: 1.03, high: 1.69, sure: true, ...more }) as Factor;

test("twice and half lie equally far from ours, and nothing beyond the line", () => {
  expect(along(1)).toBe(50);
  expect(along(2) - 50).toBeCloseTo(50 - along(0.5));
  expect([along(0.01), along(90)]).toEqual([0, 100]);
});

test("told with its builds and its range", () => {
  expect(factorText(factor({}))).toBe("1.32 times ours (5 builds); eight in ten between 1.03 and 1.69");
  expect(factorText(factor({ n: 0 }))).toBe("not timed yet");
  expect(factorText(factor({ n: 0, quantity: "heats" }))).toBe("not measured yet");
  expect(offerText(factor({}))).toBe("Yours is 1.32: use it");
  expect(offerText(factor({ sure: false }))).toContain("may be chance");
});
