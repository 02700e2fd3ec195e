import { Link } from "react-router";
import type { EtchBath } from "../../../api/types";
import { useDegrees, useUnit } from "../../../app/session";
import { percent, temperature } from "../../../lib/units";
import { Choice, Segments, Toggle } from "../../../ui";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";
import { Shell } from "../Panel";
import { Coupon } from "./Coupon";
import { useFinish } from "./finish";
import { ETCHANT, micro, minutes, nail, RELIEFS, USUAL_BATH, USUAL_STRENGTH } from "./words";

/** No relief is asked for: a light one, or tone alone where the steels hardly part. */
const OPEN = "usual";

/** The relief and the bath it is wanted of. */
export function Wanted() {
  const { plan, put, sheet, baths, bath, setBath } = useFinish();
  const unit = useUnit();
  const heat = useDegrees();
  const own: EtchBath = { ...USUAL_BATH, ...plan.bath };
  const relief = plan.relief ?? Math.round(10 * (sheet.data?.wanted ?? 6)) / 10;
  const named = plan.relief == null ? OPEN : (RELIEFS.find((r) => Math.abs(r.um - relief) < 0.05)?.name ?? "");
  const kept = baths.find((b) => b.id === bath);
  return (
    <Shell title="What is wanted">
      <div className="col-span-full">
        <Segments
          snug
          titled
          label="Relief"
          value={named}
          options={[OPEN, ...RELIEFS.map((r) => r.name)].map((name) => ({ value: name, label: name }))}
          onChange={(name) => put({ relief: RELIEFS.find((r) => r.name === name)?.um ?? null }, "relief")}
        />
      </div>
      <div className="col-span-full">
        <Measure
          label={`Deepest under shallowest: ${nail(relief, sheet.data?.felt ?? 8, sheet.data?.catches ?? 25)}`}
          unit="µm"
          value={relief}
          slider
          span={[1, 40, 0.5]}
          hint={unit === "mm" ? undefined : micro(relief, unit)}
          optional
          onChange={(v) => put({ relief: v == null ? null : Math.min(200, Math.max(0.5, v)) }, "relief")}
        />
      </div>
      {sheet.data?.for_tone ? (
        <p className="col-span-full text-sm text-quiet">
          These steels hardly part in the bath, so it is planned for tone: until the dark is dark. A relief would cost the blade
          several times its own depth.
        </p>
      ) : null}
      <div className="col-span-full">
        <Choice
          titled
          label="Bath"
          value={bath === null ? "own" : String(bath)}
          options={[
            { value: "own", label: "one to be mixed" },
            ...baths.map((b) => ({
              value: String(b.id),
              label: b.name,
              hint: `${b.says}, ${b.bath.strength} %, ${percent(b.used)} used`,
            })),
          ]}
          onChange={(v) => setBath(v === "own" ? null : Number(v))}
        />
      </div>
      {kept ? (
        <p className="col-span-full text-sm">
          {kept.says}, {kept.bath.strength} % at {temperature(kept.bath.temperature ?? 20, heat)}, {kept.bath.litres} l.{" "}
          {percent(kept.used)} of its iron is in it{kept.renew ? ": it is time for a new one" : ""}.{" "}
          <Link className="underline underline-offset-4" to={`/baths?bath=${kept.id}`}>
            The bath
          </Link>
        </p>
      ) : (
        <>
          <div className="col-span-full">
            <Choice
              titled
              label="Etchant"
              value={own.what ?? "ferric"}
              options={Object.entries(ETCHANT).map(([value, label]) => ({ value, label }))}
              onChange={(what) =>
                put(
                  { bath: { ...own, what: what as EtchBath["what"], strength: USUAL_STRENGTH[what] ?? 10, temperature: 20 } },
                  "bath.what",
                )
              }
            />
          </div>
          <MeasureRows<EtchBath>
            of={own}
            put={(next, what) => put({ bath: { ...own, ...next } }, `bath.${what}`)}
            rows={[
              {
                name: "strength",
                label: "Strength",
                unit: "%",
                usual: 10,
                hint: own.what === "coffee" ? "g in 100 ml" : "by weight",
              },
              { name: "temperature", label: "At", unit: "C", usual: 20 },
              { name: "litres", label: "Bath", unit: "l", usual: 4 },
            ]}
          />
        </>
      )}
      <MeasureRows
        of={plan}
        put={put}
        rows={[
          {
            name: "cycle",
            label: "A cycle",
            unit: "min",
            least: 0.5,
            most: 240,
            placeholder: "as the bath asks",
            hint: "the first is 1 min",
          },
          { name: "polish", label: "Tops polished every", unit: "cycles", usual: 2, whole: true, most: 20, hint: "0: never" },
        ]}
      />
      <div className="col-span-full">
        <Toggle label="The bath is kept moving" checked={plan.moved ?? false} onChange={(moved) => put({ moved }, "moved")} />
      </div>
      <div className="col-span-full">
        <Segments
          snug
          titled
          label="Last, for tone"
          value={plan.tone ?? "none"}
          options={[
            { value: "none", label: "nothing" },
            { value: "coffee", label: "coffee" },
            { value: "muriatic", label: "muriatic" },
          ]}
          onChange={(tone) => put({ tone }, "tone")}
        />
      </div>
      <MarkFields />
      <Coupon />
    </Shell>
  );
}

function MarkFields() {
  const { plan, put, sheet } = useFinish();
  const mark = plan.mark;
  const found = sheet.data?.mark;
  return (
    <>
      <div className="col-span-full">
        <Toggle
          label="Marked by stencil and current"
          checked={!!mark}
          onChange={(on) => put({ mark: on ? { area: 40, amperes: 1, depth: 25 } : null }, "mark")}
        />
      </div>
      {mark ? (
        <>
          <MeasureRows
            of={mark}
            put={(next, what) => put({ mark: { ...mark, ...next } }, `mark.${what}`)}
            rows={[
              { name: "area", label: "Bare area", unit: "mm²", usual: 40, least: 0.1, most: 2000 },
              { name: "amperes", label: "Current", unit: "A", usual: 1, least: 0.01, most: 50 },
              { name: "depth", label: "Deep", unit: "µm", usual: 25, least: 0.1, most: 500 },
            ]}
          />
          {found ? (
            <p className="self-center text-sm">
              {minutes(found.seconds / 60)} of current, in {found.bursts} bursts
            </p>
          ) : null}
        </>
      ) : null}
    </>
  );
}
