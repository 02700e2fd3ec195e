import { expect, test } from "vitest";
import type { Operation } from "../../api/types";
import { fold, stateOf } from "./fold";
import { parse, parseSpots, sizesBefore, sizeText, textOf, toleranceText } from "./quantity";

const MM = { length: "mm", heat: "C", weight: "g" } as const;
const INCH = { length: "inch", heat: "F", weight: "oz" } as const;
const target = (quantity: string, value: number) => ({ quantity, value, now: value, says: "", tolerance: 0, unit: "mm" });
const op = (id: string, bar: string, ...targets: object[]) => ({ id, bar, targets }) as unknown as Operation;

test("told and read in the user's own units", () => {
  expect(textOf("thickness", 6.35, INCH)).toBe("0.25 in");
  expect(textOf("mass", 340, INCH)).toBe("12 oz");
  expect(textOf("hardness", 60.5, MM)).toBe("60.5 HRC");
  expect(parse("thickness", "1/4", MM)).toEqual({ ok: true, value: 6.35 });
  expect(parse("mass", "1.2 kg", INCH)).toEqual({ ok: true, value: 1200 });
  expect(parse("minutes", "12 min", MM)).toEqual({ ok: true, value: 12 });
  expect(parse("width", "thick", MM).ok).toBe(false);
});

test("a hardness is told to a tenth", () => {
  expect(textOf("hardness", 189.5 / 3, MM)).toBe("63.2 HRC");
  expect(textOf("hardness", 62, MM)).toBe("62 HRC");
});

test("a hardness at several spots is their mean, and each of them", () => {
  expect(parseSpots("hardness", "63 64 62.5 HRC", MM)).toEqual({ ok: true, value: 189.5 / 3, spots: [63, 64, 62.5] });
  expect(parseSpots("hardness", "63, 64; 62,5", MM)).toMatchObject({ spots: [63, 64, 62.5] });
  expect(parseSpots("hardness", "61", MM)).toEqual({ ok: true, value: 61, spots: [61] });
  expect(parseSpots("hardness", "61 hard", MM).ok).toBe(false);
  expect(parseSpots("hardness", " ", MM).ok).toBe(false);
  expect(parseSpots("width", "1 1/4 in", MM)).toEqual({ ok: true, value: 31.75, spots: [31.75] });
});

test("a tolerance to two figures", () => {
  expect(toleranceText("length", 13.1, MM)).toBe(" ± 13");
  expect(toleranceText("width", 0.5, INCH)).toBe(" ± 0.02");
  expect(toleranceText("heats", 0, MM)).toBe("");
});

test("a bar comes as the operation before it on the same bar left it, measured or planned", () => {
  const ops = [
    op("weld", "b", target("width", 40), target("thickness", 28), target("length", 88)),
    op("other", "c", target("width", 12)),
    op("draw", "b", target("diameter", 20), target("length", 300)),
    op("square", "b", target("width", 18), target("thickness", 18)),
    op("sand", "", target("length", 168)),
  ];
  const at = "2031-05-17T08:00:00Z";
  const state = fold([{ id: "a", op: "weld", kind: "measured", quantity: "thickness", value: 28.4, at }]);
  const of = (id: string) => stateOf(state, id);
  const before = (i: number) => sizeText(sizesBefore(ops, ops[i] as Operation, of), MM);
  expect(before(0)).toBe("");
  expect(before(2)).toBe("40 × 28.4 × 88 mm");
  expect(before(3)).toBe("20 × 300 mm");
  expect(before(4)).toBe("");
});
