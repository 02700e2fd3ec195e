import type { Finding, ProblemItem } from "../../api/types";
import { useSay } from "../../app/session";
import { sentence } from "./fields/problems";
import { GRADES } from "./words";

const WASH = { note: "bg-note-wash border-note", care: "bg-care-wash border-care", stop: "bg-stop-wash border-stop" };
const INK = { note: "text-note", care: "text-care", stop: "text-stop" };

/** Findings in a smith's words: what, why, what to do. */
export function Findings({ findings, problems, quiet }: { findings: Finding[]; problems: ProblemItem[]; quiet?: string }) {
  const say = useSay();
  if (!findings.length && !problems.length) return quiet ? <p className="text-quiet">{quiet}</p> : null;
  return (
    <ul className="flex flex-col gap-2" aria-live="polite">
      {problems.map((p) => (
        <li key={p.path + p.wrong} className={`rounded-lg border-l-4 px-3 py-2 ${WASH.stop}`}>
          <p className={`text-sm font-semibold ${INK.stop}`}>
            <span aria-hidden>{GRADES.stop.mark}</span> Cannot be done
          </p>
          <p>{say(sentence(p))}</p>
        </li>
      ))}
      {findings.map((f) => (
        <li key={f.code + (f.field ?? "") + f.what} className={`rounded-lg border-l-4 px-3 py-2 ${WASH[f.grade]}`}>
          <p className={`text-sm font-semibold ${INK[f.grade]}`}>
            <span aria-hidden>{GRADES[f.grade].mark}</span> {GRADES[f.grade].word}
          </p>
          <p className="font-semibold">{say(f.what)}</p>
          <p>{say(f.why)}</p>
          <p>{say(f.do)}</p>
        </li>
      ))}
    </ul>
  );
}
