import { describe, expect, it } from "vitest";
import type { Bar, Document, Step } from "../../api/types";
import { barAt, childrenOf, copied, hasBar, intoOf, isOff, named, newId, numberOf, pathOf, stepsOf, upgraded } from "./bars";
import { applyChange, type Change, fresh, reduce } from "./draft";

const document: Document = {
  recipe: {
    format: "varistrat.recipe/1",
    name: "",
    note: "",
    bar: {
      id: "whole",
      note: "",
      start: { id: "block", kind: "solid", steel: "1084", length: 100, width: 40, thickness: 20, note: "" },
      steps: [
        { id: "w", kind: "weld", thickness: 18 },
        { id: "d", kind: "draw", width: 30, thickness: 10 },
        { id: "t", kind: "twist", turns: 5 },
      ] as Step[],
    },
  },
  off: ["d"],
} as Document;

const bar = "whole";
const kinds = (d: Document, of = bar) => stepsOf(barAt(d, of)).map((s) => s.kind);
const ids = (d: Document, of = bar) => stepsOf(barAt(d, of)).map((s) => s.id);
const change = (c: Change, now = 0, press = 0) => ({ type: "change", change: c, now, press }) as const;
const turned = (turns: number) =>
  ({ type: "step", bar, what: "turns", step: { id: "t", kind: "twist", turns } as Step }) as Change;
const counter = () => {
  let n = 0;
  return () => `n${++n}`;
};

describe("changes to the steps", () => {
  it("leave what is said of a step with it wherever it goes", () => {
    const moved = applyChange(document, { type: "move", bar, step: "d", to: 2 });
    expect(kinds(moved)).toEqual(["weld", "twist", "draw"]);
    expect(isOff(moved, "d")).toBe(true);
    const inserted = applyChange(document, { type: "insert", bar, at: 0, step: { id: "n", kind: "trim", start: 1 } as Step });
    expect([ids(inserted), inserted.off]).toEqual([["n", "w", "d", "t"], ["d"]]);
    expect(ids(applyChange(document, { type: "remove", bar, step: "w" }))).toEqual(["d", "t"]);
  });

  it("switch a step off and on", () => {
    const on = applyChange(document, { type: "switch", step: "d" });
    expect(on.off).toEqual([]);
    expect(applyChange(on, { type: "switch", step: "t" }).off).toEqual(["t"]);
  });

  it("copy a step after itself under a name of its own: nothing is said of it yet", () => {
    const two = applyChange(document, { type: "copy", bar, step: "d", as: "d2" });
    expect([kinds(two), ids(two)]).toEqual([
      ["weld", "draw", "draw", "twist"],
      ["w", "d", "d2", "t"],
    ]);
    expect([isOff(two, "d"), isOff(two, "d2")]).toEqual([true, false]);
  });

  it("leave a move off the end, and steps that are not there, alone", () => {
    expect(applyChange(document, { type: "move", bar, step: "t", to: 3 })).toBe(document);
    expect(applyChange(document, { type: "move", bar, step: "gone", to: 0 })).toBe(document);
    expect(applyChange(document, { type: "copy", bar, step: "gone", as: "x" })).toBe(document);
    expect(ids(applyChange(document, { type: "remove", bar, step: "gone" }))).toEqual(["w", "d", "t"]);
    expect(applyChange(document, { type: "label", bar: "gone", note: "x" })).toBe(document);
  });

  it("keep the name of a start whose numbers change", () => {
    const start = { ...document.recipe.bar.start, id: undefined, length: 120 } as Bar["start"];
    expect(applyChange(document, { type: "start", bar, start, what: "length" }).recipe.bar.start.id).toBe("block");
  });
});

describe("undo and redo", () => {
  it("goes back and forth", () => {
    let draft = fresh(document, "A", 1);
    draft = reduce(draft, change({ type: "remove", bar, step: "w" }));
    draft = reduce(draft, change({ type: "rename", name: "B" }));
    expect([kinds(draft.document).length, draft.name, draft.dirty]).toEqual([2, "B", true]);
    draft = reduce(reduce(draft, { type: "undo" }), { type: "undo" });
    expect([kinds(draft.document).length, draft.name]).toEqual([3, "A"]);
    draft = reduce(draft, { type: "redo" });
    expect(kinds(draft.document).length).toBe(2);
    expect(reduce(fresh(document, "A", 1), { type: "undo" }).past).toEqual([]);
  });

  it("goes back over the last hundred changes", () => {
    let draft = fresh(document, "0", 1);
    for (let i = 1; i <= 101; i += 1)
      draft = reduce(draft, { type: "change", change: { type: "rename", name: `${i}` }, now: 10_000 * i, press: 0 });
    expect(draft.past).toHaveLength(100);
    expect(draft.past[0]?.name).toBe("1");
  });

  it("brings back what was said of a step that was taken out", () => {
    const draft = reduce(fresh(document, "A", 1), change({ type: "remove", bar, step: "d" }));
    expect(isOff(reduce(draft, { type: "undo" }).document, "d")).toBe(true);
  });

  it("takes a drag of one field as one change", () => {
    let draft = fresh(document, "A", 1);
    for (let i = 0; i < 5; i++) draft = reduce(draft, change(turned(i), i * 100));
    expect(draft.past.length).toBe(1);
    draft = reduce(draft, change(turned(9), 5000));
    expect(draft.past.length).toBe(2);
  });

  it("takes what happens in one press of the pointer as one change, however slow", () => {
    let draft = fresh(document, "A", 1);
    for (const [turns, now, press] of [
      [1, 0, 1],
      [2, 60_000, 1],
      [3, 60_100, 2],
    ] as const)
      draft = reduce(draft, change(turned(turns), now, press));
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
  const twin = copied({ ...inner, note: "the other" }, counter());
  const joined = applyChange(document, {
    type: "replace",
    bar,
    with: {
      id: "joint",
      start: { id: "js", kind: "assembly", join: "side_by_side", bars: [inner, twin] },
      steps: [],
    } as unknown as Bar,
  });

  it("are found by name, and told by where they stand", () => {
    expect(joined.off).toEqual(["d"]);
    expect([hasBar(joined, "whole"), hasBar(joined, "gone")]).toEqual([true, false]);
    expect([intoOf(joined, "whole"), intoOf(joined, "joint")]).toEqual(["joint", null]);
    expect([numberOf(joined, twin.id ?? ""), numberOf(joined, "joint")]).toEqual(["2", ""]);
    expect(pathOf(joined, twin.id ?? "")).toBe("recipe.bar.start.bars[1]");
    expect(pathOf(joined, "joint")).toBe("recipe.bar");
    expect(barAt(joined, "gone")).toBe(joined.recipe.bar);
  });

  it("change one by one, and leave their neighbours alone", () => {
    const moved = applyChange(joined, { type: "remove", bar: "whole", step: "w" });
    expect(kinds(moved, "whole")).toEqual(["draw", "twist"]);
    expect(kinds(moved, twin.id)).toEqual(["weld", "draw", "twist"]);
  });

  it("change places, and what is said of their steps goes with them", () => {
    const swapped = applyChange(joined, { type: "bars", bar: "joint", bars: childrenOf(joined.recipe.bar).toReversed() });
    expect(numberOf(swapped, "whole")).toBe("2");
    expect(isOff(swapped, "d")).toBe(true);
  });

  it("are copied with names of their own all the way down", () => {
    const again = copied(joined.recipe.bar, counter());
    const all = (b: Bar): (string | undefined)[] => [
      b.id,
      b.start.id,
      ...stepsOf(b).map((s) => s.id),
      ...childrenOf(b).flatMap(all),
    ];
    const names = [...all(again), ...all(joined.recipe.bar)];
    expect(names.filter((n) => !n)).toEqual([]);
    expect(new Set(all(again)).size).toBe(all(again).length);
    expect(newId()).toMatch(/^[a-z0-9]{8}$/);
    expect(newId()).not.toBe(newId());
  });

  it("are named where the server left it to us", () => {
    const made = named({ ...inner, id: undefined, steps: [{ kind: "weld" }, ...stepsOf(inner)] } as unknown as Bar, counter());
    expect([made.id, made.start.id, stepsOf(made).map((s) => s.id)]).toEqual(["n1", "block", ["n2", "w", "d", "t"]]);
  });
});

describe("drafts from before parts had names", () => {
  const bare = (b: Bar): Bar =>
    ({
      ...b,
      id: undefined,
      start: { ...b.start, id: undefined, ...(childrenOf(b).length ? { bars: childrenOf(b).map(bare) } : {}) },
      steps: stepsOf(b).map((s) => ({ ...s, id: undefined })),
    }) as Bar;
  const old = (more: object): Document =>
    ({
      recipe: {
        bar: {
          start: { kind: "assembly", bars: [bare(document.recipe.bar), bare(document.recipe.bar)] },
          steps: [{ kind: "weld" }],
        },
      },
      ...more,
    }) as unknown as Document;

  it("keep what was switched off and heated", () => {
    const now = upgraded(
      old({
        off: [[1, 0], 0, [5, 5]],
        fire: {
          gas: "rich",
          steps: [
            { at: [0, 2], heats: 2 },
            { at: [9], heats: 1 },
          ],
        },
      }),
    );
    const [first, second] = childrenOf(now.recipe.bar);
    if (!first || !second) throw new Error("two bars");
    expect(now.off).toEqual([stepsOf(second)[0]?.id, stepsOf(now.recipe.bar)[0]?.id]);
    expect(now.fire).toEqual({ gas: "rich", steps: [{ heats: 2, step: stepsOf(first)[2]?.id }] });
  });

  it("are left as they are once they have them", () => {
    expect(upgraded(document)).toBe(document);
  });
});
