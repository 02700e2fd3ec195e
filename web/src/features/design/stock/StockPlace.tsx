import { TabbedPlace } from "../Panel";
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
  return (
    <StockProvider>
      <TabbedPlace label="What of the stock" tabs={TABS} usual="piles" />
    </StockProvider>
  );
}
