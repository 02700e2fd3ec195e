import { useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Document, Hardening } from "../../../api/types";
import { Button, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { Change } from "../draft";

/** The simulated tester and file on this blade: what they read goes into the plan. */
export function TesterButton({
  document,
  hardening,
  change,
}: {
  document: Pick<Document, "recipe" | "blade" | "off" | "fire" | "hardening">;
  hardening: Partial<Hardening>;
  change: (c: Change) => void;
}) {
  const toast = useToast();
  const [problem, setProblem] = useState("");
  const last = hardening.tempered?.at(-1);
  const stage = last && !last.hrc?.length ? "tempered" : "quenched";
  const read = () => {
    setProblem("");
    const seed = Math.floor(Math.random() * 1e6);
    ask(api.POST("/api/kiln/tester", { body: { document, stage, celsius: last?.celsius ?? 200, hours: last?.hours ?? 2, seed } }))
      .then(({ hrc, file }) => {
        const next =
          stage === "tempered"
            ? { tempered: (hardening.tempered ?? []).map((t, i, all) => (i === all.length - 1 ? { ...t, hrc } : t)) }
            : { hardened: { ...hardening.hardened, hrc, file } };
        change({ type: "plan", plan: { hardening: { ...hardening, ...next } as Hardening }, what: `hardening.tester.${seed}` });
        toast(`The tester reads ${hrc.join(", ")} HRC; a file ${file}. Both stand under Hardening.`);
      })
      .catch((e) => setProblem(whatWentWrong(e)));
  };
  return (
    <section aria-label="Tester and file">
      <h2 className="mb-1 font-bold">Tester and file</h2>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      <Button onClick={read}>Read the edge {stage === "tempered" ? "after the temper" : "as quenched"}</Button>
      <p className="mt-1 text-sm text-quiet">Simulated; your own readings go in under Hardening.</p>
    </section>
  );
}
