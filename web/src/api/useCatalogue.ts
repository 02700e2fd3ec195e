import { type UseQueryResult, useQuery } from "@tanstack/react-query";
import { api, ask } from "./client";
import type { Catalogue } from "./types";

/** What can be started from and done, with the schemas of their fields: as it is fetched. */
export function useCatalogueQuery(): UseQueryResult<Catalogue> {
  return useQuery({
    queryKey: ["catalogue"],
    queryFn: () => ask(api.GET("/api/catalogue")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The same once it is there. */
export function useCatalogue(): Catalogue | undefined {
  return useCatalogueQuery().data;
}
