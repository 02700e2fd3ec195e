import { expect, test } from "vitest";
import { glowOf } from "./glow";

test("dark below, white above, mixed between", () => {
  expect([glowOf(20), glowOf(500), glowOf(2000)]).toEqual(["#2a2522", "#2a2522", "#fffbe9"]);
  expect(glowOf(800)).toBe("rgb(192 54 22)");
  // half way from 800 (#c03616) to 900 (#e0561d)
  expect(glowOf(850)).toBe("rgb(208 70 26)");
});

test("hotter is never darker", () => {
  const red = (c: number) => Number(/\d+/.exec(glowOf(c).replace("#2a2522", "42"))?.[0] ?? 0);
  for (let c = 510; c < 1340; c += 10) expect(red(c + 10)).toBeGreaterThanOrEqual(red(c));
});
