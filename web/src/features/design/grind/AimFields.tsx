import type { Aim, CoreLine, Document } from "../../../api/types";
import { Segments } from "../../../ui";
import type { Change } from "../draft";
import { MeasureRows } from "../fields/MeasureRows";
import { Fold } from "../Panel";

type Props = { document: Document; band: CoreLine["band"] | null; change: (c: Change) => void };

/** Where the core line is wanted: two schools, and the smith's own numbers. */
export function AimFields({ document, band, change }: Props) {
  const aim = document.aim ?? {};
  const put = (next: Partial<Aim>, what: string) =>
    change({ type: "plan", plan: { aim: { ...aim, ...next } }, what: `aim.${what}` });
  const said = (mm: number | undefined) => (mm === undefined ? "" : `${Math.round(mm * 10) / 10}`);
  return (
    <>
      <div className="col-span-full">
        <Segments<NonNullable<Aim["school"]>>
          titled
          label="The core shows"
          value={aim.school ?? "supported"}
          options={[
            { value: "supported", label: "little" },
            { value: "bold", label: "boldly" },
          ]}
          onChange={(school) => put({ school, low: null, high: null }, "school")}
        />
        <p className="mt-0.5 text-sm leading-tight text-quiet">
          {aim.school === "bold"
            ? "A broad band of core; the clad ends well up the bevel."
            : "The clad carries the core to near the edge."}
        </p>
      </div>
      <MeasureRows<Aim>
        of={aim}
        put={put}
        rows={[
          { name: "low", label: "Line not under", unit: "mm", placeholder: said(band?.low) },
          { name: "high", label: "Line not over", unit: "mm", placeholder: said(band?.high) },
        ]}
      />
      <Fold title="left against right, where it is judged, steel to leave">
        <MeasureRows<Aim>
          of={aim}
          put={put}
          rows={[{ name: "difference", label: "Left and right within", unit: "mm", placeholder: said(band?.difference) }]}
        />
        <span />
        <MeasureRows<Aim>
          of={aim}
          put={put}
          rows={[
            { name: "start", label: "Judged from", unit: "share", min: 0, max: 1, usual: 0.05, hint: "of the length" },
            { name: "end", label: "Judged to", unit: "share", min: 0, max: 1, usual: 0.85, hint: "of the length" },
            { name: "edge_least", label: "Edge left at least", unit: "mm", usual: 0.15 },
            { name: "spine_least", label: "Spine left at least", unit: "mm", usual: 1 },
          ]}
        />
      </Fold>
    </>
  );
}
