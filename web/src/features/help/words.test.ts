import { describe, expect, it } from "vitest";
import api from "../../../../docs/openapi.json?raw";
import starters from "../../../../varistrat/core/starters.py?raw";
import places from "../../app/places.ts?raw";
import inDesign from "../design/places.ts?raw";
import { PAGES, pagesFor, STOPS } from "./pages";
import { SKETCH_NAMES } from "./Sketch";
import { searched, WORDS, wordOf, wordsIn } from "./words";

describe("the words", () => {
  it("each have a picture that is there, a sentence, and others that are there", () => {
    expect(new Set(WORDS.map((w) => w.key)).size).toBe(WORDS.length);
    for (const w of WORDS) {
      expect(w.says.length, w.key).toBeGreaterThan(25);
      if ("face" in w.picture) expect(starters, w.key).toContain(`"${w.picture.face}"`);
      else expect(SKETCH_NAMES, w.key).toContain(w.picture.sketch);
      for (const other of w.see ?? []) expect(wordOf(other), `${w.key} sees ${other}`).toBeDefined();
    }
    // no drawing that nobody shows
    const shown = WORDS.map((w) => ("sketch" in w.picture ? w.picture.sketch : ""));
    for (const name of SKETCH_NAMES) expect(shown, name).toContain(name);
  });
  it("mean one thing each", () => {
    const forms = WORDS.flatMap((w) => [w.term.toLowerCase(), ...(w.also ?? [])]);
    expect(forms.filter((f, i) => forms.indexOf(f) !== i)).toEqual([]);
    for (const f of forms) expect(f).toBe(f.toLowerCase());
  });
  it("are found in labels as whole words, the longest first", () => {
    expect(wordsIn("Kerf").map((w) => w.key)).toEqual(["kerf"]);
    expect(wordsIn("Edge thickness, mm")[0]?.key).toBe("edge");
    expect(wordsIn("Ledger")).toEqual([]);
    expect(wordsIn("Turns along the blade")[0]?.key).toBe("twist");
    expect(wordsIn("")).toEqual([]);
  });
  it("are searched by all that is typed", () => {
    expect(searched("")).toHaveLength(WORDS.length);
    expect(searched("quen")[0]?.key).toBe("quench");
    expect(searched("acid water").map((w) => w.key)).toContain("etch");
    expect(searched("zzz")).toEqual([]);
  });
  it("cover what the fields of steps, starts and blades are called", () => {
    const parts = JSON.parse(api).components.schemas as Record<
      string,
      { properties?: Record<string, { title?: string; unit?: string }> }
    >;
    const labels = Object.values(parts).flatMap((s) =>
      Object.values(s.properties ?? {}).flatMap((p) => (p.unit && p.title ? [p.title] : [])),
    );
    const without = [...new Set(labels)].filter((l) => !wordsIn(l).length);
    // sizes that mean what they say need no word: width, length, seed...
    expect(labels.length).toBeGreaterThan(60);
    expect(without.length / new Set(labels).size).toBeLessThan(0.6);
  });
});

describe("the pages", () => {
  it("are one for each place, with how sure it is", () => {
    for (const [, path] of places.matchAll(/path: "(\w+)"/g)) expect(PAGES.map((p) => p.where)).toContain(`/${path}`);
    const named: Record<string, string> = { bar: "design", build: "begin" };
    for (const [, path = ""] of inDesign.matchAll(/path: "(\w+)"/g))
      expect(PAGES.map((p) => p.key)).toContain(named[path] ?? path);
    for (const p of PAGES) expect(p.sure.length, p.key).toBeGreaterThan(30);
  });
  it("are searched", () => {
    expect(pagesFor("coupon").map((p) => p.key)).toEqual(expect.arrayContaining(["finish", "baths"]));
    expect(pagesFor("")).toHaveLength(PAGES.length);
  });
  it("tour has five stops that lead somewhere with and without a design", () => {
    expect(STOPS).toHaveLength(5);
    for (const s of STOPS) for (const id of [7, undefined]) expect(s.path(id)).toMatch(/^\/\w+/);
  });
});
