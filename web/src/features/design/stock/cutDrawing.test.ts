import { describe, expect, it } from "vitest";
import type { CutPlan } from "../../../api/types";
import { cutDrawing, scaleOf } from "./cutDrawing";

const words = {
  title: "Knife & <fork>",
  length: (mm: number) => `${mm.toFixed(0)} mm`,
  sizes: (s: number[]) => `${s.join(" x ")} mm`,
};

const cut = (piece: string, length: number) => ({ piece, says: piece, length, width: 40, thickness: 4, how: "" });
const plan = (left: number, keep = true): CutPlan =>
  ({
    bars: [
      {
        item: 1,
        code: "F1",
        steel: "1084",
        form: "flat",
        width: 40,
        thickness: 4,
        length: 1000,
        cuts: [cut("a", 400), cut("b", 300)],
        left,
        keep,
        wrong: "",
        by_hand: false,
      },
    ],
    kerf: 2,
  }) as unknown as CutPlan;

const rects = (svg: string) =>
  [...svg.matchAll(/<rect x="([\d.]+)" y="[\d.]+" width="([\d.]+)"/g)].map((m) => [Number(m[1]), Number(m[2])]);

describe("the drawing of a cut list", () => {
  it("is to a usual scale that fits the paper", () => {
    expect(scaleOf(255)).toBe(1);
    expect(scaleOf(256)).toBe(2);
    expect(scaleOf(1000)).toBe(4);
    expect(scaleOf(1100)).toBe(5);
    expect(scaleOf(20000)).toBe(80);
  });

  it("lays piece, kerf, piece, kerf and what is left end to end", () => {
    // 1000 = 400 + 2 + 300 + 2 + 296, at 1 : 4
    expect(rects(cutDrawing(plan(296), words))).toEqual([
      [0, 100],
      [100, 0.5],
      [100.5, 75],
      [175.5, 0.5],
      [176, 74],
    ]);
  });

  it("says what is kept, and what is too short for it", () => {
    expect(cutDrawing(plan(296), words)).toContain("keep: 296 mm");
    expect(cutDrawing(plan(296, false), words)).toContain("left: 296 mm");
  });

  it("makes no cut at the end of a bar that is used up", () => {
    const used = plan(0);
    const bar = used.bars[0] as (typeof used.bars)[number];
    bar.length = 702;
    expect(rects(cutDrawing(used, words))).toHaveLength(3);
  });

  it("stays a drawing whatever the design is called", () => {
    const svg = cutDrawing(plan(296), words);
    expect(svg).toContain("Knife &amp; &lt;fork&gt;");
  });
});
