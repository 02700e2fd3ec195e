import { expect, test } from "vitest";
import { clockText, left, type Running, rings } from "./timers";

const timer = (again: boolean, minutes = 5) => ({ since: 1_000_000, minutes, again }) as Running;
const at = (minutes: number) => 1_000_000 + minutes * 60_000;

test("once, when it is over", () => {
  expect([0, 4.9, 5, 60].map((m) => rings(timer(false), at(m)))).toEqual([0, 0, 1, 1]);
  expect(left(timer(false), at(3))).toBe(120_000);
  expect(clockText(left(timer(false), at(7.5)))).toBe("2:30 ago");
});

test("again and again", () => {
  expect([4.9, 5, 9.9, 10, 61].map((m) => rings(timer(true), at(m)))).toEqual([0, 1, 1, 2, 12]);
  expect(left(timer(true), at(7))).toBe(180_000);
});

test("a clock set back rings nothing, and no time at all never rings", () => {
  expect(rings(timer(true), at(-90))).toBe(0);
  expect(rings(timer(true, 0), at(90))).toBe(0);
});

test("hours are told as hours", () => {
  expect([59_400, 245_000, 4_350_000].map(clockText)).toEqual(["0:59", "4:05", "1:12:30"]);
});
