import { Modal } from "../../ui";
import { FaultTracer, type Traced } from "./FaultTracer";
import { faultSubject } from "./subject";

/** What went wrong, from anywhere: the design or build in sight speaks too. */
export function FaultModal({
  onClose,
  traced,
  onKeep,
}: {
  onClose: () => void;
  traced?: Traced;
  onKeep?: (traced: Traced, says: string) => void;
}) {
  const about = faultSubject();
  return (
    <Modal open onClose={onClose} title="What went wrong?" huge>
      <div className="max-h-[78dvh] overflow-y-auto">
        <FaultTracer {...about} {...(traced ? { traced } : {})} {...(onKeep ? { onKeep } : {})} />
      </div>
    </Modal>
  );
}
