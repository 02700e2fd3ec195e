import { describe, expect, it } from "vitest";
import { pagesFor } from "../features/help/pages";
import { searched } from "../features/help/words";
import { fits, ourWords } from "./called";

describe("the trade's other words", () => {
  it("lead to ours", () => {
    for (const asked of [
      "san mai",
      "billet",
      "damascus",
      "martensite",
      "retained austenite",
      "kiss block",
      "canola",
      "core exposure",
    ])
      expect(searched(asked).length + pagesFor(asked).length, asked).toBeGreaterThan(0);
    expect(searched("san mai").map((w) => w.key)).toContain("core");
    expect(searched("martensite")[0]?.key).toBe("martensite");
    expect(searched("canola").map((w) => w.key)).toContain("quench");
  });

  it("do not stand in the way of what is typed", () => {
    expect(ourWords("sedge")).toEqual([]);
    expect(ourWords("rat")).toEqual([]);
    expect(ourWords("san m")).toContain("core");
    expect(fits("Fen raindrop, dimples", "raindrop")).toBe(true);
    expect(fits("A hard core between soft sides", "San Mai")).toBe(true);
    expect(fits("Bold twist", "zzz")).toBe(false);
    expect(fits("Bold twist", "")).toBe(true);
  });
});
