import { describe, expect, it } from "vitest";
import type { RackItem } from "../../api/types";
import { grouped, howMany, isOf, itemSize, matches } from "./words";

const BAR: RackItem = {
  id: 1,
  code: "R1",
  steel: "1084",
  steel_name: "1084",
  form: "flat",
  width: 40,
  thickness: 6.35,
  wall: null,
  length: 1000,
  size: "40 x 6.35 x 1000 mm",
  there: 3,
  grams_each: 2000,
  mass: 6000,
  each: null,
  worth: null,
  batch: "",
  bought: null,
  source: "",
  place: "left rack",
  note: "",
  low: null,
  mark: "",
  runs_low: false,
  moved: null,
  offcut_of: "",
  design: null,
  picture: "",
};

describe("items in words", () => {
  it("says size and number in the user's units", () => {
    expect(itemSize(BAR, "mm")).toBe("flat 40 × 6.35 × 1000 mm");
    expect(itemSize(BAR, "inch")).toBe("flat 1.575 × 0.25 × 39.37 in");
    expect(itemSize({ ...BAR, form: "round", width: 20, thickness: 20 }, "mm")).toBe("round 20 × 1000 mm");
    expect(itemSize({ ...BAR, form: "tube", width: 50, thickness: 50, wall: 3 }, "mm")).toBe("tube 50 × 1000 mm, wall 3 mm");
    expect(howMany(BAR, "g")).toBe("3 bars");
    expect(howMany({ ...BAR, there: 1, offcut_of: "x" }, "g")).toBe("1 piece");
    expect(howMany({ ...BAR, form: "powder", there: 850 }, "g")).toBe("850 g");
  });

  it("finds by every word, wherever it stands", () => {
    expect(matches(BAR, "1084 left")).toBe(true);
    expect(matches(BAR, "1084 right")).toBe(false);
    expect(matches(BAR, "")).toBe(true);
  });

  it("tells what is there from what is low or gone", () => {
    expect(isOf(BAR, "there")).toBe(true);
    expect(isOf(BAR, "offcuts")).toBe(false);
    expect(isOf({ ...BAR, note: "left of R9" }, "offcuts")).toBe(true);
    expect(isOf({ ...BAR, there: 0 }, "there")).toBe(false);
    expect(isOf({ ...BAR, there: 0 }, "gone")).toBe(true);
    expect(isOf({ ...BAR, runs_low: true }, "low")).toBe(true);
  });

  it("groups by steel, the thickest first, patterns last", () => {
    const thin = { ...BAR, id: 2, thickness: 3 };
    const pattern = { ...BAR, id: 3, thickness: 9, picture: "/x.png" };
    const other = { ...BAR, id: 4, steel: "1018", steel_name: "1018" };
    const found = grouped([pattern, thin, other, BAR]);
    expect(found.map((g) => g.steel)).toEqual(["1018", "1084"]);
    expect(found[1]?.items.map((i) => i.id)).toEqual([1, 2, 3]);
    expect(found[1]?.mass).toBe(18000);
  });
});
