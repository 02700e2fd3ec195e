import { expect, test } from "vitest";
import { waitingWords } from "./words";

test("what waits is told, and that it is kept", () => {
  expect(waitingWords("away", 7, "")).toMatchObject({ text: "kept on this tablet, 7 waiting", tone: "care" });
  expect(waitingWords("away", 0, "")).toMatchObject({ text: "no network" });
  expect(waitingWords("here", 0, "")).toMatchObject({ text: "all kept", tone: "" });
  expect(waitingWords("here", 2, "")).toMatchObject({ text: "kept on this tablet, 2 waiting", tone: "" });
  expect(waitingWords("signed out", 0, "")).toMatchObject({ text: "signed out" });
});

test("a browser that keeps nothing says so whatever else", () => {
  expect(waitingWords("here", 1, "no room")).toMatchObject({ text: "only in this page", tone: "stop" });
});
