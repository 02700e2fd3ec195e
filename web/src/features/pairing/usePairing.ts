import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Purpose } from "./purpose";

/** Every two in use: a verdict each. */
export function useMatrix(steels: string[], purpose: Purpose) {
  return useQuery({
    queryKey: ["pairing", "matrix", steels, purpose],
    queryFn: () => ask(api.POST("/api/pairings/matrix", { body: { steels, ...purpose } })),
    enabled: steels.length > 1,
    placeholderData: keepPreviousData,
  });
}

export function useSuggestions(within: string[], purpose: Purpose) {
  return useQuery({
    queryKey: ["pairing", "suggest", within, purpose],
    queryFn: () => ask(api.POST("/api/pairings/suggest", { body: { within, ...purpose } })),
    placeholderData: keepPreviousData,
  });
}

export function usePair(steels: string[], shares: number[], purpose: Purpose) {
  return useQuery({
    queryKey: ["pairing", "pair", steels, shares, purpose],
    queryFn: () => ask(api.POST("/api/pairings", { body: { steels, shares, ...purpose } })),
    enabled: steels.length > 1,
    placeholderData: keepPreviousData,
  });
}
