import { describe, expect, it } from "vitest";
import type { Document } from "../../api/types";
import { type Field, fieldsOf, type Schema, showsWith, word } from "./fields/schema";
import { setAt } from "./WhatIf";

const document = {
  recipe: {
    bar: {
      start: {
        kind: "assembly",
        bars: [
          { start: { kind: "solid" }, steps: [{ kind: "twist", turns: 3 }] },
          { start: { kind: "solid" }, steps: [{ kind: "twist", turns: 3 }] },
        ],
      },
      steps: [{ kind: "draw", uneven: { amount: 0.1 } }],
    },
  },
} as unknown as Document;

describe("taking a picture of the sheet over", () => {
  const at = (path: string, value: number) => {
    const next = structuredClone(document);
    setAt(next, path, value);
    return JSON.stringify(next);
  };

  it("sets a number however deep", () => {
    expect(at("recipe.bar.steps[0].uneven.amount", 0.4)).toContain('"amount":0.4');
    expect(at("recipe.bar.start.bars[1].steps[0].turns", 7)).toContain(
      '"turns":3}]},{"start":{"kind":"solid"},"steps":[{"kind":"twist","turns":7',
    );
  });

  it("sets it in every bar of a joint", () => {
    expect(at("recipe.bar.start.bars[*].steps[0].turns", 9).match(/"turns":9/g)).toHaveLength(2);
  });

  it("leaves the draft it began with alone", () => {
    at("recipe.bar.steps[0].uneven.amount", 5);
    expect(JSON.stringify(document)).toContain('"amount":0.1');
  });
});

describe("fields that belong to a choice", () => {
  const schema: Schema = {
    $ref: "#/$defs/Joined",
    $defs: {
      Joined: {
        properties: {
          join: { type: "string", enum: ["stacked", "slot"], title: "Joined" },
          depth: { anyOf: [{ type: "number" }, { type: "null" }], title: "Depth", unit: "mm", when: "join=slot", default: null },
          bite: { anyOf: [{ type: "number" }, { type: "null" }], title: "Bite", when: "hammer press", default: null },
          vented: { type: "boolean", title: "Vented", default: true },
        },
        required: ["join"],
      },
    },
  } as Schema;
  const fields = fieldsOf(schema);
  const named = (name: string) => fields.find((f) => f.name === name) as Field;

  it("are found behind a reference at the top", () => {
    expect(fields.map((f) => f.kind)).toEqual(["choice", "number", "number", "switch"]);
  });

  it("show only with the choice they go with", () => {
    expect(showsWith(named("depth"), { join: "slot" }, fields)).toBe(true);
    expect(showsWith(named("depth"), { join: "stacked" }, fields)).toBe(false);
    expect(showsWith(named("depth"), {}, fields)).toBe(false);
    expect(showsWith(named("join"), {}, fields)).toBe(true);
  });

  it("take a bare word for the way of working, which is the hammer when nothing is said", () => {
    expect(showsWith(named("bite"), {}, fields)).toBe(true);
    expect(showsWith(named("bite"), { method: "press" }, fields)).toBe(true);
    expect(showsWith(named("bite"), { method: "roll" }, fields)).toBe(false);
  });

  it("say the ways of the trade in words", () => {
    expect(word("cut_forged")).toBe("cut, forged flat");
    expect(word("side_by_side")).toBe("side by side");
    expect(word("plug")).toBe("plug in a hole");
  });
});
