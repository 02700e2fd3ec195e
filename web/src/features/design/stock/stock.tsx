import { createContext, type ReactNode, useContext } from "react";
import { api, ask } from "../../../api/client";
import type { Document, RiskCurve, StockPlan, StockSheet, WayOut } from "../../../api/types";
import { type Answer, useWorkedOut } from "../../../api/worked";
import { useTable } from "../table";

/** What the tabs of Stock share: the sheet, what may give way, the risk, and a way to change what the design says of its stock. */
export type Stock = {
  sheet: Answer<StockSheet>;
  ways: Answer<{ short: boolean; ways: WayOut[] }>;
  risk: Answer<RiskCurve>;
  plan: StockPlan;
  put: (next: Partial<StockPlan>, what: string) => void;
  /** What the answers hang on. */
  asked: { document: Partial<Document> };
};

const Context = createContext<Stock | null>(null);

export function useStock(): Stock {
  const found = useContext(Context);
  if (!found) throw new Error("outside Stock");
  return found;
}

export function StockProvider({ children }: { children: ReactNode }) {
  const { document, change } = useTable();
  const { recipe, blade, off, stock, fire } = document;
  const asked = { document: { recipe, blade, off, stock, fire } };
  const sheet = useWorkedOut<StockSheet>("stock", asked, (body, signal) => ask(api.POST("/api/stock/sheet", { body, signal })));
  const ways = useWorkedOut<{ short: boolean; ways: WayOut[] }>("stock-ways", asked, (body, signal) =>
    ask(api.POST("/api/stock/ways", { body, signal })),
  );
  const risk = useWorkedOut<RiskCurve>(
    "stock-risk",
    asked,
    (body, signal) => ask(api.POST("/api/stock/risk", { body, signal })),
    !!blade && !stock?.need,
  );
  const plan = stock ?? {};
  const put = (next: Partial<StockPlan>, what: string) => change({ type: "plan", plan: { stock: { ...plan, ...next } }, what });
  return <Context value={{ sheet, ways, risk, plan, put, asked }}>{children}</Context>;
}
