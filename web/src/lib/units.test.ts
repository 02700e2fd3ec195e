import { describe, expect, it } from "vitest";
import {
  degrees,
  exactDegrees,
  hair,
  inUnits,
  type LengthUnit,
  length,
  lengthText,
  parseLength,
  parseNumber,
  parseShare,
  parseTemperature,
  percent,
  refusalInUnits,
  sizes,
  span,
  temperature,
  thickness,
  type Units,
  weight,
} from "./units";

function mm(text: string, unit: "mm" | "inch" | "fraction" | "thou" = "mm"): number {
  const found = parseLength(text, unit);
  if (!found.ok) throw new Error(found.why);
  return found.value;
}

describe("lengths as typed", () => {
  it.each([
    ["3/8", 9.525],
    ['1 1/2"', 38.1],
    ["1-1/2in", 38.1],
    ['0.250"', 6.35],
    ["6.35mm", 6.35],
    ["6,5", 6.5],
    ["25 thou", 0.635],
    ["2.5 cm", 25],
    [" .5 ", 0.5],
    ["-3", -3],
  ])("%s is %d mm", (text, value) => {
    expect(mm(text)).toBeCloseTo(value, 9);
  });

  it("takes a bare number in the preferred unit", () => {
    expect(mm("1", "inch")).toBe(25.4);
    expect(mm("500", "thou")).toBeCloseTo(12.7, 9);
    expect(mm("6mm", "inch")).toBe(6);
  });

  it("reads every way a shop writes a fraction, also as it is shown", () => {
    for (const [text, value] of [
      ["9/64", 3.571875],
      ['18 13/32"', 467.51875],
      ["3/8 in", 9.525],
      ["0.3in", 7.62],
      ["18 13/32", 467.51875],
    ] as const)
      expect(mm(text, "fraction")).toBeCloseTo(value, 6);
    expect(parseShare("10 %")).toEqual({ ok: true, value: 0.1 });
    expect(parseShare("ten").ok).toBe(false);
  });

  it("shows a fraction only where it is the number itself", () => {
    expect(lengthText(0.08, "fraction")).toBe("0.0031");
    expect(lengthText(0.51, "fraction")).toBe("0.0201");
    expect(lengthText(5.5, "fraction")).toBe("0.217");
    expect(lengthText(25.4 * 1.25, "fraction")).toBe("1 1/4");
    expect(lengthText(-0.0001, "mm")).toBe("0");
  });

  it.each(["", "six", "1/0", "6 furlongs", "1e3", "--2", "NaN", "3/"])("refuses %j and says why", (text) => {
    const found = parseLength(text, "mm");
    expect(found.ok).toBe(false);
    if (!found.ok) expect(found.why.length).toBeGreaterThan(8);
  });

  it("refuses nonsense as a plain number", () => {
    expect(parseNumber("12 turns")).toEqual({ ok: true, value: 12 });
    expect(parseNumber("1e9").ok).toBe(false);
  });
});

describe("lengths as shown", () => {
  it("keeps bench precision", () => {
    expect(lengthText(5.5, "mm")).toBe("5.5");
    expect(lengthText(563.49, "mm")).toBe("563");
    expect(lengthText(0.0349, "mm")).toBe("0.035");
    expect(length(9.525, "fraction")).toBe("3/8 in");
    expect(length(38.1, "fraction")).toBe("1 1/2 in");
    expect(length(0.635, "thou")).toBe("25 thou");
    expect(sizes([100, 40, 5.5], "mm")).toBe("100 × 40 × 5.5 mm");
    expect(weight(974.2, "g")).toBe("974 g");
    expect(weight(974.2, "oz")).toBe("2.15 lb");
    expect(weight(141.7, "oz")).toBe("5 oz");
    expect(weight(422, "oz", 474)).toBe("0.93 lb");
    expect(percent(-0.0001)).toBe("0.0 %");
    expect(percent(0.0991)).toBe("9.9 %");
  });

  it("comes back from its own text to within what it shows", () => {
    for (const unit of ["mm", "inch", "fraction", "thou"] as const) {
      const again = mm(lengthText(12.7, unit), unit);
      expect(again).toBeCloseTo(12.7, 6);
    }
  });
});

describe("what is there", () => {
  it("is never told as none", () => {
    const told = (mm: number) => (["mm", "inch", "fraction", "thou"] as const).map((u) => thickness(mm, u));
    expect(told(1e-7)).toEqual(["under 0.001\u00a0mm", "under 0.0001\u00a0in", "under 0.0001\u00a0in", "under 0.1\u00a0thou"]);
    expect(told(0.00254)).toEqual(["0.003 mm", "0.0001 in", "0.0001 in", "0.1 thou"]);
    expect(told(0)).toEqual(["0 mm", "0 in", "0 in", "0 thou"]);
  });
});

describe("thin skins", () => {
  it("are told to one place", () => {
    expect([0.098, 0.3, 0].map((v) => hair(v, "mm"))).toEqual(["0.10", "0.30", "0.00"]);
    expect(hair(0.254, "inch")).toBe("0.010");
    expect(hair(0.254, "fraction")).toBe("0.010");
    expect(hair(0.254, "thou")).toBe("10");
  });
});

describe("temperatures", () => {
  it("are told in the user's own degrees", () => {
    expect(temperature(815, "C")).toBe("815 °C");
    expect(temperature(815, "F")).toBe("1500 °F");
    expect(span([795, 820], "F")).toBe("1465 to 1510 °F");
    expect(span([800, 800.2], "C")).toBe("800 °C");
  });

  it.each([
    ["815", "C", 815],
    ["1500F", "C", 815.555],
    ["1500", "F", 815.555],
    ["815 °C", "F", 815],
    ["815,5 c", "F", 815.5],
  ] as const)("takes %s with °%s preferred", (text, unit, value) => {
    const found = parseTemperature(text, unit);
    expect(found.ok && found.value).toBeCloseTo(value, 2);
  });

  it.each(["", "hot", "1e3", "800 K", "8 00"])("refuses %j and says why", (text) => {
    const found = parseTemperature(text, "C");
    expect(found.ok).toBe(false);
    if (!found.ok) expect(found.why).toContain("temperature");
  });

  const C: Units = { length: "mm", heat: "C", weight: "g" };
  const F: Units = { length: "inch", heat: "F", weight: "oz" };

  it("turns the server's words, differences by scale alone", () => {
    expect(inUnits("795 to 820 C suits all; within 25 C°.", C)).toBe("795 to 820 °C suits all; within 25 °C.");
    expect(inUnits("795 to 820 C suits all; within 25 C°.", F)).toBe("1465 to 1510 °F suits all; within 45 °F.");
    expect(inUnits("then 30 to 50 C° more", F)).toBe("then 54 to 90 °F more");
    expect(inUnits("the freezer at -75 C, 0.8 % C and 50 Cr", F)).toBe("the freezer at -103 °F, 0.8 % C and 50 Cr");
    expect(inUnits("at 300 C°/h", F)).toBe("at 540 °F/h");
  });

  it("turns lengths and weights in the server's words", () => {
    expect(inUnits("Weld to 12.7 mm or less.", F)).toBe("Weld to 0.5 in or less.");
    expect(inUnits("a section of 85 x 18 mm takes 9 min", F)).toBe("a section of 3.35 x 0.71 in takes 9 min");
    expect(inUnits("0.8 to 1.2 mm is left; layers of 25 µm", F)).toBe("0.031 to 0.047 in is left; layers of 0.98 thou");
    expect(inUnits("1084 4.3 mm, 15N20 6.2 mm", F)).toBe("1084 0.169 in, 15N20 0.244 in");
    expect(inUnits("pulled down at 12 and 150 mm", F)).toBe("pulled down at 0.47 and 5.91 in");
    expect(inUnits("ends on 1 kg and 20 g of scale", F)).toBe("ends on 2.2 lb and 0.71 oz of scale");
    expect(inUnits("400 mm2 and 3 mm3", F)).toBe("400 mm2 and 3 mm3");
    const same = "85 x 18 mm, 25 µm, 1 kg";
    expect(inUnits(same, C)).toBe(same);
  });

  it("tells a heat that is round as a round one, and a reading as it is", () => {
    for (const [c, f] of [
      [1140, "2080"],
      [805, "1480"],
      [205, "400"],
      [20, "68"],
      [803, "1477"],
      [804, "1480"],
      [815.56, "1500"],
    ] as const)
      expect(degrees(c, "F")).toBe(f);
    expect(exactDegrees(1140, "F")).toBe("2084");
    expect(temperature(1140, "F")).toBe("2080 °F");
  });

  it("has no more digits in inches than in mm, and no fraction beside a decimal", () => {
    const said = (text: string, length: LengthUnit) => inUnits(text, { length, heat: "F", weight: "oz" });
    expect(said("about 198 mm long", "inch")).toBe("about 7.8 in long");
    expect(said("about 198 mm long", "thou")).toBe("about 7800 thou long");
    expect(said("25.4 x 10 mm", "fraction")).toBe("1 x 0.39 in");
    expect(said("25.4 x 12.7 mm", "fraction")).toBe("1 x 1/2 in");
    expect(sizes([25.4, 10], "fraction")).toBe("1 × 0.394 in");
    expect(sizes([25.4, 12.7], "fraction")).toBe("1 × 1/2 in");
  });

  it("turns volumes, and what goes into a litre", () => {
    expect(inUnits("33.7 cm3 come off; 4 litres or more", F)).toBe(
      "33.7 cm3 come off; 4 litres or more".replace("33.7 cm3", "2.1 cubic in").replace("4 litres", "4.2 quarts"),
    );
    expect(inUnits("bicarbonate, 50 g in a litre", F)).toBe("bicarbonate, 1.7 oz in a quart");
    expect(inUnits("33.7 cm3, 4 litres, 50 g in a litre", C)).toBe("33.7 cm3, 4 litres, 50 g in a litre");
  });

  it("words a refusal in the unit of its field", () => {
    expect(refusalInUnits("-127 is out of range; give a number greater than or equal to 0.", "mm", F)).toBe(
      "-5 in is out of range; give a number greater than or equal to 0 in.",
    );
    expect(refusalInUnits("5000 is out of range; give a number less than or equal to 1300.", "C", F)).toBe(
      "9030 °F is out of range; give a number less than or equal to 2370 °F.",
    );
    expect(refusalInUnits("12.5 is out of range", "turns", F)).toBe("12.5 is out of range");
  });
});
