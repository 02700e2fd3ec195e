import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Problem, whatWentWrong } from "../../api/client";
import type { PracticeAttempt } from "../../api/types";

export const PRACTICE_KEY = ["practice"];
const keyOf = (id: number) => [...PRACTICE_KEY, id];

/** One exercise as it stands, and a way to move it on. */
export function useAttempt(id: number) {
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState("");
  const found = useQuery({
    queryKey: keyOf(id),
    queryFn: () => ask(api.GET("/api/practice/{attempt_id}", { params: { path: { attempt_id: id } } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: (count, e) => !(e instanceof Problem) && count < 2,
  });
  const act = async (action: Record<string, unknown>) => {
    const after = found.data?.done ?? 0;
    setBusy(true);
    setRefused("");
    try {
      const next = await ask(
        api.POST("/api/practice/{attempt_id}/act", { params: { path: { attempt_id: id } }, body: { after, action } }),
      );
      queries.setQueryData(keyOf(id), next);
      if (next.ended) await queries.invalidateQueries({ queryKey: PRACTICE_KEY, exact: true });
    } catch (e) {
      setRefused(whatWentWrong(e));
      if (e instanceof Problem && e.status === 409) await queries.invalidateQueries({ queryKey: keyOf(id) });
    } finally {
      setBusy(false);
    }
  };
  return { attempt: found.data, error: found.error, act: (a: Record<string, unknown>) => void act(a), busy, refused };
}

/** What every exercise's own page is given; `shown` is its own kind's. */
export type Turn<K extends PracticeAttempt["shown"]["kind"]> = {
  attempt: PracticeAttempt;
  shown: Extract<PracticeAttempt["shown"], { kind: K }>;
  act: (action: Record<string, unknown>) => void;
  busy: boolean;
};
