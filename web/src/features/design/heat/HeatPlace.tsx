import { api, ask } from "../../../api/client";
import type { FireSheet } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { Notice, Tabs, Toggle } from "../../../ui";
import { Findings } from "../Findings";
import { sentence } from "../fields/problems";
import { useTable } from "../table";
import { CarbonTab } from "./CarbonTab";
import { FiresTab } from "./FiresTab";
import { HardeningTab } from "./HardeningTab";
import { KilnTab } from "./KilnTab";

const TABS = ["Fires", "Carbon", "Hardening", "Kiln"] as const;

/** What the fire does to the billet, carbon across the layers, and how the blade is hardened. */
export function HeatPlace() {
  const { design, name, document, problems, change, undo, ledger, plate, where, go } = useTable();
  const tab = TABS.find((t) => t.toLowerCase() === where.tab) ?? "Fires";
  const { recipe, blade, off, fire } = document;
  const answer = useWorkedOut<FireSheet>("fire", { document: { recipe, blade, off, fire } }, (body, signal) =>
    ask(api.POST("/api/heat/fire", { body, signal })),
  );
  const sheet = answer.data;
  const wrong =
    answer.failure?.kind === "invalid"
      ? answer.failure.problems.map((p) => ({ ...p, path: p.path.replace(/^document\./, "") }))
      : problems;
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-panel max-[800px]:flex-none">
      <h1 className="hidden p-3 text-xl font-bold print:block">
        {name}: {tab.toLowerCase()}
      </h1>
      <div className="no-print flex shrink-0 items-center border-b border-line bg-ground px-3 max-[640px]:flex-wrap">
        <div className="flex min-w-0 flex-1 max-[640px]:basis-full">
          <Tabs label="What is looked at" tabs={TABS} value={tab} onChange={(t) => go({ tab: t.toLowerCase() })} />
        </div>
        <Toggle label="Faces as the fire leaves them" checked={plate.fired} onChange={plate.setFired} />
      </div>
      {sheet && answer.failure ? (
        <Notice tone="stop">
          {wrong.map((p) => sentence(p)).join(" ") || (answer.failure.kind === "invalid" ? "" : answer.failure.why)} Below is what
          was worked out before.
        </Notice>
      ) : null}
      {sheet ? (
        tab === "Fires" ? (
          <FiresTab document={document} sheet={sheet} problems={wrong} change={change} undo={undo} />
        ) : tab === "Carbon" ? (
          <CarbonTab document={document} sheet={sheet} />
        ) : tab === "Hardening" ? (
          <HardeningTab document={document} problems={problems} change={change} />
        ) : (
          <KilnTab id={design.id} document={document} change={change} />
        )
      ) : answer.failure ? (
        <div className="mx-auto max-w-lg p-6">
          <p className="mb-3 text-quiet">The fires cannot be worked out until this is put right.</p>
          <Findings findings={[]} problems={wrong} />
        </div>
      ) : (
        <p className={`m-auto text-quiet ${ledger ? "animate-pulse" : ""}`}>Working out the heats…</p>
      )}
    </div>
  );
}
