import { describe, expect, it } from "vitest";
import type { Document, Step } from "../../api/types";
import { barAt, childrenOf, offIn, pathOf, stepsOf, upgraded } from "./bars";
import { applyChange, type Change, fresh, reduce } from "./draft";

const document: Document = {
  recipe: {
    format: "varistrat.recipe/1",
    name: "",
    note: "",
    bar: {
      note: "",
      start: { kind: "solid", steel: "1084", length: 100, width: 40, thickness: 20, note: "" },
      steps: [
        { kind: "weld", thickness: 18 },
        { kind: "draw", width: 30, thickness: 10 },
        { kind: "twist", turns: 5 },
      ] as Step[],
    },
  },
  off: [[1]],
} as Document;

const kinds = (d: Document, bar: number[] = []) => stepsOf(barAt(d, bar)).map((s) => s.kind);
const bar: number[] = [];
const change = (c: Change, now = 0, press = 0) => ({ type: "change", change: c, now, press }) as const;

describe("changes to the steps", () => {
  it("keeps a switched-off step switched off wherever it goes", () => {
    const moved = applyChange(document, { type: "move", bar, from: 1, to: 2 });
    expect(kinds(moved)).toEqual(["weld", "twist", "draw"]);
    expect(moved.off).toEqual([[2]]);
    const inserted = applyChange(document, { type: "insert", bar, at: 0, step: { kind: "trim", start: 1 } as Step });
    expect(inserted.off).toEqual([[2]]);
    expect(applyChange(document, { type: "remove", bar, index: 0 }).off).toEqual([[0]]);
    expect(applyChange(document, { type: "remove", bar, index: 1 }).off).toEqual([]);
    expect(applyChange(document, { type: "switch", bar, index: 1 }).off).toEqual([]);
  });

  it("copies a step after itself, and leaves a move off the end alone", () => {
    expect(kinds(applyChange(document, { type: "copy", bar, index: 2 }))).toEqual(["weld", "draw", "twist", "twist"]);
    expect(applyChange(document, { type: "move", bar, from: 2, to: 3 })).toBe(document);
  });
});

describe("undo and redo", () => {
  it("goes back and forth", () => {
    let draft = fresh(document, "A", 1);
    draft = reduce(draft, change({ type: "remove", bar, index: 0 }));
    draft = reduce(draft, change({ type: "rename", name: "B" }));
    expect([kinds(draft.document).length, draft.name, draft.dirty]).toEqual([2, "B", true]);
    draft = reduce(reduce(draft, { type: "undo" }), { type: "undo" });
    expect([kinds(draft.document).length, draft.name]).toEqual([3, "A"]);
    draft = reduce(draft, { type: "redo" });
    expect(kinds(draft.document).length).toBe(2);
    expect(reduce(fresh(document, "A", 1), { type: "undo" }).past).toEqual([]);
  });

  it("takes a drag of one field as one change", () => {
    let draft = fresh(document, "A", 1);
    for (let i = 0; i < 5; i++) {
      draft = reduce(
        draft,
        change({ type: "step", bar, index: 2, what: "turns", step: { kind: "twist", turns: i } as Step }, i * 100),
      );
    }
    expect(draft.past.length).toBe(1);
    draft = reduce(
      draft,
      change({ type: "step", bar, index: 2, what: "turns", step: { kind: "twist", turns: 9 } as Step }, 5000),
    );
    expect(draft.past.length).toBe(2);
  });

  it("takes what happens in one press of the pointer as one change, however slow", () => {
    const turned = (turns: number, now: number, press: number) =>
      change({ type: "step", bar, index: 2, what: "turns", step: { kind: "twist", turns } as Step }, now, press);
    let draft = fresh(document, "A", 1);
    for (const [turns, now, press] of [
      [1, 0, 1],
      [2, 60_000, 1],
      [3, 60_100, 2],
    ] as const)
      draft = reduce(draft, turned(turns, now, press));
    expect(draft.past.length).toBe(2);
    draft = reduce(draft, { type: "undo" });
    expect(stepsOf(draft.document.recipe.bar)[2]).toMatchObject({ turns: 2 });
  });

  it("stays dirty when typing went on during a save", () => {
    let draft = reduce(fresh(document, "A", 1), change({ type: "rename", name: "B" }));
    const sent = draft;
    draft = reduce(draft, change({ type: "rename", name: "Bo" }));
    draft = reduce(draft, { type: "saved", document: sent.document, name: sent.name, base: 2 });
    expect([draft.base, draft.dirty]).toEqual([2, true]);
    draft = reduce(draft, { type: "saved", document: draft.document, name: draft.name, base: 3 });
    expect(draft.dirty).toBe(false);
  });
});

describe("bars inside bars", () => {
  const inner = document.recipe.bar;
  const joined = applyChange(document, {
    type: "replace",
    bar: [],
    with: {
      start: { kind: "assembly", join: "side_by_side", bars: [inner, { ...inner, note: "the other" }] },
      steps: [],
    } as never,
  });

  it("takes what was switched off along into the joint", () => {
    expect(joined.off).toEqual([[0, 1]]);
    expect(offIn(joined, [0])).toEqual(new Set([1]));
    expect(pathOf([0, 1])).toBe("recipe.bar.start.bars[0].start.bars[1]");
  });

  it("changes one bar and leaves its neighbours alone", () => {
    const moved = applyChange(joined, { type: "remove", bar: [0], index: 0 });
    expect(kinds(moved, [0])).toEqual(["draw", "twist"]);
    expect(moved.off).toEqual([[0, 0]]);
    expect(kinds(moved, [1])).toEqual(["weld", "draw", "twist"]);
  });

  it("lets what is switched off follow bars that change places, and go with one that is taken out", () => {
    const [a, b] = childrenOf(joined.recipe.bar);
    if (!a || !b) throw new Error("two bars");
    const swapped = applyChange(joined, { type: "bars", bar: [], bars: [b, a], order: [1, 0] });
    expect(swapped.off).toEqual([[1, 1]]);
    expect(applyChange(joined, { type: "bars", bar: [], bars: [b], order: [1] }).off).toEqual([]);
    expect(applyChange(joined, { type: "bars", bar: [], bars: [b, a, b], order: [1, 0, null] }).off).toEqual([[1, 1]]);
  });

  it("reads drafts from before bars were nested", () => {
    expect(upgraded({ ...document, off: [1, 2] as never }).off).toEqual([[1], [2]]);
  });
});

describe("what is said of the heats", () => {
  const said = (d: Document) => d.fire?.steps?.map((s) => [s.at, s.heats]);
  const hot = {
    ...document,
    fire: {
      steps: [
        { at: [0], heats: 3 },
        { at: [2], heats: 5 },
      ],
    },
  } as Document;

  it("goes along with its step", () => {
    expect(said(applyChange(hot, { type: "move", bar, from: 0, to: 2 }))).toEqual([
      [[2], 3],
      [[1], 5],
    ]);
    expect(said(applyChange(hot, { type: "remove", bar, index: 0 }))).toEqual([[[1], 5]]);
    expect(said(applyChange(hot, { type: "insert", bar, at: 1, step: { kind: "trim", start: 1 } as Step }))).toEqual([
      [[0], 3],
      [[3], 5],
    ]);
  });

  it("is not copied: a copied step begins with what is worked out", () => {
    expect(said(applyChange(hot, { type: "copy", bar, index: 0 }))).toEqual([
      [[0], 3],
      [[3], 5],
    ]);
  });

  it("stays with the bar it belongs to when others are put in another order", () => {
    const joined = {
      recipe: { bar: { start: { kind: "assembly", bars: [document.recipe.bar, document.recipe.bar] }, steps: [] } },
      off: [[1, 0]],
      fire: {
        steps: [
          { at: [0, 2], heats: 2 },
          { at: [1, 1], heats: 4 },
        ],
      },
    } as unknown as Document;
    const turned = applyChange(joined, { type: "bars", bar, bars: childrenOf(joined.recipe.bar).toReversed(), order: [1, 0] });
    expect(said(turned)).toEqual([
      [[1, 2], 2],
      [[0, 1], 4],
    ]);
    expect(turned.off).toEqual([[0, 0]]);
  });
});
