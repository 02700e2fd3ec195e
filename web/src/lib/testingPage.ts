/** What Node and jsdom lack of a page, put in its place before anything of the application is read. */

import { cleanup, configure } from "@testing-library/react";
import { afterEach, inject, vi } from "vitest";

afterEach(cleanup);
// a test waits for what it awaits, however slow the machine is
configure({ asyncUtilTimeout: inject("patience") });

/** jsdom lays nothing out: these say that all is in sight and light. */
vi.stubGlobal("matchMedia", () => ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined }));
vi.stubGlobal(
  "ResizeObserver",
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
);

/** Names in these tests have no sign that a selector would take for its own. */
vi.stubGlobal("CSS", { escape: (text: string) => text });

/** Addresses of a page begin where the page stands; Node knows no page. */
vi.stubGlobal(
  "Request",
  class extends Request {
    constructor(of: RequestInfo | URL, init?: RequestInit) {
      super(typeof of === "string" ? new URL(of, "http://shop.test") : of, init);
    }
  },
);
