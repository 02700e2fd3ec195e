import { ArrowDown, ArrowUp, Copy, FlipHorizontal2, FolderOpen, Plus, X } from "lucide-react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Assembly, Bar, BarId, Document, ProblemItem } from "../../api/types";
import { Button } from "../../ui";
import { useToast } from "../../ui/toast";
import { copied } from "./bars";
import type { Change } from "./draft";
import { sentence, under } from "./fields/problems";

/** The bars of an assembly, the highest (or the one furthest back) on top: open, copy, make the opposite twist, move, take out. */
export function BarsList({
  document,
  bar,
  start,
  problems,
  change,
  onOpen,
}: {
  document: Document;
  bar: BarId;
  start: Assembly;
  problems: ProblemItem[];
  change: (c: Change) => void;
  onOpen: (bar: BarId) => void;
}) {
  const bars = start.bars as Bar[];
  const toast = useToast();
  const put = (next: Bar[]) => change({ type: "bars", bar, bars: next });
  const after = (i: number, made: Bar) => put(bars.toSpliced(i + 1, 0, copied(made)));
  const opposite = (i: number) =>
    ask(api.POST("/api/predict/fresh-bar", { body: { document, bar: bars[i]?.id ?? "", kind: "opposite" } }))
      .then((made) => after(i, made.bar as unknown as Bar))
      .catch((e) => toast(`No bar was made. ${whatWentWrong(e)}`));
  const swap = (i: number, j: number) => {
    put(bars.with(i, bars[j] as Bar).with(j, bars[i] as Bar));
  };
  const first = { plug: ["plate", "plug"], slot: ["plate", "inlay"], jacket: ["core", "jacket"] } as Record<string, string[]>;
  return (
    <div className="col-span-full">
      <span className="text-sm text-quiet">{bars.length === 1 ? "1 bar" : `${bars.length} bars`}</span>
      {under(problems, "bars")
        .concat(problems.filter((p) => p.path === ""))
        .map((p) => (
          <p key={p.wrong} role="alert" className="text-sm text-stop">
            {sentence(p)}
          </p>
        ))}
      <ol className="flex flex-col-reverse gap-1">
        {bars.map((child, i) => (
          <li key={child.id} className="rounded-lg border border-line px-2 py-1" aria-label={`Bar ${i + 1}`}>
            <div className="flex items-center gap-1">
              <span className="w-8 shrink-0 font-mono text-quiet">{i + 1}</span>
              <input
                aria-label={`Name of bar ${i + 1}`}
                className="min-h-11 min-w-0 flex-1 rounded-lg border border-transparent bg-transparent px-1 hover:border-edge focus:border-edge"
                placeholder={first[start.join]?.[i] ?? "unnamed"}
                value={child.note ?? ""}
                maxLength={60}
                onChange={(e) => change({ type: "label", bar: child.id ?? "", note: e.target.value })}
              />
              <Button compact onClick={() => onOpen(child.id ?? "")}>
                <FolderOpen size={15} aria-hidden /> Open
              </Button>
            </div>
            <div className="flex flex-wrap">
              <Button kind="quiet" compact label={`Copy bar ${i + 1}`} onClick={() => after(i, child)}>
                <Copy size={15} aria-hidden />
              </Button>
              <Button
                kind="quiet"
                compact
                label={`Make the opposite twist of bar ${i + 1}`}
                disabled={!twists(child)}
                onClick={() => void opposite(i)}
              >
                <FlipHorizontal2 size={15} aria-hidden />
              </Button>
              <Button
                kind="quiet"
                compact
                label={`Bar ${i + 1} one up`}
                disabled={i === bars.length - 1}
                onClick={() => swap(i, i + 1)}
              >
                <ArrowUp size={15} aria-hidden />
              </Button>
              <Button kind="quiet" compact label={`Bar ${i + 1} one down`} disabled={i === 0} onClick={() => swap(i, i - 1)}>
                <ArrowDown size={15} aria-hidden />
              </Button>
              <Button
                kind="quiet"
                compact
                label={`Take bar ${i + 1} out`}
                disabled={bars.length === 1}
                onClick={() => put(bars.toSpliced(i, 1))}
              >
                <X size={15} aria-hidden />
              </Button>
            </div>
          </li>
        ))}
      </ol>
      <div className="mt-1">
        <Button compact onClick={() => after(bars.length - 1, bars.at(-1) as Bar)}>
          <Plus size={15} aria-hidden /> One more bar
        </Button>
      </div>
    </div>
  );
}

function twists(bar: Bar): boolean {
  const own = (bar.steps ?? []).some((s) => s.kind === "twist" || (s.kind === "relief" && !!s.slant));
  return own || (bar.start.kind === "assembly" && (bar.start.bars as Bar[]).some(twists));
}
