/** Whether the page is at rest: all that was asked for has come and nothing is about to be asked. `<html data-rest>` says so, for whoever
 * watches the page, by hand or by machine. */

import type { QueryClient } from "@tanstack/react-query";
import { type ComponentType, type LazyExoticComponent, lazy, useEffect, useLayoutEffect, useState } from "react";

/** What has come may ask for more in the same breath: so long nothing has to be under way. */
const REST_MS = 50;
const under = new Set<object>();
let soon = 0;

/** Something is on its way; the answer says that it has come. */
export function underWay(): () => void {
  const one = {};
  under.add(one);
  delete document.documentElement.dataset.rest;
  window.clearTimeout(soon);
  return () => {
    if (under.delete(one)) look();
  };
}

function look() {
  if (under.size) return;
  window.clearTimeout(soon);
  soon = window.setTimeout(() => idle(say), REST_MS);
}

/** Once the page has nothing else to do: React may still be drawing what has come, in pieces. A page that draws no frame is never told so. */
const IDLE_MS = 300;
function idle(then: () => void) {
  if (typeof window.requestIdleCallback === "function") window.requestIdleCallback(then, { timeout: IDLE_MS });
  else window.setTimeout(then);
}

function say() {
  // one that is drawn when it comes into sight may never come
  const drawn = [...document.images].every((i) => i.complete || i.loading === "lazy");
  // one that is taken out of the page while it loads says nothing
  if (!drawn) look();
  else if (!under.size) document.documentElement.dataset.rest = "";
}

/** Something is on its way while `on` holds. */
export function useUnderWay(on: boolean): void {
  useLayoutEffect(() => (on ? underWay() : undefined), [on]);
}

/** From now on questions and pictures count. */
export function watchRest(queries: QueryClient): void {
  let over: (() => void) | null = null;
  const count = () => {
    const busy = queries.isFetching() + queries.isMutating() > 0;
    if (busy) over ??= underWay();
    else {
      over?.();
      over = null;
    }
  };
  queries.getQueryCache().subscribe(count);
  queries.getMutationCache().subscribe(count);
}

/** Counted from the first script on, until the page is there. */
let opening: (() => void) | null = underWay();

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
    const over = underWay();
    return load()
      .then((part) => ({ default: part }))
      .finally(over);
  });
}

/** `value` once it has stood still for `ms`; the first one at once. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useUnderWay(settled !== value);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), ms);
    return () => window.clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
