import { describe, expect, it } from "vitest";
import type { Step } from "../../api/types";
import { chosenIn, pick } from "./chosen";

const steps = [{ id: "w" }, { id: "d" }, { id: "t" }] as Step[];

describe("what is chosen", () => {
  it("is a step wherever it stands", () => {
    expect(chosenIn(pick("d"), steps, false)).toBe(1);
    expect(chosenIn(pick("d"), steps.toReversed(), false)).toBe(1);
    expect(chosenIn(pick("w"), steps.toReversed(), true)).toBe(2);
  });
  it("is the last step when the one chosen is gone, and the start when there is none", () => {
    expect(chosenIn(pick("gone"), steps, false)).toBe(2);
    expect(chosenIn(pick("gone"), [], false)).toBe("start");
    expect(pick(undefined)).toBe("start");
    expect(pick("")).toBe("start");
  });
  it("is no blade inside a joint", () => {
    expect(chosenIn("blade", steps, false)).toBe("blade");
    expect(chosenIn("blade", steps, true)).toBe("start");
    expect(chosenIn("start", steps, true)).toBe("start");
  });
});
