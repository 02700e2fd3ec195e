import type { Against } from "../../api/types";
import { useSay } from "../../app/session";
import { GRADES } from "./words";

/** What a change of the design makes worse, in a line each, told before it is taken. */
export function Worse({ worse }: { worse: Against[] }) {
  const say = useSay();
  const lines = new Map<string, Against>();
  for (const a of worse) lines.set(`${a.where} ${a.finding.code}`, a);
  if (!lines.size) return null;
  return (
    <ul aria-label="What this makes worse" className="my-1 text-sm">
      {[...lines.values()].map((a) => {
        const fails = a.finding.grade === "stop";
        return (
          <li key={`${a.where} ${a.finding.code}`} className={fails ? "text-stop" : "text-care"}>
            <span aria-hidden>{GRADES[fails ? "stop" : "care"].mark}</span> Then {say(a.where)}: {say(a.finding.what)}
          </li>
        );
      })}
    </ul>
  );
}
