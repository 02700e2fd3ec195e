import { Findings } from "../Findings";
import { TabbedPlace } from "../Panel";
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
  const { document, ledger, problems } = useTable();
  // one that was read is looked at as read
  const usual = document.readings?.heights?.length ? "etch" : "line";
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
  return (
    <GrindingProvider>
      <TabbedPlace label="What is looked at" tabs={TABS} usual={usual} />
    </GrindingProvider>
  );
}
