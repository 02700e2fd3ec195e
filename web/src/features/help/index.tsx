import { Search } from "lucide-react";
import { useSearchParams } from "react-router";
import { Button } from "../../ui";
import { PAGES, pagesFor } from "./pages";
import { useTour } from "./tour";
import { WordCard } from "./WordCard";
import { searched, wordOf } from "./words";

/** Help: the tour, a page for each place, the words of the trade; all here, searched as one types. */
export function HelpPage() {
  const [search, setSearch] = useSearchParams();
  const tour = useTour();
  const asked = search.get("q") ?? "";
  const one = wordOf(search.get("word") ?? "");
  const words = one ? [one] : searched(asked);
  const pages = one ? [] : pagesFor(asked);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto max-w-5xl">
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <h1 className="mr-auto text-2xl font-bold">Help</h1>
          <label className="flex min-h-11 min-w-0 items-center gap-2 rounded-lg border border-edge bg-well px-3">
            <Search size={18} aria-hidden />
            <input
              type="search"
              aria-label="Search help"
              placeholder="Search help"
              value={asked}
              onChange={(e) => setSearch(e.target.value ? { q: e.target.value } : {}, { replace: true })}
              className="min-h-10 w-56 min-w-0 bg-transparent outline-none"
            />
          </label>
          <Button onClick={() => tour.go(0)}>{tour.stop === null ? "The tour: five stops" : "The tour from the start"}</Button>
        </div>
        {one ? (
          <p className="mb-3">
            <Button kind="quiet" onClick={() => setSearch({})}>
              All words and places
            </Button>
          </p>
        ) : (
          <p className="mb-4 max-w-[46rem] text-quiet">
            Press F1 on anything that has the keyboard, or choose “What is this?” behind your name and click on a word: what it
            means is told where you are. Keys are behind “?”.
          </p>
        )}
        {pages.length ? (
          <section aria-label="Places" className="mb-6">
            <h2 className="mb-2 text-xl font-bold">Places: what each decides, and how sure it is</h2>
            <dl className="grid gap-3 min-[800px]:grid-cols-2">
              {pages.map((p) => (
                <div key={p.key} id={`place-${p.key}`} className="rounded-xl border border-line bg-panel p-3">
                  <dt className="font-bold">
                    {p.title} <span className="text-sm font-normal text-quiet">{p.where.startsWith("/") ? "" : p.where}</span>
                  </dt>
                  <dd>{p.decides}</dd>
                  <dd className="mt-1 text-sm text-quiet">How sure: {p.sure}</dd>
                  {p.care ? <dd className="mt-1 border-l-4 border-care pl-2 text-sm">{p.care}</dd> : null}
                </div>
              ))}
            </dl>
          </section>
        ) : null}
        {words.length ? (
          <section aria-label="Words">
            <h2 className="mb-2 text-xl font-bold">Words of the trade</h2>
            <ul className="grid gap-3 min-[800px]:grid-cols-2">
              {words.map((word) => (
                <WordCard key={word.key} word={word} />
              ))}
            </ul>
          </section>
        ) : null}
        {pages.length + words.length === 0 ? (
          <p>
            Nothing here is called “{asked}”. {PAGES.length} places and all words are there again when the search is empty.
          </p>
        ) : null}
      </div>
    </main>
  );
}
