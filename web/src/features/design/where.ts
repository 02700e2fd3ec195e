/** Where one is inside a design, as the address says it: /design/:id/:place/:tab?bar=&view= */

import { useCallback, useMemo } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { BarId } from "../../api/types";

export type Where = {
  id: number;
  /** Path of a place of the design; empty: the first. */
  place: string;
  /** What is chosen in it, as the place understands it; empty: what it shows first. */
  tab: string;
  /** The open bar; empty: the whole. */
  bar: BarId;
  /** How it is looked at; empty: as at first. */
  view: string;
};

export function addressOf({ id, place, tab, bar, view }: Where): string {
  const path = ["/design", id, ...(place ? [place, ...(tab ? [encodeURIComponent(tab)] : [])] : [])].join("/");
  const query = new URLSearchParams([...(bar ? [["bar", bar]] : []), ...(view ? [["view", view]] : [])]).toString();
  return query ? `${path}?${query}` : path;
}

/** Where one is, and a way to go elsewhere: `quietly` without a step for the browser's "back". */
export function useWhere(): { where: Where; go: (next: Partial<Where>, quietly?: boolean) => void } {
  const { id = "", place = "", tab = "" } = useParams();
  const [query] = useSearchParams();
  const navigate = useNavigate();
  const bar = query.get("bar") ?? "";
  const view = query.get("view") ?? "";
  const where = useMemo(() => ({ id: Number(id), place, tab, bar, view }), [id, place, tab, bar, view]);
  const go = useCallback(
    (next: Partial<Where>, quietly = false) => void navigate(addressOf({ ...where, ...next }), { replace: quietly }),
    [where, navigate],
  );
  return { where, go };
}
