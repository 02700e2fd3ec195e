import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { ask, lane, lines, Problem, post, Unreachable, whatWentWrong } from "./client";

const answer = (status: number, body: unknown) =>
  new Response(typeof body === "string" ? body : JSON.stringify(body), {
    status,
    headers: { "Content-Type": "application/json" },
  });
const fetched = vi.fn<(path: string, init: RequestInit) => Promise<Response>>();

beforeEach(() => {
  vi.stubGlobal("fetch", fetched);
  vi.stubGlobal("document", { cookie: "a=1; csrftoken=tok3n; b=2", documentElement: { dataset: { shop: "9" } } });
});
afterEach(() => {
  vi.unstubAllGlobals();
  fetched.mockReset();
});

test("what is posted carries the token, the shop, and its lane where it has one", async () => {
  fetched.mockResolvedValue(answer(200, {}));
  await post("/api/x", { a: 1 }, undefined, "faces");
  const headers = fetched.mock.calls[0]?.[1].headers as Record<string, string>;
  expect(headers).toMatchObject({ "X-CSRFToken": "tok3n", "X-Shop": "9", "Content-Type": "application/json" });
  expect(headers["X-Lane"]).toMatch(/^[0-9a-z]+-faces;\d+$/);
  await post("/api/x", new FormData());
  expect(fetched.mock.calls[1]?.[1].headers).not.toHaveProperty("Content-Type");
});

test("behind https the token has the name that only this host can set", async () => {
  fetched.mockResolvedValue(answer(200, {}));
  vi.stubGlobal("document", { cookie: "x=1; __Host-csrftoken=s3cret", documentElement: { dataset: {} } });
  await post("/api/x", {});
  expect(fetched.mock.calls[0]?.[1].headers).toMatchObject({ "X-CSRFToken": "s3cret" });
});

test("one lane's later question is told by the clock", async () => {
  const at = () => Number(lane("a")["X-Lane"]?.split(";")[1]);
  const first = at();
  await vi.waitFor(() => expect(at()).toBeGreaterThan(first), { interval: 1 });
});

test("a no with its reasons, one without, and nobody there are three things", async () => {
  const problems = [{ path: "blade", wrong: "it is too thin", cure: "leave more" }];
  fetched.mockResolvedValueOnce(answer(422, { title: "It cannot be", code: "invalid", problems }));
  const no = await post("/x", {}).catch((e: unknown) => e);
  expect([no instanceof Problem, (no as Problem).status, whatWentWrong(no)]).toEqual([true, 422, "It is too thin; leave more."]);
  fetched.mockResolvedValueOnce(answer(500, "<html>"));
  const bare = await post("/x", {}).catch((e: unknown) => e);
  expect([(bare as Problem).body.code, whatWentWrong(bare)]).toEqual([
    "failed",
    "The server failed (500). Nothing was lost; try again.",
  ]);
  for (const status of [502, 503, 504]) {
    fetched.mockResolvedValueOnce(answer(status, {}));
    await expect(post("/x", {})).rejects.toBeInstanceOf(Unreachable);
  }
  // what our own server says of itself is shown, and tried again all the same
  fetched.mockResolvedValueOnce(answer(503, { code: "database", title: "The disk is full. Your work is kept in this browser." }));
  const full = await post("/x", {}).catch((e: unknown) => e);
  expect([full instanceof Unreachable, whatWentWrong(full)]).toEqual([
    true,
    "The disk is full. Your work is kept in this browser.",
  ]);
  fetched.mockResolvedValueOnce(answer(502, "<html>a proxy's</html>"));
  expect(whatWentWrong(await post("/x", {}).catch((e: unknown) => e))).toBe("The server cannot be reached.");
  fetched.mockRejectedValueOnce(new TypeError("network"));
  await expect(post("/x", {})).rejects.toBeInstanceOf(Unreachable);
  expect(whatWentWrong("odd")).toBe("odd");
});

test("a question that was given up is not the server's fault", async () => {
  const gone = new DOMException("gone", "AbortError");
  fetched.mockRejectedValueOnce(gone);
  await expect(post("/x", {})).rejects.toBe(gone);
  await expect(ask(Promise.reject(gone))).rejects.toBe(gone);
});

test("an answer is unwrapped, or thrown", async () => {
  const ok = { data: { a: 1 }, response: answer(200, {}) };
  await expect(ask(Promise.resolve(ok))).resolves.toEqual({ a: 1 });
  const no = { error: { title: "Not here", code: "absent" }, response: answer(404, {}) };
  await expect(ask(Promise.resolve(no))).rejects.toMatchObject({ status: 404, message: "Not here" });
  await expect(ask(Promise.reject(new TypeError("network")))).rejects.toBeInstanceOf(Unreachable);
});

test("lines come as they come, cut wherever the network cuts them", async () => {
  const parts = ['{"n":1}\n{"n"', ":2}\n", '{"n":3}\n{"half'];
  const body = new ReadableStream<Uint8Array>({
    start(c) {
      for (const p of parts) c.enqueue(new TextEncoder().encode(p));
      c.close();
    },
  });
  fetched.mockResolvedValueOnce(new Response(body));
  const found: unknown[] = [];
  for await (const line of lines("/x", {}, new AbortController().signal)) found.push(line);
  expect(found).toEqual([{ n: 1 }, { n: 2 }, { n: 3 }]);
});
