import { expect, test } from "vitest";
import type { Bar, Document } from "../../api/types";
import {
  barAt,
  childrenOf,
  copied,
  hasBar,
  intoOf,
  isOff,
  named,
  newId,
  numberOf,
  pathOf,
  placeOf,
  rootOf,
  stepsOf,
  upgraded,
  withBar,
} from "./bars";

const pile = (id: string, ...steps: string[]) =>
  ({ id, start: { kind: "stack", id: `${id}s` }, steps: steps.map((s) => ({ kind: "draw", id: s })) }) as unknown as Bar;
const joined = (id: string, bars: Bar[], ...steps: string[]) =>
  ({
    id,
    start: { kind: "assembly", id: `${id}s`, bars },
    steps: steps.map((s) => ({ kind: "weld", id: s })),
  }) as unknown as Bar;
const ROOT = joined("w", [pile("a", "a1", "a2"), joined("b", [pile("c", "c1")], "b1")], "w1");
const DOCUMENT = { recipe: { bar: ROOT }, off: ["b1"] } as unknown as Document;

test("a bar is found by its id wherever it stands", () => {
  expect([rootOf(DOCUMENT), placeOf(DOCUMENT, "w"), placeOf(DOCUMENT, "c"), placeOf(DOCUMENT, "x")]).toEqual([
    "w",
    [],
    [1, 0],
    null,
  ]);
  expect([hasBar(DOCUMENT, "b"), hasBar(DOCUMENT, "x")]).toEqual([true, false]);
  expect(barAt(DOCUMENT, "c").id).toBe("c");
  // one that is not there any more: the whole
  expect(barAt(DOCUMENT, "x").id).toBe("w");
});

test("what it goes into, how it is called, how problems name it", () => {
  expect(["w", "a", "c", "x"].map((b) => intoOf(DOCUMENT, b))).toEqual([null, "w", "b", null]);
  expect(["w", "b", "c"].map((b) => numberOf(DOCUMENT, b))).toEqual(["", "2", "2.1"]);
  expect(pathOf(DOCUMENT, "c")).toBe("recipe.bar.start.bars[1].start.bars[0]");
  expect(pathOf(DOCUMENT, "w")).toBe("recipe.bar");
});

test("a changed bar leaves every other as it was, the very same", () => {
  const next = withBar(DOCUMENT, "c", (bar) => ({ ...bar, steps: [] }));
  expect(stepsOf(barAt(next, "c"))).toEqual([]);
  expect(stepsOf(barAt(DOCUMENT, "c"))).toHaveLength(1);
  expect(barAt(next, "a")).toBe(barAt(DOCUMENT, "a"));
  expect(withBar(DOCUMENT, "x", () => pile("y"))).toBe(DOCUMENT);
});

test("switched off by its id", () => {
  expect([isOff(DOCUMENT, "b1"), isOff(DOCUMENT, "w1"), isOff(DOCUMENT, undefined)]).toEqual([true, false, false]);
});

const idsOf = (bar: Bar): string[] => [
  bar.id ?? "",
  bar.start.id ?? "",
  ...stepsOf(bar).map((s) => s.id ?? ""),
  ...childrenOf(bar).flatMap(idsOf),
];

test("a copy has a name of its own for every part, and the original keeps its own", () => {
  const again = copied(ROOT);
  const [old, fresh] = [idsOf(ROOT), idsOf(again)];
  expect(fresh).toHaveLength(old.length);
  expect(new Set([...old, ...fresh]).size).toBe(2 * old.length);
});

test("only what has no name is given one", () => {
  let n = 0;
  const bar = named({ ...ROOT, id: "", steps: [{ kind: "weld" }] } as unknown as Bar, () => `n${++n}`);
  expect([bar.id, stepsOf(bar)[0]?.id, childrenOf(bar)[0]?.id]).toEqual(["n1", "n2", "a"]);
  expect(new Set(Array.from({ length: 200 }, () => newId())).size).toBe(200);
});

test("drafts that told steps by where they stand are read by their names", () => {
  const bare = (bar: Bar): Bar => {
    const { id: _, ...rest } = bar as Bar & { id?: string };
    const { id: __, ...start } = rest.start as { id?: string } & Bar["start"];
    const bars = childrenOf(bar).map(bare);
    return {
      ...rest,
      start: bars.length ? { ...start, bars } : start,
      steps: stepsOf(bar).map(({ id: ___, ...s }) => s),
    } as unknown as Bar;
  };
  const old = {
    recipe: { bar: bare(ROOT) },
    off: [[1, 0], 0, [7, 7]],
    fire: { steps: [{ at: [0, 1], heats: 3 }, { at: 9 }] },
  } as unknown as Document;
  const next = upgraded(old);
  const b = childrenOf(next.recipe.bar)[1] as Bar;
  expect(next.off).toEqual([stepsOf(b)[0]?.id, stepsOf(next.recipe.bar)[0]?.id]);
  expect(next.fire?.steps).toEqual([{ heats: 3, step: stepsOf(childrenOf(next.recipe.bar)[0] as Bar)[1]?.id }]);
  expect(upgraded(DOCUMENT)).toBe(DOCUMENT);
});
