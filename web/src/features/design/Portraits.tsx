import { type ReactNode, useEffect, useRef } from "react";
import type { BarId, Document, Ledger, Portrait, StepId } from "../../api/types";
import { useUnit } from "../../app/session";
import { pathOf } from "./bars";
import type { Chosen } from "./chosen";
import { barSize, GRADES, worst } from "./words";

export const PX_PER_MM = 1.5;
export const SHOWN_MM = 80;
/** A longer bar is shown broken off. */
const BROKEN_OFF = "polygon(0 0, 100% 0, calc(100% - 5px) 28%, 100% 52%, calc(100% - 6px) 74%, calc(100% - 1px) 100%, 0 100%)";

export type CardCommon = {
  document: Document;
  ledger: Ledger | null;
  /** The open bar. */
  bar: BarId;
  portraits: Portrait[];
  chosen: Chosen;
  onChoose: (c: Chosen) => void;
};

/** One bar in the row: end grain and side, its name, its size. */
export function Portraits({
  id,
  step,
  name,
  isOff,
  grip,
  document,
  ledger,
  bar,
  portraits,
  chosen,
  onChoose,
}: CardCommon & { id: Chosen; step: StepId | null; name: string; isOff?: boolean; grip?: ReactNode }) {
  const unit = useUnit();
  const portrait = portraits.find((p) => (p.step ?? null) === step);
  const line = ledger?.rows.find((r) => (r.step ?? null) === step);
  const prefix = `${pathOf(document, bar)}.${id === "start" ? "start" : `steps[${id}]`}`;
  const broken = ledger?.problems.some((p) => p.path.startsWith(prefix)) ?? false;
  const grade = broken ? "stop" : worst((line?.findings ?? []).map((f) => f.grade));
  return (
    <Frame id={id} chosen={chosen} onChoose={onChoose} grip={grip}>
      <span className="flex h-[4.6rem] items-end gap-2">
        {portrait && line && !isOff ? (
          <BarPortrait portrait={portrait} line={line} />
        ) : (
          <Missing off={isOff} broken={broken} still={!!ledger?.problems.length} />
        )}
      </span>
      <span className="flex items-center gap-1.5 pr-7 font-semibold">
        {name}
        {grade && grade !== "note" ? <Mark grade={grade} /> : null}
      </span>
      <span className="font-mono text-[0.8rem] text-quiet">
        {isOff ? "switched off" : line ? barSize(line, unit) : broken ? "cannot be done" : "…"}
      </span>
    </Frame>
  );
}

function Mark({ grade }: { grade: "care" | "stop" }) {
  const ink = grade === "stop" ? "text-stop" : "text-care";
  return (
    <span className={`text-sm ${ink}`}>
      <span aria-hidden>{GRADES[grade].mark}</span>
      <span className="sr-only">{GRADES[grade].word}</span>
    </span>
  );
}

function BarPortrait({ portrait, line }: { portrait: Portrait; line: { length: number; width: number; thickness: number } }) {
  const h = Math.max(2, line.thickness * PX_PER_MM);
  const cut = portrait.shown_mm < line.length - 0.5;
  return (
    <>
      <img
        src={portrait.end}
        alt=""
        style={{ width: Math.max(3, line.width * PX_PER_MM), height: h }}
        draggable={false}
        className="shrink-0"
      />
      <img
        src={portrait.side}
        alt=""
        style={{ width: portrait.shown_mm * PX_PER_MM, height: h, clipPath: cut ? BROKEN_OFF : undefined }}
        draggable={false}
      />
    </>
  );
}

/** still: a bar that stops earlier never gets here, and nothing is on its way. */
function Missing({ off, broken, still }: { off?: boolean; broken?: boolean; still?: boolean }) {
  return (
    <span
      className={`grid h-10 w-28 place-items-center rounded border border-dashed border-edge text-sm text-quiet ${off || broken || still ? "" : "animate-pulse"}`}
    >
      {off ? "off" : broken ? "stops here" : ""}
    </span>
  );
}

function Frame({
  id,
  chosen,
  onChoose,
  children,
  grip,
}: {
  id: Chosen;
  chosen: Chosen;
  onChoose: (c: Chosen) => void;
  children: ReactNode;
  grip?: ReactNode;
}) {
  const ref = useRef<HTMLButtonElement>(null);
  const on = chosen === id;
  useEffect(() => {
    if (on) ref.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [on]);
  return (
    <span className="relative flex">
      <button
        ref={ref}
        type="button"
        aria-current={on ? "step" : undefined}
        data-chosen-id={String(id)}
        onClick={() => onChoose(id)}
        className={`flex min-w-32 flex-col items-start gap-0.5 rounded-xl border-2 px-2.5 py-1.5 text-left whitespace-nowrap ${on ? "border-ink bg-panel" : "border-transparent hover:bg-panel/60"}`}
      >
        {children}
      </button>
      {grip}
    </span>
  );
}

/** The blade, last in the row. */
export function BladeCard({ document, ledger, chosen, onChoose }: CardCommon) {
  const unit = useUnit();
  const shape = ledger?.shape;
  const broken = ledger?.problems.some((p) => p.path.startsWith("blade"));
  const grade = broken ? "stop" : worst((ledger?.findings ?? []).map((f) => f.grade));
  const outline = document.blade?.outline;
  const height = outline && "height" in outline ? outline.height : shape ? shape.high - shape.low : 0;
  return (
    <li className="flex items-stretch">
      <Frame id="blade" chosen={chosen} onChoose={onChoose}>
        <span className="flex h-[4.6rem] items-end">
          <svg aria-hidden width={120} height={34} viewBox="0 0 120 34">
            <path
              d="M4 6 H84 Q104 8 116 24 Q92 30 70 30 H4 Z"
              fill={document.blade ? "#6d675d" : "none"}
              stroke="var(--edge)"
              strokeDasharray={document.blade ? "" : "4 4"}
            />
          </svg>
        </span>
        <span className="flex items-center gap-1.5 font-semibold">
          {document.blade ? "Blade" : "Add a blade"}
          {grade && grade !== "note" ? <Mark grade={grade} /> : null}
        </span>
        <span className="font-mono text-[0.8rem] text-quiet">
          {shape
            ? barSize(
                { form: "rectangle", length: shape.length, width: height, thickness: document.blade?.spine_thickness.heel ?? 0 },
                unit,
              )
            : document.blade
              ? "…"
              : "none yet"}
        </span>
      </Frame>
    </li>
  );
}
