import { expect, test } from "vitest";
import { LEAST, strength } from "./strength";

test("a password is judged by its length before all else", () => {
  expect(strength("").says).toBe("");
  expect(strength("a".repeat(LEAST - 3)).says).toBe("3 more");
  expect(strength("aaaaaaaaaaaaaaaa").says).toContain("guessed");
  expect(strength("lantern-quay").says).toBe("will do");
  expect(strength("four plain words of mine here").share).toBeGreaterThan(strength("Ab1!Ab1!xyzq").share);
  expect(strength("a long row of words, and 3 signs!").says).toBe("strong");
});
