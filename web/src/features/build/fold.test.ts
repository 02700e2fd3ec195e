import { expect, test } from "vitest";
import cases from "../../../../tests/fixtures/builds/folds.json?raw";
import type { Entry } from "../../api/types";
import { type BuildState, fold, nextOf } from "./fold";

type Case = { entries: Entry[]; state: unknown };
const CASES = JSON.parse(cases) as Case[];
const seconds = (ms: number | null) => (ms === null ? null : ms / 1000);

function told(state: BuildState) {
  const operations = Object.entries(state.operations).map(([name, op]) => [
    name,
    {
      ...op,
      measured: Object.entries(op.measured)
        .map(([q, m]) => [q, null, m?.value, m?.typed])
        .sort(),
      running: Object.fromEntries(Object.entries(op.running).map(([k, r]) => [k, seconds(r.since)])),
      notes: op.notes.map((e) => e.id),
      photos: op.photos.map((e) => e.id),
      faults: op.faults.map((e) => e.id),
      tests: op.tests.map((e) => e.id),
    },
  ]);
  return {
    operations: Object.fromEntries(operations),
    void: [...state.void].sort(),
    graded: (state.graded as Entry | null)?.id ?? null,
    amended: state.amended.map((e) => e.id),
    times: [seconds(state.begun), seconds(state.ended)],
  };
}

test("it comes to what the core says, whatever the order", () => {
  expect(CASES.length).toBeGreaterThan(40);
  for (const { entries, state } of CASES) {
    expect(told(fold(entries))).toEqual(state);
    expect(told(fold([...entries.toReversed(), ...entries]))).toEqual(state);
  }
});

test("what comes next is the first that is neither done nor skipped", () => {
  const at = "2031-05-17T08:00:00+00:00";
  const done: Entry = { id: "a", op: "bar:cut", kind: "done", at };
  const skipped: Entry = { id: "b", op: "bar:weld", kind: "skipped", why: "welded", at };
  const route = ["bar:cut", "bar:weld", "bar:draw"];
  expect(nextOf(fold([done, skipped]), route)).toBe("bar:draw");
  expect(nextOf(fold([]), route)).toBe("bar:cut");
});
