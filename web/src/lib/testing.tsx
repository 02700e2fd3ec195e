/** For tests of components: the page around them, its answers already there, and a server that answers what it is told to. */

import "./testingPage";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { vi } from "vitest";
import type { Preferences, Session } from "../api/types";
import { SESSION_KEY, SessionProvider } from "../app/session";

export const PREFERENCES: Preferences = { length: "mm", temperature: "C", weight: "g", theme: "light" };

/** Answers by "METHOD path"; what is not told is refused. Gives what was asked. */
export function server(answers: Record<string, (body: unknown) => unknown>): string[] {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (of: Request | string, init?: RequestInit) => {
    const request = new Request(of, init);
    const what = `${request.method} ${new URL(request.url).pathname}`;
    asked.push(what);
    const text = await request.text();
    const answer = answers[what];
    if (!answer) return new Response(JSON.stringify({ title: `nobody answers ${what}`, code: "failed" }), { status: 500 });
    const said = await answer(text ? JSON.parse(text) : null);
    return said instanceof Response ? said : Response.json(said);
  });
  return asked;
}

/** Shown as it is on a page of the shop's, to a user with these units. */
export function shown(what: ReactNode, preferences: Partial<Preferences> = {}) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Number.POSITIVE_INFINITY } } });
  const session = { user: "smith", demo: true, shop: { id: 1, name: "Forge", role: "owner" }, shops: [] };
  queries.setQueryData(SESSION_KEY, { ...session, preferences: { ...PREFERENCES, ...preferences } } as unknown as Session);
  const page = (inner: ReactNode) => (
    <QueryClientProvider client={queries}>
      <SessionProvider loading={null}>{inner}</SessionProvider>
    </QueryClientProvider>
  );
  const view = render(page(what));
  return { hand: userEvent.setup(), again: (next: ReactNode) => view.rerender(page(next)) };
}
