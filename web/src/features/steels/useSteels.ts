import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { answered } from "../../api/answered";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Steel } from "../../api/types";
import { forgetWorked } from "../../api/worked";

export const STEELS_KEY = ["steels"];

export function useSteels(): Steel[] {
  return (
    useQuery({ queryKey: STEELS_KEY, queryFn: () => ask(api.GET("/api/steels")), staleTime: Number.POSITIVE_INFINITY }).data ?? []
  );
}

/** What the trade calls a steel, by its key. */
export function useSteelName(): (key: string) => string {
  const steels = useSteels();
  return (key) => steels.find((s) => s.key === key)?.name ?? key;
}

/** Changes to the list: the server's new list is shown, what rests on steels is asked for again; what went wrong, in words. */
export function useSteelChange(): { problem: string; run: (asking: Promise<Steel[]>) => Promise<boolean>; clear: () => void } {
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const run = useCallback(
    (asking: Promise<Steel[]>) => {
      setProblem("");
      return asking.then(
        async (list) => {
          await answered(queries, STEELS_KEY, list);
          void queries.invalidateQueries({ queryKey: ["pairing"] });
          forgetWorked(queries);
          return true;
        },
        (e) => {
          setProblem(whatWentWrong(e));
          return false;
        },
      );
    },
    [queries],
  );
  return { problem, run, clear: useCallback(() => setProblem(""), []) };
}

/** Linear brightness as a colour of the screen. */
export function greyOf(linear: number): string {
  const v = Math.round(255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055));
  return `rgb(${v} ${v} ${Math.round(v * 0.985)})`;
}
