/** Where one is inside a build, as the address says it: /build/:id/:tab/:op? */

import { useCallback } from "react";
import { useNavigate, useParams } from "react-router";

export type Tab = "sheet" | "log" | "photos" | "finish" | "sum";
const TABS: readonly string[] = ["sheet", "log", "photos", "finish", "sum"];

export const buildAddress = (id: number, tab: Tab = "sheet", op = ""): string =>
  `/build/${id}/${tab}${op ? `/${encodeURIComponent(op)}` : ""}`;

export function useWhere(): { id: number; tab: Tab; op: string; go: (op: string, tab?: Tab) => void } {
  const { id = "", tab = "sheet", op = "" } = useParams();
  const navigate = useNavigate();
  const number = Number(id);
  const here = TABS.includes(tab) ? (tab as Tab) : "sheet";
  const go = useCallback(
    (next: string, to: Tab = here) => void navigate(buildAddress(number, to, next)),
    [number, here, navigate],
  );
  return { id: number, tab: here, op, go };
}
