import { Heart, ThumbsDown } from "lucide-react";
import { useGrams, useSay, useUnit } from "../../app/session";
import { length, percent } from "../../lib/units";
import { Button } from "../../ui";
import { hoursText } from "../design/stock/time";
import { type Answer, type Feature, faceOf, onScale } from "./scale";

export type Verdict = "liked" | "disliked" | null;

/** A design that comes near: its face, how it is made, what it takes, where it is otherwise than asked. */
export function AnswerCard({
  answer,
  features,
  mark,
  wants,
  verdict,
  onVerdict,
  onOpen,
  opening,
}: {
  answer: Answer;
  features: Feature[];
  mark: string;
  wants: { feature: string; value: number }[];
  verdict: Verdict;
  onVerdict: (next: Verdict) => void;
  onOpen: (() => void) | null;
  opening: boolean;
}) {
  const say = useSay();
  const unit = useUnit();
  const grams = useGrams();
  const d = answer.details;
  const off = wants
    .map((w) => {
      const f = features.find((x) => x.key === w.feature);
      const got = answer.features[w.feature];
      if (!f || got === undefined) return null;
      const by = onScale(f, got) - onScale(f, w.value);
      return Math.abs(by) > 0.1 ? `more ${by > 0 ? f.high_word : f.low_word} than asked` : null;
    })
    .filter((x): x is string => x !== null);
  const toggle = (v: "liked" | "disliked") => onVerdict(verdict === v ? null : v);
  return (
    <li className="flex flex-col overflow-hidden rounded-xl border border-line bg-panel">
      <img
        src={faceOf(answer.candidate, 480, mark)}
        alt={`${answer.family}: ${say(answer.says)}`}
        loading="lazy"
        className="aspect-[5/1] w-full bg-plate object-contain"
      />
      <div className="flex flex-1 flex-col gap-1 p-3">
        <h2 className="font-bold">{answer.family}</h2>
        <p className="text-sm text-quiet">{say(answer.says)}</p>
        <p className="text-sm">
          {answer.off < 0.02 ? "As asked" : `${percent(answer.off)} off what you asked, at the mean`}
          {off.length ? `: ${off.slice(0, 3).join(", ")}` : ""}
        </p>
        <p className="font-mono text-sm">{d ? `${d.heats} heats, ${hoursText(d.minutes)}, costs ${Math.round(d.money)}` : "…"}</p>
        {d ? (
          <p className="font-mono text-sm text-quiet">
            from {grams(d.mass)}, lost {percent(d.loss)}, short 1 in {Math.max(1, Math.round(1 / Math.max(d.short, 0.001)))}
            {d.finest === null || d.finest === undefined ? "" : `, finest layer ${length(d.finest, unit)}`}
          </p>
        ) : null}
        {d?.warns.slice(0, 2).map((w) => (
          <p key={w} className="border-l-4 border-care pl-2 text-sm">
            {say(w)}
          </p>
        ))}
        <div className="mt-auto flex flex-wrap gap-2 pt-2">
          <Button compact label="More like this" pressed={verdict === "liked"} onClick={() => toggle("liked")}>
            <Heart size={18} aria-hidden fill={verdict === "liked" ? "currentColor" : "none"} />
          </Button>
          <Button compact label="Not like this" pressed={verdict === "disliked"} onClick={() => toggle("disliked")}>
            <ThumbsDown size={18} aria-hidden fill={verdict === "disliked" ? "currentColor" : "none"} />
          </Button>
          {onOpen ? (
            <span className="ml-auto">
              <Button onClick={onOpen} disabled={opening}>
                Open as a design
              </Button>
            </span>
          ) : null}
        </div>
      </div>
    </li>
  );
}
