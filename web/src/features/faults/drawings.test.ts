import { expect, test } from "vitest";
import { DRAWN } from "./FaultDrawing";

const known = import.meta.glob("../../../../varistrat/core/faults/known/*.toml", {
  query: "?raw",
  import: "default",
  eager: true,
}) as Record<string, string>;
const seen = Object.values(known).flatMap((text) => [...text.matchAll(/^\[seen\.(\w+)\]/gm)].map((m) => m[1]));

test("everything that is seen has a drawing of its own", () => {
  expect(seen.length).toBeGreaterThan(27);
  expect(seen.filter((s) => !(s && s in DRAWN))).toEqual([]);
  expect(Object.keys(DRAWN).filter((d) => !seen.includes(d))).toEqual([]);
});
