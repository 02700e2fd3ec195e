import { useSay, useUnit } from "../../../app/session";
import { hair, length, percent, UNIT_MARK } from "../../../lib/units";
import { Choice } from "../../../ui";
import { Columns, Shell } from "../Panel";
import { useFinish } from "./finish";
import { minutes } from "./words";

const PAPERS = ["P400", "P600", "P800", "P1000", "P1500", "P2000"].map((value) => ({ value, label: value }));

/** Belts and paper as one sequence: what each takes, where the bevel line then is, how long. */
export function SandTab() {
  const { sheet, plan, put } = useFinish();
  const say = useSay();
  const unit = useUnit();
  const found = sheet.data;
  const sanding = found?.sanding;
  const cm2 = (mm2: number) => (unit === "mm" ? `${(mm2 / 100).toFixed(0)} cm²` : `${(mm2 / 645.16).toFixed(1)} in²`);
  const tops = (sanding?.grits ?? []).map((g) => g.right?.top ?? 0);
  const [first, last] = [Math.min(...tops), Math.max(...tops)];
  const along = (v: number) => 8 + (92 * (v - first)) / Math.max(0.01, last - first);
  return (
    <Columns
      name="Sanding"
      scrolls
      left={
        <Shell title="How far">
          <div className="col-span-full">
            <Choice
              titled
              label="Sanded to"
              value={plan.last ?? "P800"}
              options={PAPERS}
              onChange={(last) => put({ last }, "last")}
            />
          </div>
          <p className="col-span-full text-sm text-quiet">{sanding ? say(sanding.stops) : ""}</p>
          {found ? (
            <dl className="col-span-full grid grid-cols-[1fr_auto] gap-x-3">
              {(
                [
                  ["Bevels", found.areas.bevel],
                  ["Flats", found.areas.flat],
                  ["Ricasso and plunge", found.areas.ricasso + found.areas.plunge],
                  ["Swedge", found.areas.swedge],
                  ["Fuller", found.areas.fuller],
                  ["Back", found.areas.spine],
                ] as [string, number][]
              )
                .filter(([, v]) => v > 0)
                .map(([name, v]) => (
                  <div key={name} className="contents">
                    <dt className="text-quiet">{name}</dt>
                    <dd className="text-right font-mono">{cm2(v)}</dd>
                  </div>
                ))}
            </dl>
          ) : null}
        </Shell>
      }
      right={
        sanding ? (
          <section aria-label="What it comes to">
            <h3 className="text-lg font-bold">{minutes(sanding.minutes)} in all</h3>
            <p>
              At {sanding.hardness.toFixed(0)} HRC{sanding.soft > 0.01 ? `, ${percent(sanding.soft)} of the face soft` : ""}.
              Indicative: time a few of your own, they are learned.
            </p>
            <ul className="mt-3 list-disc pl-4">
              {Object.values(sanding.rules).map((r) => (
                <li key={r} className="mb-1">
                  {say(r)}
                </li>
              ))}
            </ul>
            <p className="mt-3 text-sm text-quiet">
              A hardened edge is sharp before it is sharpened: hold it in a block. Wet, or with a mask: dust of nickel and
              chromium steel hurts the lungs.
            </p>
          </section>
        ) : null
      }
    >
      {sanding ? (
        <table className="w-full text-left">
          <thead className="text-sm text-quiet">
            <tr className="border-b border-line">
              <th className="py-2 font-normal">Grit</th>
              <th className="text-right font-normal">Off each face, {UNIT_MARK[unit]}</th>
              <th className="text-right font-normal">Bevel line</th>
              <th className="text-right font-normal">Edge</th>
              <th className="text-right font-normal">Time</th>
              <td className="w-1/4" />
            </tr>
          </thead>
          <tbody>
            {sanding.grits.map((g) => (
              <tr key={g.grit} className="border-b border-line">
                <td className="py-2">
                  {g.grit} <span className="text-sm text-quiet">{g.by_hand ? "by hand" : "belt"}</span>
                </td>
                <td className="text-right font-mono">{g.takes ? hair(g.takes, unit) : "shapes"}</td>
                <td className="text-right font-mono">{g.right ? length(g.right.top, unit) : "–"}</td>
                <td className="text-right font-mono">{g.right ? length(g.right.edge, unit) : "–"}</td>
                <td className="text-right font-mono">{minutes(g.minutes)}</td>
                <td className="pl-3">
                  {g.right ? <span className="block h-2 rounded bg-ink" style={{ width: `${along(g.right.top)}%` }} /> : null}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <p className="m-auto animate-pulse text-quiet">Working out the papers…</p>
      )}
      {sanding && !sanding.grits.some((g) => g.right) ? (
        <p className="text-sm text-quiet">The bevel goes up to the back: it has no line that a belt could lift.</p>
      ) : null}
    </Columns>
  );
}
