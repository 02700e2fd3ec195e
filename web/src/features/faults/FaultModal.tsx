import { Modal } from "../../ui";
import { FaultTracer } from "./FaultTracer";
import { faultSubject } from "./subject";

/** What went wrong, from anywhere: the design or build in sight speaks too. */
export function FaultModal({ onClose }: { onClose: () => void }) {
  const about = faultSubject();
  return (
    <Modal open onClose={onClose} title="What went wrong?" huge>
      <div className="max-h-[78dvh] overflow-y-auto">
        <FaultTracer {...about} />
      </div>
    </Modal>
  );
}
