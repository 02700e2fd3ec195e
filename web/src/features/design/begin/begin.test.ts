import { expect, test } from "vitest";
import type { CutPlan, StockSheet } from "../../../api/types";
import { takesOf, whatStands } from "./begin";

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
