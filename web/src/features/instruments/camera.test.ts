import { expect, test } from "vitest";
import { next, whyNoCamera } from "./camera";

test("why there is no picture is said with what to do", () => {
  const named = (name: string) => new DOMException("x", name);
  expect(whyNoCamera(named("NotAllowedError"))).toContain("allow it");
  expect(whyNoCamera(named("NotFoundError"))).toBe("There is no camera here.");
  expect(whyNoCamera(named("NotReadableError"))).toContain("close it");
  expect(whyNoCamera("odd")).toBe("The camera does not answer.");
});

test("the other camera is the next one, around again, and there is none beside a single one", () => {
  const at = (deviceId: string, kind = "videoinput") => ({ deviceId, kind });
  const three = [at("mic", "audioinput"), at("a"), at("b"), at("c")];
  expect(next(three, "a")).toBe("b");
  expect(next(three, "c")).toBe("a");
  expect(next(three, undefined)).toBe("a");
  expect(next([at("a"), at("mic", "audioinput")], "a")).toBeUndefined();
});
