import { Findings } from "../Findings";
import { TabbedPlace } from "../Panel";
import { useTable } from "../table";
import { EdgeTab } from "./EdgeTab";
import { EtchTab } from "./EtchTab";
import { FitUpTab } from "./FitUpTab";
import { FinishProvider } from "./finish";
import { SandTab } from "./SandTab";
import { WrongTab } from "./WrongTab";

/** The tabs of Finish in the order of the work; a new one is a file and a line here. */
const TABS = [
  { path: "sanding", name: "Sanding", Page: SandTab },
  { path: "etch", name: "Etch", Page: EtchTab },
  { path: "fit-up", name: "Fit up", Page: FitUpTab },
  { path: "edge", name: "Edge and test", Page: EdgeTab },
  { path: "wrong", name: "What went wrong?", Page: WrongTab },
];

/** The last day: from the belt to the blade handed over. */
export function FinishPlace() {
  const { document, problems } = useTable();
  if (!document.blade)
    return (
      <div className="mx-auto max-w-lg p-8 text-center">
        <h2 className="mb-2 text-xl font-bold">There is no blade in this design yet</h2>
        <p className="mb-4 text-quiet">Finish begins with one: lay it on the bar in Design, under Blade.</p>
        <Findings findings={[]} problems={problems} />
      </div>
    );
  return (
    <FinishProvider>
      <TabbedPlace label="What of the finish" tabs={TABS} usual="etch" />
    </FinishProvider>
  );
}
