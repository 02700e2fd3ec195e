import { useCallback, useLayoutEffect, useRef } from "react";

/** One function for good that does what the last `act` does: for handlers of memoised parts. Not to be called while rendering. */
export function useSteady<A extends unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
