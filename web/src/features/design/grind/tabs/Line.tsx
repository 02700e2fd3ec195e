import { Findings } from "../../Findings";
import { Columns, Fold, Shell } from "../../Panel";
import { useTable } from "../../table";
import { AimFields } from "../AimFields";
import { ErrorSliders } from "../ErrorsTab";
import { Glance, LineChart, NoCore } from "../grinding";
import { Standing } from "../Standing";

/** Where the core comes out, and what errors do to it. */
export function Line() {
  const { document, ledger, core, problems, change } = useTable();
  return (
    <Columns
      name="Core line"
      left={
        <Shell title="How far from true">
          <Fold title="what is wanted of the line">
            <AimFields document={document} band={core?.band ?? null} change={change} />
          </Fold>
          {document.blade ? (
            <ErrorSliders document={document} blade={document.blade} problems={problems} change={change} />
          ) : null}
        </Shell>
      }
      right={
        <>
          {core ? (
            <Standing core={core}>
              <Glance />
            </Standing>
          ) : null}
          <Findings findings={(ledger?.findings ?? []).filter((f) => f.grade !== "note")} problems={problems} />
        </>
      }
    >
      {core && !core.stations.length ? <NoCore bent={false} /> : <LineChart name="Core line" />}
    </Columns>
  );
}
