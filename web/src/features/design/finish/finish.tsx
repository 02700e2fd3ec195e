import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useState } from "react";
import { api, ask } from "../../../api/client";
import type { BathKept, Document, FinishPlan, FinishSheet } from "../../../api/types";
import { type Answer, useWorkedOut } from "../../../api/worked";
import { BATHS_KEY } from "../../baths/key";
import { useTable } from "../table";

/** What the tabs of Finish share: the sheet, the shop's baths and the one chosen, and a way to change what the design says. */
export type Finish = {
  sheet: Answer<FinishSheet>;
  plan: Partial<FinishPlan>;
  put: (next: Partial<FinishPlan>, what: string) => void;
  baths: BathKept[];
  /** One of the shop's, in place of the design's own. */
  bath: number | null;
  setBath: (id: number | null) => void;
  asked: { document: Partial<Document>; bath: number | null };
};

const Context = createContext<Finish | null>(null);

export function useFinish(): Finish {
  const found = useContext(Context);
  if (!found) throw new Error("outside Finish");
  return found;
}

export function FinishProvider({ children }: { children: ReactNode }) {
  const { document, change } = useTable();
  const [bath, setBath] = useState<number | null>(null);
  const { recipe, blade, off, fire, hardening, handle, finish } = document;
  const asked = { document: { recipe, blade, off, fire, hardening, handle, finish }, bath };
  const sheet = useWorkedOut<FinishSheet>("finish", asked, (body, signal) =>
    ask(api.POST("/api/finish/sheet", { body, signal })),
  );
  const baths = useQuery({ queryKey: BATHS_KEY, queryFn: () => ask(api.GET("/api/finish/baths")) });
  const plan = finish ?? {};
  const put = (next: Partial<FinishPlan>, what: string) =>
    change({ type: "plan", plan: { finish: { ...plan, ...next } as FinishPlan }, what: `finish.${what}` });
  const there = (baths.data ?? []).filter((b) => !b.gone);
  return <Context value={{ sheet, plan, put, baths: there, bath, setBath, asked }}>{children}</Context>;
}
