import { expect, test } from "vitest";
import type { Build } from "../../api/types";
import { dueText, faultsOf, found, isOf, yieldOf } from "./words";

const build = (more: object = {}, summary: object = {}) =>
  ({
    title: "Eel splitter",
    who: "The ferry",
    design_name: "",
    order_title: "",
    state: "in work",
    ...more,
    summary: { faults: [], blade: null, put_in: null, ...summary },
  }) as unknown as Build;

test("what goes on, what is done", () => {
  expect(["planned", "in work", "resting", "done", "given up"].map((state) => isOf(build({ state }), "on"))).toEqual([
    true,
    true,
    true,
    false,
    false,
  ]);
  expect(isOf(build({ state: "given up" }), "done")).toBe(true);
});

test("found by any of its words", () => {
  expect(found(build(), "ferry eel")).toBe(true);
  expect(found(build({}, { faults: ["a crack at the heel"] }), "crack")).toBe(true);
  expect(found(build(), "crack")).toBe(false);
});

test("a yield needs both weights", () => {
  expect(yieldOf(build({}, { blade: 120, put_in: 480 }))).toBe(0.25);
  expect(yieldOf(build({}, { blade: 120 }))).toBeNull();
});

test("days until it was promised", () => {
  const today = new Date(2031, 4, 17, 22, 30);
  expect(dueText("2031-05-18", today)).toEqual({ text: "promised in 1 day", late: true });
  expect(dueText("2031-05-21", today)).toEqual({ text: "promised in 4 days", late: false });
  expect(dueText("2031-05-17", today).text).toBe("promised for today");
  expect(dueText("2031-05-15", today)).toEqual({ text: "promised 2 days ago", late: true });
});

test("faults by how often", () => {
  const of = (...faults: string[]) => build({}, { faults });
  expect(faultsOf([of("open weld", "warp"), of("warp")])).toEqual([
    ["warp", 2],
    ["open weld", 1],
  ]);
});
