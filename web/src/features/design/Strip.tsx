import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from "@dnd-kit/sortable";
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { GripVertical, Plus } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { useUnit } from "../../app/session";
import type { Catalogue, Document, Ledger, Portrait, Step } from "../../api/types";
import { stepsOf } from "./draft";
import { usePortraits } from "./usePrediction";
import { barSize, GRADES, stepDetail, worst } from "./words";

/** What is chosen in the row: the start, a step by its index, or the blade. */
export type Chosen = "start" | "blade" | number;

const PX_PER_MM = 1.5;
const SHOWN_MM = 80;
/** A longer bar is shown broken off. */
const BROKEN_OFF = "polygon(0 0, 100% 0, calc(100% - 5px) 28%, 100% 52%, calc(100% - 6px) 74%, calc(100% - 1px) 100%, 0 100%)";

type Props = {
  document: Document;
  ledger: Ledger | null;
  catalogue: Catalogue;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  onInsert: (at: number, kind: string) => void;
  onMove: (from: number, to: number) => void;
};

/** The bar drawn to one scale after every step; choose one to change the step that made it. */
export function Strip({ document, ledger, catalogue, chosen, onChoose, onInsert, onMove }: Props) {
  const portraits = usePortraits(document, PX_PER_MM * 1.5, SHOWN_MM).data ?? [];
  const steps = stepsOf(document);
  const off = new Set(document.off ?? []);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(Number(active.id) - 1, Number(over.id) - 1);
  };
  const ids = steps.map((_, i) => i + 1);
  const common = { ledger, portraits, chosen, onChoose };
  return (
    <nav aria-label="The bar after each step" className="no-print shrink-0 overflow-x-auto border-b border-line bg-ground">
      <ol className="flex w-max min-w-full items-stretch px-3 py-1.5">
        <li className="flex items-stretch">
          <Portraits
            {...common}
            id="start"
            name={catalogue.step_words[document.recipe.bar.start.kind]?.name ?? "Start"}
            row={null}
          />
          <Insert at={0} catalogue={catalogue} onInsert={onInsert} />
        </li>
        <DndContext
          accessibility={{ container: window.document.body }}
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={onDragEnd}
        >
          <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
            {steps.map((step, i) => (
              <SortableCard
                // biome-ignore lint/suspicious/noArrayIndexKey: a step has no name but its place
                key={i}
                {...common}
                index={i}
                step={step}
                isOff={off.has(i)}
                name={catalogue.step_words[step.kind]?.name ?? step.kind}
                after={<Insert at={i + 1} catalogue={catalogue} onInsert={onInsert} />}
              />
            ))}
          </SortableContext>
        </DndContext>
        <BladeCard {...common} document={document} />
      </ol>
    </nav>
  );
}

type CardCommon = { ledger: Ledger | null; portraits: Portrait[]; chosen: Chosen; onChoose: (c: Chosen) => void };

function SortableCard({
  index,
  step,
  isOff,
  name,
  after,
  ...common
}: CardCommon & { index: number; step: Step; isOff: boolean; name: string; after: ReactNode }) {
  const { setNodeRef, transform, transition, listeners, attributes, isDragging } = useSortable({ id: index + 1 });
  const style = {
    transform: transform ? `translateX(${Math.round(transform.x)}px)` : undefined,
    transition,
    zIndex: isDragging ? 10 : undefined,
  };
  const detail = stepDetail(step);
  return (
    <li ref={setNodeRef} style={style} className={`flex items-stretch ${isDragging ? "opacity-80" : ""}`}>
      <Portraits
        {...common}
        id={index}
        row={index}
        name={detail ? `${name}, ${detail}` : name}
        isOff={isOff}
        grip={
          <button
            type="button"
            {...attributes}
            {...listeners}
            aria-label={`Move ${name}, step ${index + 1}: space to lift, arrows to move`}
            className="absolute top-0 right-0 grid h-11 w-11 cursor-grab touch-none place-items-center rounded-lg text-quiet hover:text-ink"
          >
            <GripVertical size={16} aria-hidden />
          </button>
        }
      />
      {after}
    </li>
  );
}

function Portraits({
  id,
  row,
  name,
  isOff,
  grip,
  ledger,
  portraits,
  chosen,
  onChoose,
}: CardCommon & { id: Chosen; row: number | null; name: string; isOff?: boolean; grip?: ReactNode }) {
  const unit = useUnit();
  const portrait = portraits.find((p) => (p.step ?? null) === row);
  const line = ledger?.rows.find((r) => (r.step ?? null) === row);
  const prefix = row === null ? "recipe.bar.start" : `recipe.bar.steps[${row}]`;
  const broken = ledger?.problems.some((p) => p.path.startsWith(prefix)) ?? false;
  const grade = broken ? "stop" : worst((line?.findings ?? []).map((f) => f.grade));
  return (
    <Frame id={id} chosen={chosen} onChoose={onChoose} grip={grip}>
      <span className="flex h-[4.6rem] items-end gap-2">
        {portrait && line && !isOff ? <BarPortrait portrait={portrait} line={line} /> : <Missing off={isOff} broken={broken} />}
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

function Missing({ off, broken }: { off?: boolean; broken?: boolean }) {
  return (
    <span
      className={`grid h-10 w-28 place-items-center rounded border border-dashed border-edge text-sm text-quiet ${off || broken ? "" : "animate-pulse"}`}
    >
      {off ? "off" : broken ? "stuck here" : ""}
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

function BladeCard({ document, ledger, chosen, onChoose }: CardCommon & { document: Document }) {
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

function Insert({ at, catalogue, onInsert }: { at: number; catalogue: Catalogue; onInsert: (at: number, kind: string) => void }) {
  return (
    <Menu as="span" className="flex items-center">
      <MenuButton
        aria-label={`Put a step here, as step ${at + 1}`}
        title="Put a step here"
        data-insert={at}
        className="grid h-11 w-11 place-items-center rounded-full text-quiet hover:bg-panel hover:text-ink"
      >
        <span className="grid h-6 w-6 place-items-center rounded-full border border-dashed border-edge">
          <Plus size={14} aria-hidden />
        </span>
      </MenuButton>
      <MenuItems
        anchor={{ to: "bottom", gap: 4 }}
        className="z-50 max-h-[70vh] w-80 overflow-y-auto rounded-xl border border-edge bg-well p-1 shadow-xl outline-none"
      >
        {Object.keys(catalogue.fresh_steps).map((kind) => (
          <MenuItem key={kind}>
            <button
              type="button"
              onClick={() => onInsert(at, kind)}
              className="block min-h-11 w-full rounded-lg px-3 py-1.5 text-left data-focus:bg-line/70"
            >
              <span className="font-semibold">{catalogue.step_words[kind]?.name}</span>
              <span className="block text-sm text-quiet">{catalogue.step_words[kind]?.about}</span>
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
