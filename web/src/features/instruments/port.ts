/** The instrument that is connected, through Web Serial where the browser has it. Nothing is installed, nothing is sent anywhere. */

import { linesOf, type Taken, understood } from "../../lib/instrument";

type Port = {
  open: (how: { baudRate: number }) => Promise<void>;
  close: () => Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
};
type Serial = { requestPort: () => Promise<Port> };
export type Heard = { at: number; line: string; taken: Taken | null };
type State = { link: "none" | "open" | "lost"; heard: Heard[]; waiting: Taken | null; wrong: string };

const KEPT = 8;
let state: State = { link: "none", heard: [], waiting: null, wrong: "" };
const watchers = new Set<() => void>();
const put = (next: Partial<State>) => {
  state = { ...state, ...next };
  for (const w of watchers) w();
};

export const serialHere = (): boolean => "serial" in navigator;
export const snapshot = (): State => state;
export const subscribe = (w: () => void): (() => void) => {
  watchers.add(w);
  return () => watchers.delete(w);
};

/** A line has come: shown, and put nowhere until somebody says so. */
export function hear(line: string): void {
  const taken = understood(line);
  put({
    heard: [{ at: Date.now(), line: line.slice(0, 80), taken }, ...state.heard].slice(0, KEPT),
    waiting: taken ?? state.waiting,
  });
}

/** It was put into a field, or left. */
export const settled = (): void => put({ waiting: null });

let leave: (() => void) | null = null;

/** Asks which one, and listens to it until it goes away. */
export async function connect(baudRate: number): Promise<void> {
  const serial = (navigator as unknown as { serial?: Serial }).serial;
  if (!serial) return;
  try {
    const port = await serial.requestPort();
    await port.open({ baudRate });
    put({ link: "open", wrong: "" });
    void listen(port);
  } catch (e) {
    put({ wrong: e instanceof Error ? e.message : "it could not be opened" });
  }
}

async function listen(port: Port): Promise<void> {
  const reader = port.readable?.getReader();
  if (!reader) return put({ link: "lost" });
  let left = false;
  leave = () => {
    left = true;
    void reader.cancel().catch(() => undefined);
  };
  const decoder = new TextDecoder();
  let rest = "";
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      const cut = linesOf(rest + decoder.decode(value, { stream: true }));
      rest = cut.rest;
      for (const line of cut.lines) hear(line);
    }
  } catch {
    // unplugged: said below
  } finally {
    reader.releaseLock();
    await port.close().catch(() => undefined);
    leave = null;
    put({ link: left ? "none" : "lost" });
  }
}

export const disconnect = (): void => leave?.();
