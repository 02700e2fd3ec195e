import { describe, expect, it } from "vitest";
import type { Blade } from "../../../api/types";
import { ofKind } from "../blade/GrindFields";
import { applyChange, fresh, reduce } from "../draft";
import { anyError, ERRORS, mean, single } from "./errors";

const BLADE: Blade = {
  outline: { shape: "drop_point", length: 150, height: 30, point: 0.4 },
  spine_thickness: { heel: 4, mid: 3.5, tip: 2 },
  grind: { right: { kind: "flat", edge_thickness: 0.4 }, left: { kind: "flat", edge_thickness: 0.4 } },
};

const DOCUMENT = {
  recipe: { bar: { start: { kind: "solid", steel: "1084", length: 100, width: 30, thickness: 5 }, steps: [] } },
  blade: BLADE,
} as unknown as Parameters<typeof applyChange>[0];

describe("errors of a blade", () => {
  it("are nil until they are said", () => {
    expect(anyError(BLADE)).toBe(false);
    for (const { name } of ERRORS) expect(single(BLADE, name)).toBe(0);
  });

  it("given along the blade are no single number, but have a mean", () => {
    const blade: Blade = {
      ...BLADE,
      errors: {
        core_offset: [
          [0, 0.03],
          [150, 0.01],
        ],
      },
    };
    expect(single(blade, "core_offset")).toBeNull();
    expect(mean(blade, "core_offset")).toBeCloseTo(0.02);
    expect(anyError(blade)).toBe(true);
  });

  it("have a slider that steps evenly from end to end through nought", () => {
    for (const e of ERRORS) {
      const steps = e.reach / e.step;
      expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
    }
  });
});

describe("a grind of another kind", () => {
  const flat = { kind: "flat" as const, edge_thickness: 0.4, height: 22 };
  it("brings what it needs", () => {
    expect(ofKind(flat, "hollow")).toMatchObject({ kind: "hollow", height: 22, wheel_radius: 150 });
    const rounded = ofKind(flat, "flat_convex");
    expect(rounded.flat_edge_thickness).toBeGreaterThanOrEqual(flat.edge_thickness);
    expect(rounded.band).toBeGreaterThan(0);
  });
  it("drops what the other had", () => {
    expect(ofKind({ ...flat, kind: "hollow", wheel_radius: 90 }, "flat")).toEqual({
      kind: "flat",
      edge_thickness: 0.4,
      height: 22,
    });
  });
  it("gives a hollow that went up to the spine a height of its own", () => {
    expect(ofKind({ kind: "flat", edge_thickness: 0.4 }, "hollow").height).toBeGreaterThan(0);
  });
});

describe("what belongs to the making", () => {
  it("is kept beside recipe and blade", () => {
    const next = applyChange(DOCUMENT, { type: "plan", plan: { aim: { school: "bold" } }, what: "aim.school" });
    expect(next.aim).toEqual({ school: "bold" });
    expect(next.blade).toBe(BLADE);
  });

  it("is undone, one field at a time", () => {
    let draft = fresh(DOCUMENT, "Peeler", 1);
    const change = (heights: number, now: number) => {
      draft = reduce(draft, {
        type: "change",
        change: { type: "plan", plan: { readings: { within: heights } }, what: "readings.within" },
        now,
        press: 0,
      });
    };
    change(0.5, 1000);
    change(0.6, 1100);
    change(0.7, 5000);
    expect(draft.document.readings?.within).toBe(0.7);
    draft = reduce(draft, { type: "undo" });
    expect(draft.document.readings?.within).toBe(0.6);
    draft = reduce(draft, { type: "undo" });
    expect(draft.document.readings).toBeUndefined();
    draft = reduce(draft, { type: "redo" });
    expect(draft.document.readings?.within).toBe(0.6);
  });
});
