import { useInfiniteQuery } from "@tanstack/react-query";
import { api, ask } from "./client";

const PAGE = 200;

/** The saves of a design, newest first, a page at a time: for every place that lists them. */
export function useSaves(id: number, enabled = true) {
  const path = { design_id: id };
  const list = useInfiniteQuery({
    queryKey: ["revisions", id],
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/designs/{design_id}/revisions", { params: { path, query: pageParam ? { before: pageParam } : {} } })),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length === PAGE ? last.at(-1)?.number : undefined),
    enabled,
  });
  return { ...list, saves: list.data?.pages.flat() ?? [] };
}
