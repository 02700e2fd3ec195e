import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";

/** All that can be seen to go wrong. */
export function useFaults() {
  return useQuery({
    queryKey: ["faults"],
    queryFn: () => ask(api.GET("/api/finish/faults")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** A fault in the trade's words, by its key: "a thin black line at a weld"; one of the shop's own words is its own name. */
export function useFaultName(): (key: string) => string {
  const list = useFaults();
  return (key) => {
    const says = list.data?.find((f) => f.key === key)?.says ?? key.replaceAll("_", " ");
    return says.charAt(0).toLowerCase() + says.slice(1);
  };
}
