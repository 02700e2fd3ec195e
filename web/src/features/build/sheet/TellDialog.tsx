import { Suspense, useState } from "react";
import type { Operation } from "../../../api/types";
import { useSay } from "../../../app/session";
import { lazily } from "../../../lib/rest";
import { Button, Modal, Toggle } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { Traced } from "../../faults/FaultTracer";
import type { Written } from "../keeper";
import { looksText } from "../log/entryText";
import { useBuild } from "../useBuild";

const FaultModal = lazily(() => import("../../faults/FaultModal").then((m) => m.FaultModal));

export type Telling = "note" | "fault" | "skipped" | "redone";
const WORDS: Record<Telling, { title: string; ask: string; done: string; needed: boolean }> = {
  note: { title: "A note", ask: "What should be remembered of it?", done: "Noted.", needed: true },
  fault: { title: "What went wrong?", ask: "What is seen, and where?", done: "Written down.", needed: true },
  skipped: { title: "Skip it", ask: "Why is it not done?", done: "Skipped.", needed: true },
  redone: { title: "Once more", ask: "Why is it done again?", done: "It is open again.", needed: false },
};

/** Something in one's own words. */
export function TellDialog({ op, telling, onClose }: { op: Operation; telling: Telling | null; onClose: () => void }) {
  const { keeper } = useBuild();
  const say = useSay();
  const toast = useToast();
  const [text, setText] = useState("");
  const [again, setAgain] = useState(false);
  const [tracing, setTracing] = useState(false);
  const [traced, setTraced] = useState<Traced>();
  const words = WORDS[telling ?? "note"];
  const close = () => {
    setText("");
    setAgain(false);
    setTraced(undefined);
    onClose();
  };
  const tell = async () => {
    const said = text.trim();
    if (!telling || (words.needed && !said)) return;
    const of: Record<Telling, Written> = {
      note: { op: op.id, kind: "note", text: said },
      fault: { op: op.id, kind: "fault", text: said, ...traced },
      skipped: { op: op.id, kind: "skipped", why: said },
      redone: { op: op.id, kind: "redone", why: said },
    };
    const more: Written[] = telling === "fault" && again ? [{ op: op.id, kind: "redone", why: said }] : [];
    const written = await keeper.write([of[telling], ...more]);
    toast(words.done, () => void keeper.write(written.map((e) => ({ op: op.id, kind: "voided", entry: e.id, why: "undone" }))));
    close();
  };
  return (
    <Modal open={telling !== null} onClose={close} title={`${words.title}: ${say(op.title)}`}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void tell();
        }}
      >
        <label className="mb-3 block">
          <span className="mb-1 block text-quiet">{words.ask}</span>
          <textarea
            rows={4}
            maxLength={2000}
            value={text}
            onChange={(e) => setText(e.target.value)}
            className="w-full rounded-lg border border-edge bg-well p-3 text-lg"
          />
        </label>
        {telling === "fault" ? (
          <p className="mb-2">
            <Button onClick={() => setTracing(true)}>What does it come from?</Button>{" "}
            {traced ? <span className="text-quiet">traced{looksText(traced.answers)}</span> : null}
          </p>
        ) : null}
        {tracing ? (
          <Suspense fallback={null}>
            <FaultModal
              {...(traced ? { traced } : {})}
              onClose={() => setTracing(false)}
              onKeep={(found, says) => {
                setTraced(found);
                setText((before) => before.trim() || says);
                setTracing(false);
              }}
            />
          </Suspense>
        ) : null}
        {telling === "fault" ? <Toggle label="It is to be done once more" checked={again} onChange={setAgain} /> : null}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={close}>Leave it</Button>
          <Button kind="main" type="submit" disabled={words.needed && !text.trim()}>
            {words.title === "A note" ? "Keep" : "Write it down"}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
