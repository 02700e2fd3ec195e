/** What a change answers is how things are now. */

import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** Puts the answer of a change in the place of what is known: a question asked before the change, and answered after it, must not undo it. */
export async function answered<T>(queries: QueryClient, key: QueryKey, now: T): Promise<void> {
  await queries.cancelQueries({ queryKey: key });
  queries.setQueryData(key, now);
}
