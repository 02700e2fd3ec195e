import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { useSession } from "../../app/session";
import { Button } from "../../ui";
import { STOPS } from "./pages";

const heard = new Set<() => void>();
const kept = (user: string) => `tour of ${user}`;

function read(user: string): number | null {
  try {
    const said = localStorage.getItem(kept(user));
    const stop = said === null ? Number.NaN : Number(said);
    return Number.isInteger(stop) && stop >= 0 && stop < STOPS.length ? stop : null;
  } catch {
    return null;
  }
}

/** Where one is on the tour (null: not on it); it is left and gone on with at will, also after a reload. */
export function useTour() {
  const { session } = useSession();
  const user = session.user ?? "";
  const stop = useSyncExternalStore(
    (on) => {
      heard.add(on);
      return () => heard.delete(on);
    },
    () => read(user),
  );
  const navigate = useNavigate();
  const designs = useQuery({ queryKey: ["designs"], queryFn: () => ask(api.GET("/api/designs")), enabled: stop !== null }).data;
  const keep = (next: number | null) => {
    try {
      if (next === null) localStorage.removeItem(kept(user));
      else localStorage.setItem(kept(user), String(next));
    } catch {
      // a private window keeps nothing: then the tour lasts as long as the page
    }
    for (const on of heard) on();
  };
  return {
    stop,
    leave: () => keep(null),
    go: (next: number) => {
      keep(next);
      const to = STOPS[next];
      if (to) navigate(to.path(designs?.[0]?.id));
    },
  };
}

/** The stop one is at: a small card that is in nobody's way. */
export function TourCard() {
  const tour = useTour();
  if (tour.stop === null) return null;
  const at = tour.stop;
  const stop = STOPS[at];
  if (!stop) return null;
  return (
    <aside
      aria-label="The tour"
      className="no-print fixed right-4 bottom-4 z-30 w-96 max-w-[calc(100vw-2rem)] rounded-2xl border border-edge bg-panel p-4 shadow-2xl"
    >
      <p className="text-sm text-quiet">
        Stop {at + 1} of {STOPS.length}
      </p>
      <h2 className="text-lg font-bold">{stop.title}</h2>
      <p className="my-2">{stop.says}</p>
      <div className="flex flex-wrap gap-2">
        <Button disabled={at === 0} onClick={() => tour.go(at - 1)}>
          Back
        </Button>
        {at < STOPS.length - 1 ? (
          <Button kind="main" onClick={() => tour.go(at + 1)}>
            Next stop
          </Button>
        ) : null}
        <span className="ml-auto">
          <Button kind="quiet" onClick={tour.leave}>
            {at < STOPS.length - 1 ? "Leave the tour" : "That is all"}
          </Button>
        </span>
      </div>
    </aside>
  );
}
