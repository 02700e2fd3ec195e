import { useQuery } from "@tanstack/react-query";
import { Link, Route, Routes } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import { Notice } from "../../ui";
import { AttemptPage } from "./AttemptPage";
import { PRACTICE_KEY } from "./attempt";
import { Begin } from "./Begin";
import { Emblem } from "./Emblem";

/** Steel that does not exist, to be ruined: exercises with their bests. */
export function Practice() {
  return (
    <Routes>
      <Route index element={<List />} />
      <Route path="new/:kind" element={<Begin />} />
      <Route path=":id" element={<AttemptPage />} />
    </Routes>
  );
}

function List() {
  const list = useQuery({ queryKey: PRACTICE_KEY, queryFn: () => ask(api.GET("/api/practice")) });
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto max-w-5xl">
        <h1 className="text-2xl font-bold">Practice</h1>
        <p className="mb-4 max-w-[46rem] text-quiet">
          Steel that does not exist, to be ruined. What happens in it is what would happen in yours; nothing here touches a build.
          The best score of each is your own and nobody else sees it.
        </p>
        {list.error ? <Notice tone="stop">{whatWentWrong(list.error)}</Notice> : null}
        {list.isPending ? <p className="animate-pulse text-quiet">Looking…</p> : null}
        <ul className="grid gap-3 min-[800px]:grid-cols-2">
          {(list.data ?? []).map((e) => (
            <li key={e.key} className="flex gap-4 rounded-xl border border-line bg-panel p-4">
              <Emblem kind={e.key} />
              <div className="flex min-w-0 flex-1 flex-col">
                <h2 className="text-lg font-bold">{e.title}</h2>
                <p className="flex-1">{e.about}</p>
                <p className="mt-1 text-sm text-quiet">
                  {e.ended ? `${e.ended} done, the best ${Math.round(e.best ?? 0)} of 100` : "not tried yet"}
                </p>
                <p className="mt-2 flex flex-wrap gap-2">
                  <Link className={LINK_MAIN} to={`/practice/new/${e.key}`} aria-label={`Begin: ${e.title}`}>
                    Begin
                  </Link>
                  {e.open ? (
                    <Link className={LINK} to={`/practice/${e.open}`} aria-label={`Go on: ${e.title}`}>
                      Go on
                    </Link>
                  ) : null}
                  {e.best_seed !== null && e.best_seed !== undefined ? (
                    <Link
                      className={LINK}
                      to={`/practice/new/${e.key}?seed=${e.best_seed}`}
                      aria-label={`The best one again: ${e.title}`}
                    >
                      The best one again
                    </Link>
                  ) : null}
                </p>
              </div>
            </li>
          ))}
        </ul>
      </div>
    </main>
  );
}

export const LINK = "inline-flex min-h-11 items-center rounded-lg border border-edge bg-well px-4";
export const LINK_MAIN = "inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent";
