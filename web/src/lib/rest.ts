/** Whether the page is at rest: all that was asked for has come and nothing is about to be asked. `<html data-rest>` says so, for whoever
 * watches the page, by hand or by machine. */

import type { QueryClient } from "@tanstack/react-query";
import { type ComponentType, type LazyExoticComponent, lazy, useEffect, useLayoutEffect, useState } from "react";

/** What has come may ask for more in the same breath: so long nothing has to be under way. */
const REST_MS = 50;
const under = new Set<{ what: string }>();
let soon: ReturnType<typeof setTimeout> | undefined;

/** Something is on its way; the answer says that it has come. */
export function underWay(what: string): () => void {
  // a service worker has no page
  if (typeof document === "undefined") return () => undefined;
  const one = { what };
  under.add(one);
  delete document.documentElement.dataset.rest;
  clearTimeout(soon);
  return () => {
    if (under.delete(one)) look();
  };
}

/** What is awaited, for whoever waited in vain. */
export function awaited(): string[] {
  const images = [...document.images].filter((i) => !i.complete);
  const stands = [...document.querySelectorAll(".animate-pulse")].map((e) => e.outerHTML.slice(0, 200));
  return [...[...under].map((one) => one.what), ...images.map((i) => i.src), ...stands];
}

function look() {
  if (under.size) return;
  clearTimeout(soon);
  soon = setTimeout(() => idle(say), REST_MS);
}

/** Once the page has nothing else to do: React may still be drawing what has come, in pieces. A page that draws no frame is never told so. */
const IDLE_MS = 300;
function idle(then: () => void) {
  if (typeof requestIdleCallback === "function") requestIdleCallback(then, { timeout: IDLE_MS });
  else setTimeout(then);
}

function say() {
  if (typeof document === "undefined") return;
  // one that is drawn when it comes into sight may never come
  const drawn = [...document.images].every((i) => i.complete || i.loading === "lazy");
  // one that is taken out of the page while it loads says nothing; what stands for a part that comes goes a moment after that has come
  if (!drawn || document.querySelector(".animate-pulse")) look();
  else if (!under.size) document.documentElement.dataset.rest = "";
}

/** Something is on its way while `on` holds. */
export function useUnderWay(on: boolean): void {
  useLayoutEffect(() => (on ? underWay("a hand that moves") : undefined), [on]);
}

/** From now on questions and pictures count. */
export function watchRest(queries: QueryClient): void {
  opening = underWay("the page");
  let over: (() => void) | null = null;
  const count = () => {
    const busy = queries.isFetching() + queries.isMutating() > 0;
    if (busy) over ??= underWay("questions");
    else {
      over?.();
      over = null;
    }
  };
  queries.getQueryCache().subscribe(count);
  queries.getMutationCache().subscribe(count);
  Object.assign(window, { awaited });
}

/** Until the page is there. */
let opening: (() => void) | null = null;

/** The page is there. */
export function useOpened(): void {
  useEffect(() => {
    opening?.();
    opening = null;
  }, []);
}

/** React's lazy, counted. */
// biome-ignore lint/suspicious/noExplicitAny: as React's own
export function lazily<T extends ComponentType<any>>(load: () => Promise<T>): LazyExoticComponent<T> {
  return lazy(() => {
    const over = underWay("a part of the page");
    return (
      load()
        .then((part) => ({ default: part }))
        // out of reach it is missing, and the rest of the page stands
        .catch(() => ({ default: (() => null) as unknown as T }))
        .finally(over)
    );
  });
}

/** `value` once it has stood still for `ms`; the first one at once. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useUnderWay(settled !== value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
