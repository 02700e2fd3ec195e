import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { forgetWorked } from "./worked";

test("what was asked before a number of the shop changed, and answered after it, is asked again", async () => {
  const queries = new QueryClient();
  const answers: ((what: string) => void)[] = [];
  const queryFn = () => new Promise<string>((done) => answers.push(done));
  const seen = new QueryObserver(queries, { queryKey: ["worked", "time"], queryFn, staleTime: 60_000 });
  const stop = seen.subscribe(() => undefined);
  forgetWorked(queries);
  while (answers.length < 2) await new Promise((done) => setTimeout(done));
  answers[0]?.("by the old number");
  answers[1]?.("by the new one");
  while (seen.getCurrentResult().data === undefined) await new Promise((done) => setTimeout(done));
  expect(seen.getCurrentResult().data).toBe("by the new one");
  stop();
});
