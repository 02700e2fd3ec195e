import { useState } from "react";
import { api, ask } from "../../../api/client";
import type { Document, FireSheet, ProblemItem } from "../../../api/types";
import { Notice, Tabs, Toggle } from "../../../ui";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { sentence } from "../fields/problems";
import { useWorkedOut } from "../usePrediction";
import { CarbonTab } from "./CarbonTab";
import { FiresTab } from "./FiresTab";
import { HardeningTab } from "./HardeningTab";
import { KilnTab } from "./KilnTab";

const TABS = ["Fires", "Carbon", "Hardening", "Kiln"] as const;
type Tab = (typeof TABS)[number];

/** What the fire does to the billet, carbon across the layers, and how the blade is hardened. */
export function HeatPlace({
  id,
  name,
  document,
  problems,
  change,
  undo,
  fired,
  onFired,
  waiting,
}: {
  id: number;
  name: string;
  document: Document;
  problems: ProblemItem[];
  change: (c: Change) => void;
  undo: () => void;
  /** The faces above as the fire leaves them. */
  fired: boolean;
  onFired: (on: boolean) => void;
  waiting: boolean;
}) {
  const [tab, setTab] = useState<Tab>("Fires");
  const { recipe, blade, off, fire } = document;
  const answer = useWorkedOut<FireSheet>({ document: { recipe, blade, off, fire } }, (body, signal) =>
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
          <Tabs label="What is looked at" tabs={TABS} value={tab} onChange={setTab} />
        </div>
        <Toggle label="Faces as the fire leaves them" checked={fired} onChange={onFired} />
      </div>
      {sheet && answer.failure ? (
        <Notice tone="stop">
          {wrong.map((p) => sentence(p)).join(" ") || "The server cannot be reached."} Below is what was worked out before.
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
          <KilnTab id={id} document={document} change={change} />
        )
      ) : answer.failure ? (
        <div className="mx-auto max-w-lg p-6">
          <p className="mb-3 text-quiet">The fires cannot be worked out until this is put right.</p>
          <Findings findings={[]} problems={wrong} />
        </div>
      ) : (
        <p className={`m-auto text-quiet ${waiting ? "" : "animate-pulse"}`}>Working out the heats…</p>
      )}
    </div>
  );
}
