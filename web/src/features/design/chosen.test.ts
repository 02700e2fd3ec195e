import { describe, expect, it } from "vitest";
import type { Step } from "../../api/types";
import { chosenIn, picked, tabOf } from "./chosen";

const steps = [{ id: "w" }, { id: "d" }, { id: "t" }] as Step[];

describe("what is chosen", () => {
  it("is a step wherever it stands", () => {
    expect(chosenIn(picked("d"), steps, false)).toBe(1);
    expect(chosenIn(picked("d"), steps.toReversed(), false)).toBe(1);
    expect(chosenIn(picked("w"), steps.toReversed(), true)).toBe(2);
  });
  it("is the last step when the one chosen is gone, and the start when there is none", () => {
    expect(chosenIn(picked("gone"), steps, false)).toBe(2);
    expect(chosenIn(picked("gone"), [], false)).toBe("start");
    expect(chosenIn(picked(""), steps, false)).toBe(2);
  });
  it("is no blade inside a joint", () => {
    expect(chosenIn("blade", steps, false)).toBe("blade");
    expect(chosenIn("blade", steps, true)).toBe("start");
    expect(chosenIn("start", steps, true)).toBe("start");
  });
  it("is said by the address and found again from it", () => {
    for (const chosen of ["start", "blade", 0, 2] as const)
      expect(chosenIn(picked(tabOf(chosen, steps)), steps, false)).toBe(chosen);
    expect(tabOf(7, steps)).toBe("start");
  });
});
