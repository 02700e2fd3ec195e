import { afterEach, beforeEach, expect, test, vi } from "vitest";

const post =
  vi.fn<(path: string, body: object, signal: AbortSignal, name: string) => Promise<{ json: () => Promise<unknown> }>>();
const fetchPicture = vi.fn<(path: string, body: object, name: string, signal: AbortSignal) => Promise<unknown>>();
vi.mock("./client", () => ({
  post: (...a: Parameters<typeof post>) => post(...a),
  fetchPicture: (...a: Parameters<typeof fetchPicture>) => fetchPicture(...a),
}));
const { fetchFace } = await import("./faces");

const FACE = { px: 400, quality: "preview", document: { a: 1 } };
const signal = () => new AbortController().signal;

beforeEach(() => {
  post.mockResolvedValue({ json: async () => ({ right: "data:r", left: "data:l" }) });
  fetchPicture.mockImplementation(async (_, body) => `alone ${(body as { side: string }).side}`);
});
afterEach(() => {
  post.mockReset();
  fetchPicture.mockReset();
});

test("both faces asked for in one breath are one question, each with its own", async () => {
  const both = await Promise.all([
    fetchFace({ ...FACE, side: "right" } as never, "r", signal()),
    fetchFace({ ...FACE, side: "left" } as never, "l", signal()),
  ]);
  expect(both).toEqual(["data:r", "data:l"]);
  expect(post).toHaveBeenCalledTimes(1);
  expect(post.mock.calls[0]?.[1]).toEqual(FACE);
  expect(post.mock.calls[0]?.[3]).toBe("r+l");
  expect(fetchPicture).not.toHaveBeenCalled();
});

test("unlike ones, and one with more to it, go by themselves", async () => {
  const found = await Promise.all([
    fetchFace({ ...FACE, side: "right" } as never, "r", signal()),
    fetchFace({ ...FACE, px: 500, side: "left" } as never, "l", signal()),
    fetchFace({ ...FACE, side: "right", height: 3 } as never, "h", signal()),
    fetchFace({ ...FACE, side: "left", height: 3 } as never, "h", signal()),
  ]);
  expect(found).toEqual(["alone right", "alone left", "alone right", "alone left"]);
  expect(post).not.toHaveBeenCalled();
});

test("the question is given up only when nobody wants either", async () => {
  const [one, other] = [new AbortController(), new AbortController()];
  let given: AbortSignal | undefined;
  post.mockImplementation((_, __, s) => {
    given = s;
    return new Promise(() => undefined);
  });
  void fetchFace({ ...FACE, side: "right" } as never, "r", one.signal).catch(() => undefined);
  void fetchFace({ ...FACE, side: "left" } as never, "l", other.signal).catch(() => undefined);
  await Promise.resolve();
  one.abort();
  expect(given?.aborted).toBe(false);
  other.abort();
  expect(given?.aborted).toBe(true);
});

test("what goes wrong is told to both", async () => {
  post.mockRejectedValue(new Error("full"));
  const both = ["right", "left"].map((side) => fetchFace({ ...FACE, side } as never, side, signal()));
  const found = await Promise.allSettled(both);
  expect(found.map((f) => f.status)).toEqual(["rejected", "rejected"]);
});
