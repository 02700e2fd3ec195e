import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
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
  const [run, setRun] = useState<KilnRun | null>(null);
  const [problem, setProblem] = useState("");
  const queries = useQueryClient();
  const held = useRef<KilnRun | null>(null);
  const take = useCallback(
    (next: KilnRun) => {
      const old = held.current;
      // only what was asked for after the rows already here
      const record =
        old && old.id === next.id && next.rows - next.record.length === old.rows ? [...old.record, ...next.record] : next.record;
      const whole = { ...next, record };
      if (whole.record.length < whole.rows && old?.id === next.id) return;
      held.current = whole;
      setRun(whole);
      if (old && old.state !== next.state) void queries.invalidateQueries({ queryKey: ["kiln-runs", design] });
    },
    [queries, design],
  );
  const after = useCallback(() => (held.current ? held.current.rows : 0), []);
  useEffect(() => {
    held.current = null;
    setRun(null);
    if (id === null) return;
    let alive = true;
    let timer = 0;
    const look = () =>
      ask(api.GET("/api/kiln/runs/{run_id}", { params: { path: { run_id: id }, query: { after: after() } } }))
        .then((next) => {
          if (!alive) return;
          setProblem("");
          take(next);
          if (next.state === "running" || next.state === "held") timer = window.setTimeout(look, LOOK_MS);
        })
        .catch((e) => {
          if (!alive) return;
          setProblem(whatWentWrong(e));
          timer = window.setTimeout(look, 4 * LOOK_MS);
        });
    void look();
    return () => {
      alive = false;
      window.clearTimeout(timer);
    };
  }, [id, take, after]);
  const act = (action: KilnAction) => {
    if (id === null) return;
    ask(api.POST("/api/kiln/runs/{run_id}/do/{action}", { params: { path: { run_id: id, action }, query: { after: after() } } }))
      .then(take)
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  const setSpeed = (speed: number) => {
    if (id === null) return;
    ask(
      api.POST("/api/kiln/runs/{run_id}/speed", { params: { path: { run_id: id }, query: { after: after() } }, body: { speed } }),
    )
      .then(take)
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  return { run, problem, act, setSpeed };
}
