import { expect, test } from "vitest";
import type { PlannedOperation } from "../../api/types";
import { inUnits } from "../../lib/units";
import { saidOf, usualPaper } from "./paper";

const INCH = { length: "inch", heat: "F", weight: "oz" } as const;

test("an operation on paper is in the user's own units", () => {
  const op = {
    title: "Draw out",
    say: "8 heats at 1140 C.",
    place: "fire",
    attended: 151.6,
    cautions: ["Guards."],
    by_heat: ["24.8 mm, 22.4 mm"],
    lay_out: "",
    checks: [],
    timers: [{ says: "turn it", minutes: 5, again: true }],
    targets: [
      { quantity: "thickness", value: 6.35, tolerance: 0.3, says: "", unit: "mm" },
      { quantity: "celsius", value: 1140, tolerance: 25, says: "", unit: "C" },
    ],
  } as unknown as PlannedOperation;
  const said = saidOf(op, (t) => inUnits(t, INCH), INCH);
  expect(said.say).toBe("8 heats at 2080 °F.");
  expect(said.targets).toEqual([
    { name: "thickness", text: "0.25 in", tolerance: "± 0.012" },
    { name: "temperature", text: "2080 °F", tolerance: "" },
  ]);
  expect(said.by_heat).toEqual(["0.976 in, 0.882 in"]);
  expect(said.timers).toEqual(["turn it: every 5 min"]);
  expect(said.minutes).toBe("about 152 min");
});

test("the paper of the country", () => {
  expect(["en-US", "en-GB", "de", "fr-CA"].map(usualPaper)).toEqual(["letter", "a4", "a4", "letter"]);
});
