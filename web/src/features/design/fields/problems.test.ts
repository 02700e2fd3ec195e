import { expect, test } from "vitest";
import { sentence, under } from "./problems";

const P = (path: string) => ({ path, wrong: `the ${path || "whole"} is wrong`, cure: "mend it" });

test("problems below a name lose it, whatever follows", () => {
  const all = [P("blade"), P("blade.grind.right"), P("blade[2].x"), P("bladeness"), P("recipe.blade")];
  expect(under(all, "blade").map((p) => p.path)).toEqual(["", "grind.right", "[2].x"]);
  expect(under([], "blade")).toEqual([]);
});

test("told as a sentence", () => {
  expect(sentence(P(""))).toBe("The whole is wrong; mend it.");
});
