import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { KilnRun } from "../../../api/types";

const LOOK_MS = 700;

/** Runs of one design, newest first. */
export function useRuns(design: number) {
  return useQuery({
    queryKey: ["kiln-runs", design],
    queryFn: () => ask(api.GET("/api/kiln/runs", { params: { query: { design } } })),
  });
}

export function usePrograms() {
  return useQuery({ queryKey: ["kiln-programs"], queryFn: () => ask(api.GET("/api/kiln/programs")) });
}

export type KilnAction = "hold" | "resume" | "skip" | "stop" | "fail" | "mend" | "open" | "shut";

/** One run, followed while it is on; its record grows row by row. */
export function useRun(id: number | null, design: number) {
  const queries = useQueryClient();
  const key = ["kiln-run", id];
  const rows = () => queries.getQueryData<KilnRun>(key)?.rows ?? 0;
  /** What is new, behind what is here: only if it was asked for after the rows that are. */
  const grown = (next: KilnRun): KilnRun => {
    const old = queries.getQueryData<KilnRun>(key);
    if (!old || next.record.length === next.rows) return next;
    if (next.rows - next.record.length !== old.rows) return old;
    return { ...next, record: [...old.record, ...next.record] };
  };
  const path = { run_id: id ?? 0 };
  const found = useQuery({
    queryKey: key,
    queryFn: ({ signal }) =>
      ask(api.GET("/api/kiln/runs/{run_id}", { params: { path, query: { after: rows() } }, signal })).then(grown),
    enabled: id !== null,
    staleTime: 0,
    refetchInterval: (q) => (q.state.error ? 4 * LOOK_MS : isOn(q.state.data) ? LOOK_MS : false),
  });
  const state = found.data?.state;
  useEffect(() => {
    if (state) void queries.invalidateQueries({ queryKey: ["kiln-runs", design] });
  }, [state, queries, design]);
  const told = {
    onMutate: () => queries.cancelQueries({ queryKey: key }),
    onSuccess: (next: KilnRun) => {
      queries.setQueryData(key, grown(next));
    },
  };
  const act = useMutation({
    mutationFn: (action: KilnAction) => {
      const query = { after: rows() };
      return action === "stop"
        ? ask(api.POST("/api/kiln/runs/{run_id}/stop", { params: { path, query } }))
        : ask(api.POST("/api/kiln/runs/{run_id}/do/{action}", { params: { path: { ...path, action }, query } }));
    },
    ...told,
  });
  const speed = useMutation({
    mutationFn: (times: number) =>
      ask(api.POST("/api/kiln/runs/{run_id}/speed", { params: { path, query: { after: rows() } }, body: { speed: times } })),
    ...told,
  });
  const wrong = act.error ?? speed.error ?? found.error;
  return {
    run: id === null ? null : (found.data ?? null),
    problem: wrong ? whatWentWrong(wrong) : "",
    act: act.mutate,
    setSpeed: speed.mutate,
  };
}

const isOn = (run: KilnRun | undefined) => run?.state === "running" || run?.state === "held";
