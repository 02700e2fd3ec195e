import { useState } from "react";
import type { Entry } from "../../../api/types";
import { useSay } from "../../../app/session";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { FaultTracer, type Traced as Said } from "../../faults/FaultTracer";
import { useFaultName } from "../../faults/useFaultName";
import type { Written } from "../keeper";
import { looksText } from "../log/entryText";
import { useBuild } from "../useBuild";

type Fault = Extract<Entry, { kind: "fault" }>;

/** What went wrong with this build: what was written down of it, gone on with where it was left, or something new. */
export function Traced() {
  const fault = useFaultName();
  const { info, state, keeper } = useBuild();
  const say = useSay();
  const toast = useToast();
  const [going, setGoing] = useState<Fault | null>(null);
  const faults = Object.values(state.operations).flatMap((o) => o.faults.filter((f) => f.kind === "fault"));
  const keep = async (found: Said, says: string) => {
    const text = going?.text || says;
    const taken: Written[] = going ? [{ op: going.op ?? "", kind: "voided", entry: going.id, why: "traced further" }] : [];
    const written = await keeper.write([{ op: going?.op ?? "", kind: "fault", text, ...found }, ...taken]);
    setGoing(null);
    // undone, what was written before counts again
    toast("Written into the log.", () => {
      void keeper.write(written.map((e) => ({ op: e.op ?? "", kind: "voided", entry: e.id, why: "undone" })));
    });
  };
  return (
    <section aria-label="What went wrong" className="mt-2">
      {faults.length ? (
        <>
          <h2 className="mb-1 text-lg font-bold">Written down of it</h2>
          <ul className="mb-4">
            {faults.map((f) => (
              <li key={f.id} className="flex min-h-11 flex-wrap items-center gap-3 border-b border-line">
                <span>
                  {say(f.text || fault(f.fault ?? ""))}
                  <span className="text-quiet">{looksText(f.answers)}</span>
                </span>
                <span className="ml-auto">
                  {f.fault ? (
                    <Button
                      compact
                      pressed={going?.id === f.id}
                      label={`Go on tracing: ${f.text || fault(f.fault ?? "")}`}
                      onClick={() => setGoing(f)}
                    >
                      Go on tracing
                    </Button>
                  ) : null}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      <FaultTracer
        key={going?.id ?? "new"}
        build={info.id}
        {...(going ? { traced: { fault: going.fault ?? "", answers: going.answers ?? {} } } : {})}
        onKeep={(found, says) => void keep(found, says)}
      />
    </section>
  );
}
