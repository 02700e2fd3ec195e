import { FaultTracer } from "../../faults/FaultTracer";
import { useTable } from "../table";

/** What went wrong, with this design speaking for and against. */
export function WrongTab() {
  const { document } = useTable();
  return (
    <div role="tabpanel" aria-label="What went wrong?" className="min-h-0 flex-1 overflow-y-auto p-4 max-[800px]:flex-none">
      <FaultTracer document={document} />
    </div>
  );
}
