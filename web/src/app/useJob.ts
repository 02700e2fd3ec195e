import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask, whatWentWrong } from "../api/client";
import type { paths } from "../api/schema.gen";
import type { Job } from "../api/types";
import { useSession } from "./session";

type Order = paths["/api/jobs"]["post"]["requestBody"]["content"]["application/json"];
export type Working = ReturnType<typeof useJob>;

const LOOK_EVERY_MS = 350;
const under = (job: Job | undefined) => job?.state === "waiting" || job?.state === "running";

/** One job of a kind at a time: order it, see how far it is, stop it. Of a design (or, asked to `takeUp`, of one's own) the last one is
 * taken up again after a reload. */
export function useJob(kind: Order["kind"], design?: number, takeUp = false) {
  const me = useSession().session.user;
  const queries = useQueryClient();
  const [ordered, setOrdered] = useState<number | null>(null);
  const last = useQuery({
    queryKey: ["jobs", kind, design],
    queryFn: () => ask(api.GET("/api/jobs", { params: { query: { kind, design } } })),
    enabled: design !== undefined || takeUp,
    select: (list) => (takeUp ? list.find((j) => j.by === me) : list[0])?.id,
  }).data;
  const id = ordered ?? last ?? null;
  const key = ["job", id];
  const found = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: id ?? 0 } }, signal })),
    enabled: id !== null,
    refetchInterval: (q) => (q.state.data && !under(q.state.data) ? false : LOOK_EVERY_MS),
  });
  const ordering = useRef<Promise<Job> | null>(null);
  const order = useMutation({
    mutationFn: (body: Order) => {
      ordering.current = ask(api.POST("/api/jobs", { body }));
      return ordering.current;
    },
    onSuccess: (made) => {
      queries.setQueryData(["job", made.id], made);
      setOrdered(made.id);
    },
  });
  const stop = useMutation({
    // stopped before the server has said what it is called: once it has
    mutationFn: async () => {
      const made = (await ordering.current?.catch(() => null))?.id ?? id;
      return made === null ? null : ask(api.POST("/api/jobs/{job_id}/stop", { params: { path: { job_id: made } } }));
    },
    onSuccess: (now) => {
      if (now) queries.setQueryData(["job", now.id], now);
    },
  });
  const wrong = order.error ?? stop.error ?? (found.data ? null : found.error);
  return {
    job: found.data,
    busy: order.isPending || under(found.data),
    problem: wrong ? whatWentWrong(wrong) : "",
    order: order.mutate,
    stop: () => stop.mutate(),
    stopping: stop.isPending || !!found.data?.stop_asked,
  };
}
