import { QueryClient } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { answered } from "./answered";

test("a question asked before a change, and answered after it, does not undo what the change answered", async () => {
  const queries = new QueryClient();
  let answer: (what: string) => void = () => undefined;
  queries.setQueryData(["rack"], "old");
  const asked = queries.fetchQuery({ queryKey: ["rack"], queryFn: () => new Promise<string>((done) => (answer = done)) });
  const heard = asked.catch(() => undefined);
  await answered(queries, ["rack"], "new");
  answer("old");
  await heard;
  expect(queries.getQueryData(["rack"])).toBe("new");
});
