import { useEffect } from "react";
import { Tabs } from "../../../ui";
import { Findings } from "../Findings";
import { useTable } from "../table";
import { GrindingProvider } from "./grinding";
import { Bevels } from "./tabs/Bevels";
import { Edge } from "./tabs/Edge";
import { Line } from "./tabs/Line";
import { TestEtch } from "./tabs/TestEtch";
import { Tolerances } from "./tabs/Tolerances";

/** The tabs of Grind in the order of the work; a new one is a file and a line here. */
const TABS = [
  { path: "line", name: "Core line", Page: Line },
  { path: "tolerances", name: "Tolerances", Page: Tolerances },
  { path: "etch", name: "Test etch", Page: TestEtch },
  { path: "bevels", name: "Bevel plan", Page: Bevels },
  { path: "edge", name: "Edge and weight", Page: Edge },
];

/** Where the blade is ground: its core line left against right, what errors do to it, readings and corrections, the bevel plan. */
export function GrindPlace() {
  const { document, ledger, problems, where, go } = useTable();
  // one that was read is looked at as read
  const usual = document.readings?.heights?.length ? "etch" : "line";
  const tab = TABS.find((t) => t.path === (where.tab || usual)) ?? TABS[0];
  // said in the address from the start: what is read later must not turn the page
  useEffect(() => {
    if (!where.tab) go({ tab: usual }, true);
  }, [where.tab, usual, go]);
  if (!document.blade || !ledger?.shape) {
    return (
      <div className="grid flex-1 place-items-center bg-panel p-6 text-center">
        <div className="max-w-lg">
          <p className="mb-3 text-quiet">
            {document.blade
              ? "The blade cannot be worked out yet: put right what is marked in Design."
              : "There is no blade in this design yet. Cut one from the bar in Design."}
          </p>
          <Findings findings={[]} problems={problems} />
        </div>
      </div>
    );
  }
  if (!tab) return null;
  return (
    <GrindingProvider>
      <div className="flex min-h-0 flex-1 flex-col bg-panel max-[800px]:flex-none">
        <div className="flex shrink-0 border-b border-line bg-ground px-3">
          <Tabs
            label="What is looked at"
            tabs={TABS.map((t) => t.name)}
            value={tab.name}
            onChange={(name) => go({ tab: TABS.find((t) => t.name === name)?.path ?? "" })}
          />
        </div>
        <tab.Page />
      </div>
    </GrindingProvider>
  );
}
