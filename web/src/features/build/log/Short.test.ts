import { expect, test } from "vitest";
import type { BuildTold } from "../../../api/types";
import { shortText, sumOf } from "./Short";

const told = (have: number, ends = 105.46) =>
  ({ have, blade: 260.2, hold: 20, ends, reserve: 38.5, sure: have - 280.2 - ends }) as unknown as BuildTold;

test("what is shown adds up, and says how much is missing as near as it is known", () => {
  for (const [have, ends] of [
    [377.66, 105.46],
    [377.2, 105.46],
    [400.2, 104.7],
    [280.4, 0],
    [270.6, 0],
  ] as const) {
    const of = told(have, ends);
    const sum = sumOf(of);
    expect(sum.have - sum.blade - sum.hold - sum.ends).toBe(sum.left);
    expect(sum.left).toBe(Math.round(of.sure) + 0);
    expect(Math.abs(sum.have - have)).toBeLessThan(1.01);
    expect(Math.abs(sum.ends - ends)).toBeLessThan(1.5);
  }
  expect(shortText(told(377.66), "mm")).toBe("The bar is 8 mm too short, its reserve of 39 mm not reckoned in");
  expect(shortText(told(400.2, 104.7), "mm")).toBe("The bar is 24 mm into its reserve of 39 mm");
});
