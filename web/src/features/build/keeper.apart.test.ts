import "fake-indexeddb/auto";
import { beforeEach, expect, test, vi } from "vitest";
import type { Build, BuildRecord, BuildTold, Entry } from "../../api/types";

type Kept = { kept: string[]; refused: { id: string; wrong: string; cure: string }[] };
/** A server of one build. */
const server = vi.hoisted(() => ({
  away: false,
  log: [] as unknown[],
  refuse: new Set<string>(),
  /** It writes down, and the answer is lost. */
  deaf: false,
  asked: 0,
}));

vi.mock("../../api/client", () => {
  class Unreachable extends Error {}
  class Problem extends Error {
    constructor(
      readonly status: number,
      readonly body: { code: string; problems: { wrong: string; cure: string }[] },
    ) {
      super("refused");
    }
  }
  const answer = async <T>(make: () => T): Promise<T> => {
    server.asked += 1;
    if (server.away) throw new Unreachable();
    return make();
  };
  const records = () => (server.log as Entry[]).map((entry, i) => ({ row: i + 1, by: "smith", came: entry.at, entry }));
  const api = {
    GET: (path: string, { params }: { params: { query?: { after: number } } }) =>
      answer(() => {
        if (path.endsWith("/entries")) return records().filter((r) => r.row > (params.query?.after ?? 0));
        if (path.endsWith("/told")) return { operations: [] } as unknown as BuildTold;
        return { id: 7, plan: 1 } as unknown as Build;
      }),
    POST: (_: string, { body }: { body: { entries: Entry[] } }) =>
      answer(() => {
        const out: Kept = { kept: [], refused: [] };
        for (const e of body.entries) {
          if (server.refuse.has(e.kind)) out.refused.push({ id: e.id, wrong: "no", cure: "mend it" });
          else {
            if (!(server.log as Entry[]).some((x) => x.id === e.id)) server.log.push(e);
            out.kept.push(e.id);
          }
        }
        if (server.deaf) throw new Unreachable();
        return out;
      }),
  };
  const post = (path: string) => answer(() => server.log.push({ id: path, kind: "the photo itself" }));
  return { api, ask: (x: Promise<unknown>) => x, post, Problem, Unreachable };
});

const { Keeper, nowHere, sendAll } = await import("./keeper");
const { closeShelf, waitingOf } = await import("./shelf");
const BUILD = 7;
let user = 0;
const keeper = (shop = 1) => new Keeper(`smith ${user}`, shop, BUILD);
const kinds = () => (server.log as Entry[]).map((e) => e.kind);
const note = (text: string) => ({ op: "bar:weld", kind: "note", text }) as const;

beforeEach(async () => {
  Object.assign(server, { away: false, log: [], refuse: new Set(), deaf: false, asked: 0 });
  await closeShelf();
  user += 1;
});

test("written where there is no network, sent once there is", async () => {
  server.away = true;
  const k = keeper();
  await k.open();
  expect(k.snapshot().link).toBe("away");
  await k.write([note("a")]);
  await k.write([{ op: "bar:weld", kind: "done" }]);
  expect(k.snapshot().waiting).toHaveLength(2);
  expect(k.snapshot().state.operations["bar:weld"]?.standing).toBe("done");
  server.away = false;
  await k.sync();
  expect(kinds()).toEqual(["note", "done"]);
  expect(k.snapshot()).toMatchObject({ link: "here", waiting: [] });
  expect(k.snapshot().records.map((r: BuildRecord) => r.row)).toEqual([1, 2]);
});

test("the page that dies loses nothing: the next one sends it", async () => {
  server.away = true;
  await keeper().write([note("a"), note("b")]);
  await closeShelf();
  server.away = false;
  expect(await sendAll(`smith ${user}`, 1)).toBe(0);
  expect((server.log as { text: string }[]).map((e) => e.text)).toEqual(["a", "b"]);
});

test("an answer that was lost makes nothing twice", async () => {
  const k = keeper();
  await k.open();
  server.deaf = true;
  await k.write([note("a")]);
  await k.sync();
  expect(k.snapshot().waiting).toHaveLength(1);
  server.deaf = false;
  await k.sync();
  expect(kinds()).toEqual(["note"]);
  expect(k.snapshot().waiting).toEqual([]);
  expect(k.snapshot().records).toHaveLength(1);
});

test("what the server would not have stays, with the reason, and keeps nothing else back", async () => {
  server.refuse.add("fault");
  const k = keeper();
  await k.open();
  await k.write([{ op: "bar:weld", kind: "fault", text: "x" }, note("b")]);
  await k.sync();
  expect(kinds()).toEqual(["note"]);
  const [left] = await waitingOf(`smith ${user}`);
  expect(left?.refused).toEqual({ wrong: "no", cure: "mend it" });
  expect(k.snapshot().state.operations["bar:weld"]?.faults).toEqual([]);
  const before = server.asked;
  await k.sync();
  // it is not sent for ever
  expect(server.asked - before).toBe(2);
  await k.drop(left?.id ?? "");
  expect(await waitingOf(`smith ${user}`)).toEqual([]);
});

test("what was written in another shop waits until one is back there", async () => {
  server.away = true;
  await keeper(1).write([note("a")]);
  server.away = false;
  expect(await sendAll(`smith ${user}`, 2)).toBe(1);
  expect(server.log).toEqual([]);
  expect(await sendAll(`smith ${user}`, 1)).toBe(0);
});

test("a photo goes before the entry that names it", async () => {
  const k = keeper();
  await k.open();
  await k.photograph("bar:weld", new Blob(["x"]), "the weld");
  await k.sync();
  expect(kinds()).toEqual(["the photo itself", "photo"]);
});

test("hundreds go in turns", async () => {
  server.away = true;
  const k = keeper();
  await k.write(Array.from({ length: 1201 }, (_, i) => note(String(i))));
  server.away = false;
  await k.sync();
  expect((server.log as { text: string }[]).map((e) => Number(e.text))).toEqual(Array.from({ length: 1201 }, (_, i) => i));
});

test("the time of day with its zone", () => {
  expect(nowHere(new Date(Date.UTC(2031, 4, 17, 8, 5, 6, 7)))).toMatch(/^2031-05-1[678]T\d\d:\d\d:06\.007[+-]\d\d:\d\d$/);
});
