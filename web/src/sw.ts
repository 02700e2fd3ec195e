/// <reference lib="webworker" />
/** Keeps the shell for where there is no network. What a shop owns is never kept here: that is the page's, by who is signed in. */

import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

/** A network that is there but answers nothing is none. */
const PATIENCE_MS = 6000;

self.skipWaiting();
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);

async function page(request: Request): Promise<Response> {
  const shell = () => matchPrecache("/static/index.html");
  try {
    const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
    return answer.status >= 502 && answer.status <= 504 ? ((await shell()) ?? answer) : answer;
  } catch (e) {
    const kept = await shell();
    if (kept) return kept;
    throw e;
  }
}

registerRoute(new NavigationRoute(({ request }) => page(request), { denylist: [/^\/api\//, /^\/static\//] }));
