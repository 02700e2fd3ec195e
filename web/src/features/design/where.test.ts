import { expect, test } from "vitest";
import { buildAddress } from "../build/where";
import { addressOf } from "./where";

const AT = { id: 7, place: "", tab: "", bar: "", view: "" };

test("only what is said stands in the address of a design", () => {
  expect(addressOf(AT)).toBe("/design/7");
  expect(addressOf({ ...AT, place: "finish", tab: "etch" })).toBe("/design/7/finish/etch");
  expect(addressOf({ ...AT, place: "bar", bar: "b2", view: "end" })).toBe("/design/7/bar?bar=b2&view=end");
  // a tab without its place says nothing
  expect(addressOf({ ...AT, tab: "etch" })).toBe("/design/7");
});

test("whatever a part is called, it goes through an address and back", () => {
  const odd = "a/b?c#d e%";
  expect(
    decodeURIComponent(
      addressOf({ ...AT, place: "bar", tab: odd })
        .split("/")
        .at(-1) ?? "",
    ),
  ).toBe(odd);
  const query = addressOf({ ...AT, place: "bar", bar: odd })
    .split("?")
    .slice(1)
    .join("?");
  expect(new URLSearchParams(query).get("bar")).toBe(odd);
});

test("an operation's id in the address of a build", () => {
  expect(buildAddress(3)).toBe("/build/3/sheet");
  expect(buildAddress(3, "log")).toBe("/build/3/log");
  expect(buildAddress(3, "sheet", "0.2:weld-s4")).toBe("/build/3/sheet/0.2%3Aweld-s4");
});
