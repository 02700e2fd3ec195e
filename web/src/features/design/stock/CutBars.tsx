import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { Lock, LockOpen } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { CutBar, CutPlan, LaidBar } from "../../../api/types";
import { useSay, useUnit } from "../../../app/session";
import { length, lengthText, sizes } from "../../../lib/units";
import { Button } from "../../../ui";
import { useSteelName } from "../../steels/useSteels";
import { type BarKey, keyed, locked, moved } from "./laid";

type BarsProps = {
  plan: CutPlan;
  held: string | null;
  onHold: (piece: string | null) => void;
  onLay: (laid: LaidBar[]) => void;
};

/** The bars with their cuts, to one scale; pieces go from one to another. */
export function CutBars({ plan, held, onHold, onLay }: BarsProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const [open, setOpen] = useState(false);
  const bars = keyed(plan);
  const longest = Math.max(1, ...plan.bars.map((b) => b.length), ...(open ? plan.spare.map((b) => b.length) : []));
  const held_bars = new Set(bars.filter((b) => b.bar.by_hand).map((b) => b.key));
  const put = (piece: string, to: BarKey) => onLay(moved(plan, piece, to));
  const lock = (key: BarKey) =>
    onLay(locked(plan, new Set(held_bars.has(key) ? [...held_bars].filter((k) => k !== key) : [...held_bars, key])));
  if (!bars.length && !plan.spare.length)
    return (
      <div className="m-auto max-w-md text-center">
        <p className="mb-2 font-bold">Nothing in the rack serves this design.</p>
        <p className="text-quiet">
          At the right is all that must be bought. What lies in your shop is entered in the{" "}
          <Link className="underline" to="/rack">
            rack
          </Link>
          .
        </p>
      </div>
    );
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={(e) => {
        if (e.over) put(String(e.active.id), String(e.over.id));
      }}
    >
      <ul className="flex flex-col gap-3" aria-label="Bars to cut">
        {bars.map(({ key, bar }) => (
          <Bar
            key={key}
            id={key}
            bar={bar}
            longest={longest}
            held={held}
            onHold={onHold}
            onLay={() => held && put(held, key)}
            onLock={() => lock(key)}
          />
        ))}
      </ul>
      {plan.spare.length ? (
        <section aria-label="Other bars that would serve" className="no-print">
          <button
            type="button"
            className="min-h-11 text-sm text-quiet underline"
            onClick={() => setOpen(!open)}
            aria-expanded={open}
          >
            {plan.spare.length} other {plan.spare.length === 1 ? "bar" : "bars"} of the rack would serve a piece
          </button>
          {open ? (
            <ul className="flex flex-col gap-3">
              {plan.spare.map((bar) => (
                <Bar
                  key={bar.code}
                  id={`${bar.code}#new`}
                  bar={bar}
                  longest={longest}
                  held={held}
                  onHold={onHold}
                  onLay={() => held && put(held, `${bar.code}#new`)}
                />
              ))}
            </ul>
          ) : null}
        </section>
      ) : null}
    </DndContext>
  );
}

function Bar({
  id,
  bar,
  longest,
  held,
  onHold,
  onLay,
  onLock,
}: {
  id: BarKey;
  bar: CutBar;
  longest: number;
  held: string | null;
  onHold: (piece: string | null) => void;
  onLay: () => void;
  onLock?: () => void;
}) {
  const steel = useSteelName();
  const unit = useUnit();
  const say = useSay();
  const { setNodeRef, isOver } = useDroppable({ id });
  const whole = Math.max(
    bar.length,
    bar.cuts.reduce((sum, c) => sum + c.length, 0),
  );
  const mine = bar.cuts.some((c) => c.piece === held);
  return (
    <li ref={setNodeRef} className={`rounded-lg border p-2 ${bar.wrong ? "border-stop" : isOver ? "border-ink" : "border-line"}`}>
      <div className="mb-1 flex items-center gap-3">
        <span className="min-w-0 flex-1">
          <b className="font-mono">{bar.code}</b> {steel(bar.steel)}, {bar.form}{" "}
          {sizes([bar.width, bar.thickness, bar.length], unit)}
        </span>
        {held && !mine ? (
          <Button compact onClick={onLay}>
            Lay it here
          </Button>
        ) : null}
        {onLock ? (
          <Button
            kind="quiet"
            compact
            label={bar.by_hand ? `Let ${bar.code} go` : `Lock ${bar.code} as it is`}
            pressed={bar.by_hand}
            onClick={onLock}
          >
            {bar.by_hand ? <Lock size={16} aria-hidden /> : <LockOpen size={16} aria-hidden />}
          </Button>
        ) : null}
      </div>
      <div className="flex h-11 overflow-hidden rounded" style={{ width: `${Math.max(8, (100 * whole) / longest)}%` }}>
        {bar.cuts.map((c, i) => (
          <Piece
            key={c.piece}
            piece={c.piece}
            says={c.says}
            how={say(c.how)}
            mm={c.length}
            whole={whole}
            odd={i % 2 === 1}
            held={held === c.piece}
            onHold={() => onHold(held === c.piece ? null : c.piece)}
          />
        ))}
        {bar.left > 0.5 ? (
          <span
            className={`grid min-w-0 flex-1 place-items-center overflow-hidden border border-dashed text-sm whitespace-nowrap ${bar.keep ? "border-note bg-note-wash" : "border-care bg-care-wash"}`}
            title={bar.keep ? "worth keeping" : "too short to keep"}
          >
            {bar.left > 0.12 * longest ? `${length(bar.left, unit)} ${bar.keep ? "kept" : "left"}` : ""}
          </span>
        ) : null}
      </div>
      {bar.wrong ? <p className="mt-1 text-sm text-stop">{say(bar.wrong)}.</p> : null}
      {bar.cuts.some((c) => c.how) ? (
        <p className="mt-1 text-sm text-quiet">
          {[...new Set(bar.cuts.map((c) => c.how).filter(Boolean))].map((h) => say(h)).join("; ")}
        </p>
      ) : null}
    </li>
  );
}

function Piece({
  piece,
  says,
  how,
  mm,
  whole,
  odd,
  held,
  onHold,
}: {
  piece: string;
  says: string;
  how: string;
  mm: number;
  whole: number;
  odd: boolean;
  held: boolean;
  onHold: () => void;
}) {
  const unit = useUnit();
  const { setNodeRef, listeners, attributes, transform } = useDraggable({ id: piece });
  return (
    <button
      ref={setNodeRef}
      {...listeners}
      {...attributes}
      type="button"
      aria-pressed={held}
      onClick={onHold}
      title={[says, length(mm, unit), how].filter(Boolean).join(", ")}
      className={`min-w-0 touch-none overflow-hidden border-r-2 border-panel px-1 text-center text-xs leading-tight whitespace-nowrap ${held ? "bg-accent text-on-accent" : odd ? "bg-[#6f6b64] text-white" : "bg-[#57534d] text-white"}`}
      style={{
        width: `${(100 * mm) / whole}%`,
        transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
        zIndex: transform ? 10 : undefined,
        position: transform ? "relative" : undefined,
      }}
    >
      <span aria-hidden>
        {says.replace("layer ", "").replace("bar ", "")}
        <span className="block font-mono">{lengthText(mm, unit)}</span>
      </span>
      <span className="sr-only">
        {says}, {length(mm, unit)}
      </span>
    </button>
  );
}
