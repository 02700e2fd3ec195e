import { expect, test } from "vitest";
import cases from "../../../tests/fixtures/instruments/lines.json?raw";
import { linesOf, typedAs, understood } from "./instrument";

type Case = { line: string; value: number | null; unit: string | null };

test("lines are understood as the core understands them", () => {
  for (const { line, value, unit } of JSON.parse(cases) as Case[]) {
    const found = understood(line);
    expect(found?.unit ?? null, line).toBe(unit);
    if (value !== null) expect(found?.value, line).toBeCloseTo(value, 9);
  }
  expect(understood(`${"9".repeat(300)} mm`)).toBeNull();
});

test("what comes in pieces is cut at its ends", () => {
  expect(linesOf("12.3 mm\r\n4.5 mm\n\n6.")).toEqual({ lines: ["12.3 mm", "4.5 mm"], rest: "6." });
  expect(linesOf("").lines).toEqual([]);
});

test("typed as a field takes it, with its unit", () => {
  expect(typedAs({ value: 12.3400001, unit: "mm" })).toBe("12.34mm");
  expect(typedAs({ value: 815.5555, unit: "C" })).toBe("815.6 C");
  expect(typedAs({ value: 283.49523125, unit: "g" })).toBe("283.5 g");
  expect(typedAs({ value: 61.5, unit: "HRC" })).toBe("61.5");
});
