import { useToast } from "../../../ui/toast";
import { FaultTracer } from "../../faults/FaultTracer";
import { useTable } from "../table";

/** What went wrong, with this design speaking for and against; the plan changed by a click. */
export function WrongTab() {
  const { document, change, undo } = useTable();
  const toast = useToast();
  return (
    <div role="tabpanel" aria-label="What went wrong?" className="min-h-0 flex-1 overflow-y-auto p-4 max-[800px]:flex-none">
      <FaultTracer
        document={document}
        onChange={(changed, says) => {
          change({ type: "document", document: changed });
          toast(`${says}: done.`, undo);
        }}
      />
    </div>
  );
}
