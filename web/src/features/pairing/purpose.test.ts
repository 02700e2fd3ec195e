import { describe, expect, it } from "vitest";
import { purposeIn } from "./purpose";

const from = (text: string) => purposeIn(new URLSearchParams(text));
const USUAL = { use: "edge", thickness: 4, etchant: "ferric", temper: 200 };

describe("what a pairing is for", () => {
  it("is as usual where the address says nothing", () => {
    expect(from("")).toEqual(USUAL);
    expect(from("steels=1084,15n20")).toEqual(USUAL);
  });

  it("is taken from the address", () => {
    expect(from("use=clad&thickness=3.2&etchant=coffee&temper=225")).toEqual({
      use: "clad",
      thickness: 3.2,
      etchant: "coffee",
      temper: 225,
    });
  });

  it("forgives nonsense and holds to what can be", () => {
    expect(from("use=soup&thickness=thick&etchant=milk&temper=")).toEqual(USUAL);
    expect(from("thickness=900&temper=20")).toEqual({ ...USUAL, thickness: 60, temper: 150 });
    expect(from("thickness=NaN&temper=Infinity&etchant=toString")).toEqual(USUAL);
  });
});
