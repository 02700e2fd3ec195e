/** The shell kept by the browser, and what waits sent when it can be. */

/** Once a page is in a place that is used where there is no network. Over plain http in a shop's own network browsers keep no shell. */
export function keepShell(): void {
  if (!("serviceWorker" in navigator) || !window.isSecureContext) return;
  navigator.serviceWorker.register("/sw.js", { scope: "/" }).catch(() => undefined);
}
