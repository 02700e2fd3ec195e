import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { useSay } from "../../app/session";
import { dueText, isOf } from "../book/words";
import { buildAddress } from "../build/where";

const SHOWN = 4;

/** Builds in hand, with what comes next and what was promised: before all designs. Nothing where nothing was begun. */
export function GoingOn() {
  const say = useSay();
  const book = useQuery({ queryKey: ["book"], queryFn: () => ask(api.GET("/api/builds")) });
  const on = (book.data?.builds ?? []).filter((b) => isOf(b, "on"));
  if (!on.length) return null;
  return (
    <section aria-label="Going on" className="mb-6">
      <h2 className="mb-1.5 font-bold">Going on</h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-3">
        {on.slice(0, SHOWN).map((b) => (
          <li key={b.id}>
            <Link to={buildAddress(b.id)} className="block rounded-xl border-2 border-edge bg-panel px-4 py-2 hover:border-ink">
              <span className="flex items-baseline gap-3">
                <b className="min-w-0 flex-1 truncate text-lg">{b.title}</b>
                {b.due ? (
                  <span className={`text-sm ${dueText(b.due).late ? "text-care" : "text-quiet"}`}>{dueText(b.due).text}</span>
                ) : null}
              </span>
              <span className="block truncate">
                <span className="text-quiet">next: </span>
                {say(b.summary.next)}
                {b.summary.waiting?.length ? <span className="text-care"> · a timer runs</span> : null}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {on.length > SHOWN ? (
        <Link className="inline-flex min-h-11 items-center underline" to="/book">
          And {on.length - SHOWN} more
        </Link>
      ) : null}
    </section>
  );
}
