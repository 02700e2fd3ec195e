import { Notice } from "../../../../ui";
import { Findings } from "../../Findings";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { Glance, useGrinding, why } from "../grinding";
import { BeltFields, BevelPlan } from "../MeasuresTab";

/** Belt by belt: how far up the bevel stands, and what is left behind the edge. */
export function Bevels() {
  const { ledger, problems } = useTable();
  const { measures, takes, setTakes } = useGrinding();
  const m = measures.data;
  return (
    <Columns
      name="Bevel plan"
      left={<Shell title="Belts">{m ? <BeltFields measures={m} takes={takes} onTakes={setTakes} /> : null}</Shell>}
      right={
        <>
          <Glance />
          <Findings findings={(ledger?.findings ?? []).filter((f) => f.grade !== "note")} problems={problems} />
        </>
      }
    >
      {m ? <BevelPlan measures={m} /> : <Measuring wrong={why(measures.failure)} />}
    </Columns>
  );
}

export function Measuring({ wrong }: { wrong: string }) {
  return wrong ? <Notice tone="stop">{wrong}</Notice> : <p className="m-auto animate-pulse text-quiet">Measuring…</p>;
}
