import type { Operation } from "../../../api/types";
import { useSay } from "../../../app/session";
import { useBuild } from "../useBuild";

/** Questions answered by looking, with what the answers mean. */
export function Checks({ op }: { op: Operation }) {
  const { of, keeper } = useBuild();
  const say = useSay();
  const answers = of(op.id).answers;
  return (
    <ul aria-label="Look" className="mt-3 flex max-w-[46rem] flex-col gap-2">
      {op.checks.map((c, i) => {
        if (c.applies === false) return null;
        const said = answers[i];
        const tell = (good: boolean) => void keeper.write([{ op: op.id, kind: "checked", check: i, good }]);
        return (
          <li
            key={c.ask}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 rounded-lg border border-line bg-panel px-4 py-2"
          >
            <p className="min-w-60 flex-1 text-xl">{say(c.ask)}</p>
            <span className="flex gap-2">
              <Answer on={said === true} onClick={() => tell(true)}>
                good
              </Answer>
              <Answer on={said === false} bad onClick={() => tell(false)}>
                not good
              </Answer>
            </span>
            <p className={`basis-full ${said === false ? "text-lg font-semibold text-stop" : "text-quiet"}`}>
              {say(said === false ? c.bad : c.good)}
            </p>
          </li>
        );
      })}
    </ul>
  );
}

function Answer({ on, bad, onClick, children }: { on: boolean; bad?: boolean; onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-14 min-w-24 rounded-lg border px-4 text-lg ${on ? (bad ? "border-stop bg-stop-wash font-bold text-stop" : "border-accent bg-note-wash font-bold") : "border-edge bg-well"}`}
    >
      {children}
    </button>
  );
}
