import createClient from "openapi-fetch";
import { underWay } from "../lib/rest";
import { firstAnswer } from "./first";
import type { paths } from "./schema.gen";
import type { ProblemBody } from "./types";

function csrf(): string {
  return /(?:^|; )(?:__Host-)?csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

/** The shop this page was opened in: the server refuses what would go into another. */
function shop(): Record<string, string> {
  const id = document.documentElement.dataset.shop;
  return id ? { "X-Shop": id } : {};
}

/** The API with types from its own description; the CSRF token and the shop go along. */
export const api = createClient<paths>({
  baseUrl: "",
  credentials: "same-origin",
  fetch: async (request) => firstAnswer(request) ?? fetch(request),
});
api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf());
    for (const [name, value] of Object.entries(shop())) request.headers.set(name, value);
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

/** The server could not be reached at all, or says that it cannot do it now (a full disk, a locked database): it is tried again. */
export class Unreachable extends Error {
  constructor(why = "The server cannot be reached.") {
    super(why);
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
  // its own word for why, where it is ours and not that of whatever stands between
  if (status >= 502 && status <= 504) return new Unreachable(body?.code ? body.title : undefined);
  return new Problem(status, {
    type: body?.type ?? "about:blank",
    code: body?.code ?? "failed",
    title: body?.title ?? `The server failed (${status}). Nothing was lost; try again.`,
    status,
    problems: body?.problems ?? [],
    current: body?.current,
    kept: body?.kept,
    mark: body?.mark,
  });
}

/** Headers that let the server drop this request once a newer one comes down the same lane of this page: told by the clock. */
export function lane(name: string): Record<string, string> {
  const page = Math.round(performance.timeOrigin * 1000).toString(36);
  return { "X-Lane": `${page}-${name};${Math.round(performance.now() * 1000)}` };
}

/** Posts JSON (or a form) and gives the answer as it is. Throws Problem or Unreachable. */
export async function post(path: string, body: object, signal?: AbortSignal, name?: string): Promise<Response> {
  const form = body instanceof FormData;
  const over = underWay(path);
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      headers: {
        ...(form ? {} : { "Content-Type": "application/json" }),
        "X-CSRFToken": csrf(),
        ...shop(),
        ...(name ? lane(name) : {}),
      },
      body: form ? body : JSON.stringify(body),
      credentials: "same-origin",
      signal,
    });
  } catch (e) {
    if (e instanceof DOMException && e.name === "AbortError") throw e;
    throw new Unreachable();
  } finally {
    over();
  }
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => undefined));
  return response;
}

/** Posts, and gives each line of JSON of the answer as it comes. */
export async function* lines<T>(path: string, body: object, signal: AbortSignal): AsyncGenerator<T> {
  const response = await post(path, body, signal);
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  while (reader) {
    const { value, done } = await reader.read();
    if (done) break;
    rest += value;
    const whole = rest.split("\n");
    rest = whole.pop() ?? "";
    for (const line of whole) yield JSON.parse(line) as T;
  }
}

/** What draws a picture. */
export type PicturePath = "/api/predict/blade.png" | "/api/predict/bar.png" | "/api/finish/film.png";

/** Posts for a picture. */
export async function fetchPicture(path: PicturePath, body: object, name: string, signal: AbortSignal): Promise<Blob> {
  return (await post(path, body, signal, name)).blob();
}

/** Posts for a file and hands it to the browser to keep. */
export async function saveFile(path: string, body: object, name: string): Promise<void> {
  keepFile(await (await post(path, body)).blob(), name);
}

/** Hands a file to the browser to keep. */
export function keepFile(file: Blob, name: string): void {
  const url = URL.createObjectURL(file);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  window.setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** Somebody changed it in the meantime: the mark it has now; null when something else went wrong. */
export function overtakenBy(e: unknown): string | null {
  return e instanceof Problem && e.body.code === "overtaken" ? (e.body.mark ?? "") : null;
}

/** What went wrong, in a line: the first problem with its cure, or the message. */
export function whatWentWrong(e: unknown): string {
  if (e instanceof Problem && e.body.problems[0]) {
    const { wrong, cure } = e.body.problems[0];
    const text = `${wrong}; ${cure}.`;
    return (text[0]?.toUpperCase() ?? "") + text.slice(1);
  }
  return e instanceof Error ? e.message : String(e);
}
