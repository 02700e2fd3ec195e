import { expect, test } from "vitest";
import type { Entry, Operation } from "../../../api/types";
import { entryText } from "./entryText";

const MM = { length: "mm", heat: "C", weight: "g" } as const;
const base = { id: "a", op: "bar:weld", at: "2031-05-17T08:00:00Z" };
const op = {
  checks: [{ ask: "Is it one colour?", good: "", bad: "" }],
  timers: [{ says: "hot through", minutes: 20 }],
} as unknown as Operation;
const text = (e: object, u: Parameters<typeof entryText>[2] = MM) => entryText({ ...base, ...e } as Entry, op, u);

test("what was measured, in the user's units, with what was typed where that reads otherwise", () => {
  expect(text({ kind: "measured", quantity: "thickness", value: 15.875, typed: "5/8" })).toBe("thickness 15.9 mm (typed 5/8)");
  expect(text({ kind: "measured", quantity: "thickness", value: 15.9, typed: "15.9" })).toBe("thickness 15.9 mm");
  expect(text({ kind: "measured", quantity: "celsius", value: 815, typed: "" }, { ...MM, heat: "F" })).toBe(
    "temperature 1499 °F",
  );
});

test("answers with their question, timers with their name", () => {
  expect(text({ kind: "checked", check: 0, good: false })).toBe("Is it one colour? Not good.");
  expect(text({ kind: "timer", timer: 0, running: true })).toBe("hot through: timer begun");
  expect(text({ kind: "checked", check: 7, good: true })).toBe("looked at Good.");
  expect(text({ kind: "done", minutes: 12.4 })).toBe("done, took 12 min");
});

test("a test of the edge in words; a fault with the looks taken of it", () => {
  expect(text({ kind: "tested", tested: { test: "rope", seen: "fine", times: 20 } })).toBe(
    "edge tested: rope, 20 times: it stood",
  );
  expect(text({ kind: "tested", tested: { test: "hair", seen: "dull" } })).toBe("edge tested: hair: dull soon");
  expect(text({ kind: "fault", fault: "crack_quench", text: "", answers: {} })).toBe("went wrong: crack quench");
  expect(text({ kind: "fault", text: "a crack", answers: { a: true } })).toBe("went wrong: a crack, 1 look taken");
  expect(text({ kind: "fault", text: "a crack", answers: { a: true, b: false } })).toBe("went wrong: a crack, 2 looks taken");
});
