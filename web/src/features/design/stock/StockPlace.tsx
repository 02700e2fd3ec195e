import { useEffect } from "react";
import { Tabs } from "../../../ui";
import { useTable } from "../table";
import { StockProvider } from "./stock";
import { CutList } from "./tabs/CutList";
import { Piles } from "./tabs/Piles";
import { TimeMoney } from "./tabs/TimeMoney";

/** The tabs of Stock in the order of the work; a new one is a file and a line here. */
const TABS = [
  { path: "piles", name: "Piles", Page: Piles },
  { path: "cuts", name: "Cut list", Page: CutList },
  { path: "time", name: "Time and money", Page: TimeMoney },
];

/** From the finished blade back to the bars to cut. */
export function StockPlace() {
  const { where, go } = useTable();
  const usual = TABS[0]?.path ?? "";
  const tab = TABS.find((t) => t.path === (where.tab || usual)) ?? TABS[0];
  useEffect(() => {
    if (!where.tab) go({ tab: usual }, true);
  }, [where.tab, usual, go]);
  if (!tab) return null;
  return (
    <StockProvider>
      <div className="flex min-h-0 flex-1 flex-col bg-panel max-[800px]:flex-none">
        <div className="no-print flex shrink-0 border-b border-line bg-ground px-3">
          <Tabs
            label="What of the stock"
            tabs={TABS.map((t) => t.name)}
            value={tab.name}
            onChange={(name) => go({ tab: TABS.find((t) => t.name === name)?.path ?? "" })}
          />
        </div>
        <tab.Page />
      </div>
    </StockProvider>
  );
}
