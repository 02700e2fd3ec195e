import { Link } from "react-router";
import type { Against as AgainstOne, Document } from "../../../api/types";
import { useSay } from "../../../app/session";
import { addressOf } from "../where";
import { GRADES } from "../words";

const WASH = { stop: "border-stop bg-stop-wash", care: "border-care bg-care-wash" };
const INK = { stop: "text-stop", care: "text-care" };

/** Codes of what fails of a design: who begins it all the same names them. */
export function failing(found: AgainstOne[]): string[] {
  return [...new Set(found.filter((a) => a.finding.grade === "stop").map((a) => a.finding.code))];
}

/** What fails of a design and what needs care, each with the place where it is mended. */
export function Against({ found, design, document }: { found: AgainstOne[]; design: number; document: Document }) {
  const say = useSay();
  const alike = new Map<string, AgainstOne>();
  for (const a of found) alike.set(`${a.where} ${a.finding.code}`, a);
  return (
    <ul aria-label="What fails or needs care" className="flex flex-col gap-2">
      {[...alike.values()].map((a) => {
        const grade = a.finding.grade === "stop" ? "stop" : "care";
        const bar = a.bar === document.recipe.bar.id ? "" : a.bar;
        const tab = a.bar ? (a.step ?? "start") : "blade";
        return (
          <li key={`${a.where} ${a.finding.code}`} className={`border-l-4 px-3 py-1.5 ${WASH[grade]}`}>
            <p>
              <span className={`font-semibold ${INK[grade]}`}>
                <span aria-hidden>{GRADES[grade].mark}</span> {GRADES[grade].word}
              </span>
              {", "}
              <Link className="underline" to={addressOf({ id: design, place: "bar", tab, bar, view: "" })}>
                {say(a.where)}
              </Link>
            </p>
            <p className="font-semibold">{say(a.finding.what)}</p>
            <p>{say(a.finding.do)}</p>
          </li>
        );
      })}
    </ul>
  );
}
