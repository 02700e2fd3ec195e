/** Pictures of both faces that are asked for in the same breath go as one question: what it costs beside its pictures is paid once. */

import { fetchPicture, post } from "./client";

type Face = { side?: "right" | "left"; px: number; quality: string };
type Asked = {
  body: Face;
  name: string;
  signal: AbortSignal;
  done: (picture: Blob | string) => void;
  failed: (e: unknown) => void;
};

/** All that /faces knows of; a picture with more to it is asked for by itself. */
const ALIKE = ["document", "px", "margin", "book", "quality", "fired"];
let waiting: Asked[] = [];

/** A face of the blade, together with the other if that is wanted just so too: its bytes, or an address that holds them. */
export function fetchFace(body: Face, name: string, signal: AbortSignal): Promise<Blob | string> {
  return new Promise((done, failed) => {
    // not a timer: the browser would lay out and paint before it
    if (!waiting.length) queueMicrotask(go);
    waiting.push({ body, name, signal, done, failed });
  });
}

function go(): void {
  const asked = waiting;
  waiting = [];
  while (asked.length) {
    const one = asked.shift() as Asked;
    const other = asked.findIndex((a) => a.body.side !== one.body.side && alike(a.body) === alike(one.body));
    if (other >= 0 && paired(one.body)) together(one, asked.splice(other, 1)[0] as Asked);
    else void fetchPicture("/api/predict/blade.png", one.body, one.name, one.signal).then(one.done, one.failed);
  }
}

function alike({ side: _, ...body }: Face): string {
  return JSON.stringify(body);
}

function paired({ side, ...body }: Face): boolean {
  return !!side && Object.keys(body).every((k) => ALIKE.includes(k));
}

function together(one: Asked, other: Asked): void {
  const gone = new AbortController();
  const both = [one, other];
  const look = () => both.every((a) => a.signal.aborted) && gone.abort();
  for (const a of both) a.signal.addEventListener("abort", look);
  const { side: _, ...body } = one.body;
  post("/api/predict/faces", body, gone.signal, both.map((a) => a.name).join("+"))
    .then((r) => r.json())
    .then((faces: Record<string, string>) => {
      for (const a of both) a.done(faces[a.body.side ?? ""] ?? "");
    })
    .catch((e) => {
      for (const a of both) a.failed(e);
    });
}
