import createClient from "openapi-fetch";
import type { paths } from "./schema.gen";
import type { ProblemBody } from "./types";

function csrf(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

/** The API with types from its own description; the CSRF token goes along with every change. */
export const api = createClient<paths>({ baseUrl: "", credentials: "same-origin" });
api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf());
    return request;
  },
});

/** The server said no, with its reasons. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly body: ProblemBody,
  ) {
    super(body.title);
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Unwraps an answer: the data, or a Problem, or Unreachable. */
export async function ask<T>(asking: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asking;
  } catch (e) {
    if (e instanceof DOMException && e.name === "AbortError") throw e;
    throw new Unreachable();
  }
  if (answer.response.ok) return answer.data as T;
  throw problemOf(answer.response.status, answer.error);
}

function problemOf(status: number, error: unknown): Error {
  const body = error as Partial<ProblemBody> | undefined;
  if (status >= 502 && status <= 504) return new Unreachable();
  return new Problem(status, {
    type: body?.type ?? "about:blank",
    code: body?.code ?? "failed",
    title: body?.title ?? `The server failed (${status}). Nothing was lost; try again.`,
    status,
    problems: body?.problems ?? [],
    current: body?.current,
    kept: body?.kept,
  });
}

const page = Math.random().toString(36).slice(2, 10);
const counts = new Map<string, number>();

/** Headers that let the server drop this request once a newer one comes down the same lane. */
export function lane(name: string): Record<string, string> {
  const count = (counts.get(name) ?? 0) + 1;
  counts.set(name, count);
  return { "X-Lane": `${page}-${name};${count}` };
}

/** Posts for a picture and gives it as an object address; the caller lets go of it. */
export async function fetchPicture(
  path: "/api/predict/blade.png" | "/api/predict/bar.png",
  body: object,
  name: string,
  signal: AbortSignal,
): Promise<string> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      headers: { "Content-Type": "application/json", "X-CSRFToken": csrf(), ...lane(name) },
      body: JSON.stringify(body),
      credentials: "same-origin",
      signal,
    });
  } catch (e) {
    if (e instanceof DOMException && e.name === "AbortError") throw e;
    throw new Unreachable();
  }
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => undefined));
  return URL.createObjectURL(await response.blob());
}
