import { afterEach, beforeEach, expect, inject, test, vi } from "vitest";

type Port = typeof import("./port");
let port: Port;

/** A cable whose other end is here. */
function cable() {
  const feed = new TransformStream<Uint8Array, Uint8Array>();
  const writer = feed.writable.getWriter();
  const opened: number[] = [];
  let closed = 0;
  const serial = {
    requestPort: async () => ({
      open: async ({ baudRate }: { baudRate: number }) => void opened.push(baudRate),
      close: async () => void closed++,
      readable: feed.readable,
    }),
  };
  return {
    serial,
    opened,
    closed: () => closed,
    send: (text: string) => writer.write(new TextEncoder().encode(text)),
    unplug: () => writer.abort(new Error("gone")).catch(() => undefined),
  };
}
const soon = (what: () => void) => vi.waitFor(what, { timeout: inject("patience"), interval: 1 });

beforeEach(async () => {
  vi.resetModules();
  port = await import("./port");
});
afterEach(() => vi.unstubAllGlobals());

test("a line waits until it is put somewhere or left", () => {
  const told: number[] = [];
  const stop = port.subscribe(() => told.push(1));
  port.hear("ready");
  expect(port.snapshot().waiting).toBeNull();
  port.hear("12.34 mm");
  expect(port.snapshot().waiting).toEqual({ value: 12.34, unit: "mm" });
  port.settled();
  expect(port.snapshot().waiting).toBeNull();
  expect(told).toHaveLength(3);
  stop();
  port.hear("1 mm");
  expect(told).toHaveLength(3);
});

test("one that says nothing does not take away what waits", () => {
  port.hear("12.34 mm");
  port.hear("battery low");
  expect(port.snapshot().waiting?.value).toBe(12.34);
});

test("what was heard is kept short, the last first", () => {
  for (let n = 0; n < 20; n++) port.hear(`${n} mm ${"x".repeat(200)}`);
  const { heard } = port.snapshot();
  expect(heard).toHaveLength(8);
  expect(heard[0]?.line.startsWith("19 mm")).toBe(true);
  expect(heard[0]?.line.length).toBeLessThanOrEqual(80);
});

test("lines come in pieces and several at once; a cable that goes is said to be lost", async () => {
  const c = cable();
  vi.stubGlobal("navigator", { serial: c.serial });
  expect(port.serialHere()).toBe(true);
  await port.connect(4800);
  expect([c.opened, port.snapshot().link]).toEqual([[4800], "open"]);
  await c.send("1");
  await c.send("2.5 mm\r");
  await soon(() => expect(port.snapshot().waiting?.value).toBe(12.5));
  await c.send("\n1 g\n2 g\n3");
  await soon(() => expect(port.snapshot().waiting).toEqual({ value: 2, unit: "g" }));
  await c.unplug();
  await soon(() => expect([port.snapshot().link, c.closed()]).toEqual(["lost", 1]));
});

test("let go of by hand it is not lost", async () => {
  const c = cable();
  vi.stubGlobal("navigator", { serial: c.serial });
  await port.connect(9600);
  port.disconnect();
  await soon(() => expect([port.snapshot().link, c.closed()]).toEqual(["none", 1]));
  port.disconnect();
});

test("one that cannot be opened says why, and a browser without it does nothing", async () => {
  vi.stubGlobal("navigator", { serial: { requestPort: async () => Promise.reject(new Error("No port selected by the user.")) } });
  await port.connect(9600);
  expect([port.snapshot().link, port.snapshot().wrong]).toEqual(["none", "No port selected by the user."]);
  vi.stubGlobal("navigator", {});
  expect(port.serialHere()).toBe(false);
  await port.connect(9600);
  expect(port.snapshot().link).toBe("none");
});
