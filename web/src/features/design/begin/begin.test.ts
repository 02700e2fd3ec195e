import { expect, test } from "vitest";
import type { CutPlan, StockSheet } from "../../../api/types";
import { piecesOf, takesOf, whatStands } from "./begin";

const bar = (item: number, left: number, keep: boolean) => ({ item, left, keep, cuts: [] });
const plan = (more: object) => ({ bars: [], buy: [], others: [], ...more }) as unknown as CutPlan;

test("bars are taken by their item, what is worth it comes back", () => {
  const found = takesOf(plan({ bars: [bar(3, 120.04, true), bar(3, 12, false), bar(7, 300, true)] }));
  expect(found.takes).toEqual({ 3: 2, 7: 1 });
  expect(found.keep).toEqual([
    { item: 3, length: 120, count: 1 },
    { item: 7, length: 300, count: 1 },
  ]);
  expect(takesOf(null)).toEqual({ takes: {}, keep: [] });
});

test("what should be known before one begins", () => {
  const short = { spare: -9 } as StockSheet;
  const texts = (...a: Parameters<typeof whatStands>) => whatStands(...a).map((t) => t.text);
  expect(texts(short, "drawn", plan({}), "mine")).toHaveLength(1);
  expect(texts(short, "must", plan({}), "rack")).toEqual(["The rack has it all."]);
  expect(texts({ spare: 3 } as StockSheet, "drawn", plan({ buy: [{ steel: "1084", pieces: [70] }] }), "rack")).toEqual([
    "1 piece is still to buy: 1084.",
  ]);
  expect(texts(null, "must", plan({ others: [{ says: "a can", there: false }] }), "rack")).toEqual(["Not in the rack: a can."]);
});

test("pieces go to paper in the user's units, those alike together, then what is to buy", () => {
  const cut = { width: 40, thickness: 6.35, length: 76.2, how: "" };
  const found = piecesOf(
    plan({
      bars: [{ code: "R2", steel: "1084", cuts: [cut, cut, { ...cut, how: "rip to 40 mm" }] }],
      buy: [{ steel: "15n20", width: 40, thickness: 2.54, pieces: [76.2] }],
      others: [{ says: "a can", count: 1 }],
    }),
    { length: "inch", heat: "F", weight: "oz" },
  );
  expect(found.map((p) => [p.says, p.section, p.length, p.count])).toEqual([
    ["R2, 1084", "1.575 × 0.25 in", "3 in", "2 ×"],
    ["R2, 1084: rip to 40 mm", "1.575 × 0.25 in", "3 in", "1 ×"],
    ["to buy, 15n20", "1.575 × 0.1 in", "3 in", "1 ×"],
    ["a can", "", "", "1 ×"],
  ]);
  expect(piecesOf(null, { length: "mm", heat: "C", weight: "g" })).toEqual([]);
});
