import type { FinishSheet } from "../../../api/types";
import { useUnit } from "../../../app/session";
import { percent } from "../../../lib/units";
import { Notice } from "../../../ui";
import { Findings } from "../Findings";
import { Columns } from "../Panel";
import { useTable } from "../table";
import { Cycles } from "./Cycles";
import { Film } from "./Film";
import { useFinish } from "./finish";
import { Relief } from "./Relief";
import { Wanted } from "./Wanted";
import { micro } from "./words";

/** The bath and what is wanted of it; the film and the relief; cycle by cycle what is done. */
export function EtchTab() {
  const { sheet } = useFinish();
  const { problems } = useTable();
  const found = sheet.data;
  const wrong =
    sheet.failure?.kind === "invalid"
      ? sheet.failure.problems.map((p) => ({ ...p, path: p.path.replace(/^document\./, "") }))
      : [];
  return (
    <Columns name="Etch" scrolls left={<Wanted />} right={found ? <Cycles sheet={found} /> : null}>
      {wrong.length ? <Findings findings={[]} problems={wrong} /> : null}
      {sheet.failure && sheet.failure.kind !== "invalid" ? <Notice tone="stop">{sheet.failure.why}</Notice> : null}
      {found ? (
        <>
          <Film sheet={found} />
          <Relief sheet={found} />
          <Steels sheet={found} />
        </>
      ) : wrong.length || problems.length ? null : (
        <p className="m-auto animate-pulse text-quiet">Working out the etch…</p>
      )}
    </Columns>
  );
}

function Steels({ sheet }: { sheet: FinishSheet }) {
  const unit = useUnit();
  const most = Math.max(0.01, ...sheet.steels.map((s) => s.depths.at(-1) ?? 0));
  return (
    <table className="w-full max-w-3xl text-left">
      <thead className="text-sm text-quiet">
        <tr>
          <th className="font-normal">Steel on the face</th>
          <th className="text-right font-normal">of the face</th>
          <th className="text-right font-normal">eaten</th>
          <td className="w-1/3" />
        </tr>
      </thead>
      <tbody>
        {sheet.steels.map((s) => (
          <tr key={s.steel} className="border-t border-line">
            <td className="py-1 pr-2">{s.name}</td>
            <td className="text-right font-mono">{percent(s.share)}</td>
            <td className="text-right font-mono">{micro(s.depths.at(-1) ?? 0, unit)}</td>
            <td className="pl-3">
              <span className="block h-3 rounded bg-ink" style={{ width: `${(100 * (s.depths.at(-1) ?? 0)) / most}%` }} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
