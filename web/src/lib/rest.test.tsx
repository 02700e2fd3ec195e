import { QueryClient } from "@tanstack/react-query";
import { act, screen, waitFor } from "@testing-library/react";
import { Suspense } from "react";
import { expect, test } from "vitest";
import { lazily, underWay, useSettled, watchRest } from "./rest";
import { shown } from "./testing";

const rests = () => "rest" in document.documentElement.dataset;
const comesToRest = () => waitFor(() => expect(rests()).toBe(true));

test("it rests once all that is under way has come, however often it is said", async () => {
  const [one, other] = [underWay("one"), underWay("another")];
  expect(rests()).toBe(false);
  one();
  one();
  await new Promise((done) => setTimeout(done, 100));
  expect(rests()).toBe(false);
  other();
  await comesToRest();
});

test("a question of the page is under way until it is answered, or given up", async () => {
  const queries = new QueryClient();
  watchRest(queries);
  let answer: (what: string) => void = () => undefined;
  const asked = queries.fetchQuery({ queryKey: ["a"], queryFn: () => new Promise<string>((done) => (answer = done)) });
  expect(rests()).toBe(false);
  answer("so");
  await asked;
  const given = queries.fetchQuery({ queryKey: ["b"], queryFn: () => new Promise(() => undefined) }).catch(() => undefined);
  expect(rests()).toBe(false);
  await queries.cancelQueries();
  await given;
});

test("a hand that moves, and a part that is still fetched", async () => {
  function Hand({ value }: { value: string }) {
    return <p>{useSettled(value, 30)}</p>;
  }
  let come: (part: () => null) => void = () => undefined;
  const Part = lazily(() => new Promise<() => null>((done) => (come = done)));
  const page = (value: string) => (
    <Suspense fallback={<p className="animate-pulse">comes</p>}>
      <Hand value={value} />
      <Part />
    </Suspense>
  );
  const { again } = shown(page("a"));
  expect(rests()).toBe(false);
  await act(async () => come(() => null));
  await screen.findByText("a");
  again(page("b"));
  expect(rests()).toBe(false);
  await screen.findByText("b");
});
