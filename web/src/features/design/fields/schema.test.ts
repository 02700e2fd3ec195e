import { describe, expect, it } from "vitest";
import { fieldsOf, type Schema, word } from "./schema";

/** As the models publish them: a required number, an optional one, a choice, a group, lists. */
const schema: Schema = {
  $defs: {
    Sheet: {
      type: "object",
      required: ["steel", "thickness"],
      properties: {
        steel: { type: "string", format: "steel", title: "Steel" },
        thickness: { type: "number", title: "Thickness", unit: "mm" },
      },
    },
    Zone: { type: "object", required: ["from"], properties: { from: { type: "number", title: "From", unit: "mm" } } },
  },
  required: ["thickness", "pieces"],
  properties: {
    kind: { const: "restack", type: "string" },
    id: { type: "string", default: "", title: "Id", hidden: true },
    scale: { type: "number", title: "Scale lost", unit: "mm", default: 0, quiet: true },
    thickness: { type: "number", title: "Thickness after", unit: "mm", description: "at the end", maximum: 20000 },
    pieces: { type: "integer", title: "Pieces" },
    width: { anyOf: [{ type: "number", maximum: 500 }, { type: "null" }], default: null, title: "Width after", unit: "mm" },
    method: { enum: ["hammer", "press", "roll"], type: "string", default: "hammer", title: "Under" },
    bite: { anyOf: [{ type: "number" }, { type: "null" }], default: null, title: "Bite", unit: "mm", when: "hammer press" },
    sheet: { anyOf: [{ $ref: "#/$defs/Sheet" }, { type: "null" }], default: null, title: "Sheet" },
    lay: { type: "array", items: { enum: ["as_cut", "rolled"], type: "string" }, default: ["as_cut"], title: "Laid" },
    zones: { anyOf: [{ type: "array", items: { $ref: "#/$defs/Zone" } }, { type: "null" }], default: null, title: "Zones" },
    note: { type: "string", title: "Note", default: "", quiet: true },
  },
};

const fields = Object.fromEntries(fieldsOf(schema).map((f) => [f.name, f]));

describe("forms from schemas", () => {
  it("leaves the kind and ids out and keeps the order of the model", () => {
    expect(fieldsOf(schema).map((f) => f.name)).toEqual(
      Object.keys(schema.properties ?? {}).filter((n) => !["kind", "id"].includes(n)),
    );
  });

  it("knows what must be given and what may be left empty", () => {
    expect(fields.thickness).toMatchObject({
      kind: "number",
      whole: false,
      optional: false,
      unit: "mm",
      hint: "at the end",
      max: 20000,
    });
    expect(fields.pieces).toMatchObject({ kind: "number", whole: true, optional: false });
    expect(fields.width).toMatchObject({ kind: "number", optional: true, max: 500, label: "Width after" });
    expect(fields.scale).toMatchObject({ optional: false, fallback: 0, quiet: true });
  });

  it("tells choices, groups, steels, lists and notes apart", () => {
    expect(fields.method).toMatchObject({ kind: "choice", options: ["hammer", "press", "roll"], fallback: "hammer" });
    expect(fields.lay).toMatchObject({ kind: "list", item: "choice", options: ["as_cut", "rolled"] });
    expect(fields.zones).toMatchObject({ kind: "list", item: "group", optional: true });
    expect(fields.note).toMatchObject({ kind: "text", quiet: true });
    const sheet = fields.sheet;
    if (sheet?.kind !== "group") throw new Error("the sheet is a group");
    expect(sheet.fields.map((f) => f.kind)).toEqual(["steel", "number"]);
    expect(sheet.fields.every((f) => !f.optional)).toBe(true);
  });

  it("shows a field only under the methods it belongs to", () => {
    expect(fields.bite?.when).toEqual(["hammer", "press"]);
    expect(fields.width?.when).toEqual([]);
  });

  it("puts keys into words", () => {
    expect(word("end_for_end")).toBe("end for end");
    expect(word("some_new_lay")).toBe("some new lay");
  });
});
