import type { Aim, CoreLine, Document } from "../../../api/types";
import { Segments } from "../../../ui";
import type { Change } from "../draft";
import { Measure } from "../fields/Measure";
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
        <span className="mb-0.5 block text-sm text-quiet">The core shows</span>
        <Segments<NonNullable<Aim["school"]>>
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
      <Measure
        label="Line not under"
        unit="mm"
        optional
        placeholder={said(band?.low)}
        value={aim.low ?? null}
        onChange={(low) => put({ low }, "low")}
      />
      <Measure
        label="Line not over"
        unit="mm"
        optional
        placeholder={said(band?.high)}
        value={aim.high ?? null}
        onChange={(high) => put({ high }, "high")}
      />
      <Fold title="left against right, where it is judged, steel to leave">
        <Measure
          label="Left and right within"
          unit="mm"
          optional
          placeholder={said(band?.difference)}
          value={aim.difference ?? null}
          onChange={(difference) => put({ difference }, "difference")}
        />
        <span />
        <Measure
          label="Judged from"
          unit="share"
          min={0}
          max={1}
          value={aim.start ?? 0.05}
          hint="of the length"
          onChange={(v) => put({ start: v ?? 0.05 }, "start")}
        />
        <Measure
          label="Judged to"
          unit="share"
          min={0}
          max={1}
          value={aim.end ?? 0.85}
          hint="of the length"
          onChange={(v) => put({ end: v ?? 0.85 }, "end")}
        />
        <Measure
          label="Edge left at least"
          unit="mm"
          value={aim.edge_least ?? 0.15}
          onChange={(v) => put({ edge_least: v ?? 0.15 }, "edge")}
        />
        <Measure
          label="Spine left at least"
          unit="mm"
          value={aim.spine_least ?? 1}
          onChange={(v) => put({ spine_least: v ?? 1 }, "spine")}
        />
      </Fold>
    </>
  );
}
