import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Catalogue } from "../../api/types";

/** What can be started from and done, with the schemas of their fields. */
export function useCatalogue(): Catalogue | undefined {
  return useQuery({ queryKey: ["catalogue"], queryFn: () => ask(api.GET("/api/catalogue")), staleTime: Number.POSITIVE_INFINITY })
    .data;
}
