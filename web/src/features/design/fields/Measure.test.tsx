import { screen } from "@testing-library/react";
import { useState } from "react";
import { expect, test, vi } from "vitest";
import type { Preferences } from "../../../api/types";
import { shown } from "../../../lib/testing";
import { Measure, type MeasureProps } from "./Measure";

/** A field that keeps what it is told, and what was told. */
function field(first: number | null, more: Partial<MeasureProps> = {}, preferences: Partial<Preferences> = {}) {
  const told = vi.fn();
  function Kept() {
    const [value, setValue] = useState<number | null>(first);
    const take = (next: number | null) => {
      told(next);
      setValue(next);
    };
    return (
      <>
        <Measure label="Thickness" unit="mm" value={value} onChange={take} {...more} />
        <button type="button" onClick={() => setValue(first)}>
          Undo
        </button>
      </>
    );
  }
  const { hand } = shown(<Kept />, preferences);
  const box = screen.getByLabelText<HTMLInputElement>("Thickness");
  const type = async (text: string) => {
    await hand.clear(box);
    await hand.type(box, `${text}{Enter}`);
  };
  return { hand, box, told, type };
}

test.each([
  ["1 1/4", 31.75, "31.8"],
  ['1.125"', 28.575, "28.6"],
  ["30mm", 30, "30"],
  ["1200 thou", 30.48, "30.5"],
])("%s is read off the tool", async (typed, mm, text) => {
  const { box, told, type } = field(12);
  await type(typed);
  expect(told).toHaveBeenCalledOnce();
  expect(told.mock.calls[0]?.[0]).toBeCloseTo(mm, 9);
  expect(box.value).toBe(text);
});

test("what is no length is refused where it stands, and Escape brings back what was there", async () => {
  const { hand, box, told, type } = field(12);
  await type("a thumb's width");
  expect(screen.getByRole("alert").textContent).toContain("is not a length");
  expect(box.getAttribute("aria-invalid")).toBe("true");
  expect(told).not.toHaveBeenCalled();
  await hand.keyboard("{Escape}");
  expect(box.value).toBe("12");
  expect(screen.queryByRole("alert")).toBeNull();
});

test.each(["{Enter}", "{Tab}"])("%s changes no number that was not typed", async (key) => {
  // a number that no quarter inch tells exactly
  const { hand, box, told } = field(26.1, {}, { length: "1/64" as Preferences["length"] });
  const before = box.value;
  await hand.click(box);
  await hand.keyboard(key);
  expect(told).not.toHaveBeenCalled();
  expect(box.value).toBe(before);
});

test("arrows nudge by what the size asks for, ten times with Shift, and never below the least", async () => {
  const { hand, box, told } = field(6, { min: 5.4 });
  await hand.click(box);
  await hand.keyboard("{ArrowUp}");
  expect(told).toHaveBeenLastCalledWith(6.5);
  await hand.keyboard("{Shift>}{ArrowUp}{/Shift}");
  expect(told).toHaveBeenLastCalledWith(11.5);
  await hand.keyboard("{Shift>}{ArrowDown}{ArrowDown}{/Shift}");
  expect(told).toHaveBeenLastCalledWith(5.4);
});

test("undone elsewhere, the field shows the number that holds again", async () => {
  const { hand, box, type } = field(12);
  await type("14");
  expect(box.value).toBe("14");
  await hand.click(screen.getByText("Undo"));
  expect(box.value).toBe("12");
});

test("a field that may be empty says so; one that may not keeps its number", async () => {
  const free = field(12, { optional: true });
  await free.type(" ");
  expect(free.told).toHaveBeenLastCalledWith(null);
});

test("a share reads per cent, with the sign and without", async () => {
  const { box, told, type } = field(0.1, { unit: "share" });
  expect(box.value).toBe("10");
  await type("12 %");
  expect(told).toHaveBeenLastCalledWith(0.12);
  await type("15");
  expect(told).toHaveBeenLastCalledWith(0.15);
});

test("degrees are the smith's own", async () => {
  const { box, told, type } = field(800, { unit: "C" }, { temperature: "F" });
  expect(box.value).toBe("1472");
  await type("1500");
  expect(told.mock.calls[0]?.[0]).toBeCloseTo((1500 - 32) / 1.8, 6);
});

test("a server's refusal stands at the field until another number is there", async () => {
  const { type } = field(12, { problem: "12 is out of range; keep it at 0 to 4" });
  expect(screen.getByRole("alert").textContent).toContain("out of range");
  await type("3");
});
