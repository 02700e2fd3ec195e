import { useMemo } from "react";
import { fieldsOf, type Schema } from "../../fields/schema";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { AimFields } from "../AimFields";
import { LineChart, NoCore, useGrinding } from "../grinding";
import { SizeFields, StudySays, StudyStart } from "../StudyTab";
import { studyKey } from "../useStudy";

/** Ten thousand blades with usual errors: how many would be good, and which error matters. */
export function Tolerances() {
  const { document, core, problems, change, catalogue } = useTable();
  const { study: doing, square } = useGrinding();
  const { run, start, cancel } = doing;
  const study = run.study;
  const fields = useMemo(() => fieldsOf(catalogue.sizes as Schema), [catalogue]);
  const over = study
    ? {
        trails: [
          {
            label: "usual blade",
            x: study.x,
            right: square(study.x, study.right.middle),
            left: square(study.x, study.left.middle),
            look: "middle" as const,
          },
        ],
        spread: {
          label: "nine blades in ten",
          x: study.x,
          right: [square(study.x, study.right.low), square(study.x, study.right.high)] as [number[], number[]],
          left: [square(study.x, study.left.low), square(study.x, study.left.high)] as [number[], number[]],
        },
      }
    : {};
  return (
    <Columns
      name="Tolerances"
      left={
        <Shell title="Your usual errors">
          <SizeFields document={document} fields={fields} problems={problems} change={change} />
          <div className="col-span-full mt-1 font-bold">Wanted</div>
          <AimFields document={document} band={core?.band ?? null} change={change} />
        </Shell>
      }
      right={
        core?.flat ? (
          <>
            <StudyStart
              run={run}
              stale={!!study && run.of !== studyKey(document)}
              onStart={() => void start(document)}
              onCancel={cancel}
            />
            {study ? (
              <StudySays study={study} band={core.band} fields={fields} />
            ) : (
              <p className="text-quiet">
                Makes ten thousand blades, each with errors as large as yours usually are, and says how many would be of first
                grade and which error matters most.
              </p>
            )}
          </>
        ) : null
      }
    >
      {core && (!core.stations.length || !core.flat) ? (
        <NoCore bent={!!core.stations.length} />
      ) : (
        <LineChart name="Tolerances" {...over} />
      )}
    </Columns>
  );
}
