import { createContext, type ReactNode, useContext, useEffect, useMemo, useSyncExternalStore } from "react";
import type { Build, BuildTold, Operation } from "../../api/types";
import { useSession } from "../../app/session";
import { type BuildState, nextOf, type OpState, stateOf } from "./fold";
import { type Keeper, type Known, keeperOf } from "./keeper";

/** Two tablets on one build are one log: what the other wrote is fetched so often. */
const LOOK_EVERY_MS = 15_000;
/** And while something waits, or nobody answers. */
const TRY_EVERY_MS = 5_000;

/** The keeper of a build, and what it knows. */
export function useKeeper(build: number): [Keeper, Known] {
  const { session } = useSession();
  const keeper = keeperOf(session.user ?? "", session.shop?.id ?? 0, build);
  const known = useSyncExternalStore(keeper.subscribe, keeper.snapshot);
  useEffect(() => {
    void keeper.open();
    const look = () => {
      if (document.visibilityState === "visible") void keeper.sync();
    };
    let timer = 0;
    const again = () => {
      const k = keeper.snapshot();
      const soon = k.link !== "here" || k.waiting.some((w) => !w.refused);
      timer = window.setTimeout(
        () => {
          look();
          again();
        },
        soon ? TRY_EVERY_MS : LOOK_EVERY_MS,
      );
    };
    again();
    window.addEventListener("online", look);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.clearTimeout(timer);
      window.removeEventListener("online", look);
      document.removeEventListener("visibilitychange", look);
    };
  }, [keeper]);
  return [keeper, known];
}

export type Bench = {
  keeper: Keeper;
  known: Known;
  info: Build;
  told: BuildTold;
  /** In the order of the work, those that are no longer in the plan left out. */
  route: Operation[];
  state: BuildState;
  of: (op: string) => OpState;
  next: Operation | undefined;
};
const Context = createContext<Bench | null>(null);

/** The build in hand. */
export function useBuild(): Bench {
  const found = useContext(Context);
  if (!found) throw new Error("outside BuildProvider");
  return found;
}

export function BuildProvider({
  keeper,
  known,
  info,
  told,
  children,
}: {
  keeper: Keeper;
  known: Known;
  info: Build;
  told: BuildTold;
  children: ReactNode;
}) {
  const value = useMemo<Bench>(() => {
    const route = told.operations.filter((o) => !o.gone);
    const id = nextOf(
      known.state,
      route.map((o) => o.id),
    );
    const of = (op: string) => stateOf(known.state, op);
    return { keeper, known, info, told, route, state: known.state, of, next: route.find((o) => o.id === id) };
  }, [keeper, known, info, told]);
  return <Context value={value}>{children}</Context>;
}
