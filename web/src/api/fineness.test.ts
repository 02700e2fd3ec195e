import { describe, expect, it } from "vitest";
import { finer, IN_TIME_MS, roughPx } from "./fineness";

describe("how fine a preview is", () => {
  it("grows coarser while answers are late, to a bound", () => {
    let now = 0.5;
    now = finer(now, IN_TIME_MS + 1);
    expect(now).toBeLessThan(0.5);
    for (let i = 0; i < 50; i++) now = finer(now, 200);
    expect(now).toBe(0.4);
  });

  it("grows finer while they come easily, up to the picture itself", () => {
    expect(finer(0.5, IN_TIME_MS - 1)).toBe(0.5);
    let now = 0.5;
    for (let i = 0; i < 50; i++) now = finer(now, 5);
    expect(now).toBe(1);
  });

  it("is asked for in whole steps, never larger than what it stands for", () => {
    expect(roughPx(1090, 0.5)).toBe(roughPx(1090, 0.501));
    expect(roughPx(1090, 0.5) % 16).toBe(0);
    expect(roughPx(1090, 1)).toBe(1088);
    expect(roughPx(20, 0.4)).toBe(16);
    expect(roughPx(10, 0.4)).toBe(10);
  });
});
