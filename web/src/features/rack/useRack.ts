import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { answered } from "../../api/answered";
import { api, ask, whatWentWrong } from "../../api/client";
import type { RackSheet } from "../../api/types";
import { useToast } from "../../ui/toast";

export const RACK_KEY = ["rack"];
export const movementsKey = (item: number) => ["movements", item];

export function useRack() {
  return useQuery({ queryKey: RACK_KEY, queryFn: () => ask(api.GET("/api/rack")), staleTime: 10_000 });
}

/** Changes of the rack: the answer is the rack as it is now; what went wrong is told in words. Whether it went well. */
export function useRackChange(): (asking: Promise<RackSheet>, said?: string, undo?: () => void) => Promise<boolean> {
  const queries = useQueryClient();
  const toast = useToast();
  return useCallback(
    (asking, said, undo) =>
      asking.then(
        async (rack) => {
          await answered(queries, RACK_KEY, rack);
          void queries.invalidateQueries({ queryKey: ["movements"] });
          void queries.invalidateQueries({ queryKey: ["worked", "cuts"] });
          if (said) toast(said, undo);
          return true;
        },
        (e) => {
          toast(whatWentWrong(e));
          void queries.invalidateQueries({ queryKey: RACK_KEY });
          return false;
        },
      ),
    [queries, toast],
  );
}
