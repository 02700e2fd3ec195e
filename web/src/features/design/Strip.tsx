import {
  type Announcements,
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
import { ArrowLeft, GripVertical, Plus } from "lucide-react";
import { memo, type ReactNode, useEffect } from "react";
import type { BarId, Catalogue, Document, Ledger, Portrait, Step, StepId } from "../../api/types";
import { usePortraits } from "../../api/worked";
import { useSay } from "../../app/session";
import { useSteady } from "../../lib/useSteady";
import { barAt, intoOf, isOff, numberOf, rootOf, stepsOf } from "./bars";
import type { Chosen } from "./chosen";
import { JoinedBars } from "./JoinedBars";
import { BladeCard, type CardCommon, Portraits, PX_PER_MM, SHOWN_MM } from "./Portraits";

type Props = {
  document: Document;
  /** The open bar. */
  bar: BarId;
  ledger: Ledger | null;
  catalogue: Catalogue;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  onInsert: (at: number, kind: string) => void;
  onMove: (step: StepId, to: number) => void;
  onOpen: (bar: BarId) => void;
};

/** The open bar drawn to one scale after every step, with the bars that come together in it; choose one to change the step that made it. */
export function Strip({ document, bar, ledger, catalogue, chosen, onChoose, onInsert, onMove, onOpen }: Props) {
  const portraits = usePortraits(document, bar, PX_PER_MM * 1.5, SHOWN_MM).data ?? NONE;
  const recipe = barAt(document, bar);
  const count = portraits.length;
  useEffect(() => {
    // portraits that come in push the chosen one aside
    if (count) window.document.querySelector("[aria-current=step]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [count]);
  const steps = stepsOf(recipe);
  const insert = useSteady(onInsert);
  const into = intoOf(document, bar);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(String(active.id), ids.indexOf(String(over.id)));
  };
  const ids = steps.map((s) => s.id ?? "");
  const common = {
    document,
    ledger,
    bar,
    portraits: portraits.filter((p) => p.child === null || p.child === undefined),
    chosen,
    onChoose,
  };
  return (
    <nav aria-label="The bar after each step" className="no-print shrink-0 overflow-x-auto border-b border-line bg-ground">
      <ol className="flex w-max min-w-full items-stretch px-3 py-1.5">
        {into !== null ? (
          <li className="flex items-stretch">
            <button
              type="button"
              onClick={() => onOpen(into)}
              className="mr-2 flex w-28 flex-col items-start justify-center gap-1 rounded-xl border-2 border-edge bg-panel px-2.5 text-left text-sm hover:border-ink"
            >
              <span className="flex items-center gap-1 font-semibold">
                <ArrowLeft size={16} aria-hidden /> Back
              </span>
              <span className="leading-tight text-quiet">
                to the {into === rootOf(document) ? "whole" : "bar"} that bar {numberOf(document, bar)} goes into
              </span>
            </button>
          </li>
        ) : null}
        {recipe.start.kind === "assembly" ? (
          <li className="flex items-stretch">
            <JoinedBars items={ledger?.children ?? []} portraits={portraits} join={recipe.start.join} onOpen={onOpen} />
          </li>
        ) : null}
        <li className="flex items-stretch">
          <Portraits {...common} id="start" name={catalogue.step_words[recipe.start.kind]?.name ?? "Start"} step={null} />
          <Insert at={0} catalogue={catalogue} onInsert={insert} />
        </li>
        <DndContext
          accessibility={{
            container: window.document.body,
            announcements: spoken(
              ids,
              steps.map((s) => catalogue.step_words[s.kind]?.name ?? s.kind),
            ),
          }}
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={onDragEnd}
        >
          <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
            {steps.map((step, i) => (
              <SortableCard
                key={step.id}
                {...common}
                index={i}
                step={step}
                isOff={isOff(document, step.id)}
                name={catalogue.step_words[step.kind]?.name ?? step.kind}
                after={<Insert at={i + 1} catalogue={catalogue} onInsert={insert} />}
              />
            ))}
          </SortableContext>
        </DndContext>
        {into !== null ? null : <BladeCard {...common} />}
      </ol>
    </nav>
  );
}

const NONE: Portrait[] = [];

/** What moving a step says, by its name and place. */
function spoken(ids: StepId[], names: string[]): Announcements {
  const placeOf = (id: number | string) => ids.indexOf(String(id));
  const nameOf = (id: number | string) => names[placeOf(id)] ?? "The step";
  const name = (id: number | string) => `${nameOf(id)}, step ${placeOf(id) + 1}`;
  return {
    onDragStart: ({ active }) => `${name(active.id)}, lifted. Arrows move it, space puts it down, escape leaves it.`,
    onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)} would become step ${placeOf(over.id) + 1}.` : undefined),
    onDragEnd: ({ active, over }) => (over ? `${nameOf(active.id)} is now step ${placeOf(over.id) + 1}.` : "Put back."),
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}

function SortableCard({
  index,
  step,
  isOff,
  name,
  after,
  ...common
}: CardCommon & { index: number; step: Step; isOff: boolean; name: string; after: ReactNode }) {
  const { setNodeRef, transform, transition, listeners, attributes, isDragging } = useSortable({ id: step.id ?? "" });
  const style = {
    transform: transform ? `translateX(${Math.round(transform.x)}px)` : undefined,
    transition,
    zIndex: isDragging ? 10 : undefined,
  };
  const detail = common.ledger?.rows.find((r) => r.step === step.id)?.brief ?? "";
  const say = useSay();
  return (
    <li ref={setNodeRef} style={style} className={`flex items-stretch ${isDragging ? "opacity-80" : ""}`}>
      <Portraits
        {...common}
        id={index}
        step={step.id ?? ""}
        name={`${index + 1} ${detail ? `${name}, ${say(detail)}` : name}`}
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

type InsertProps = { at: number; catalogue: Catalogue; onInsert: (at: number, kind: string) => void };

/** Kept as it is while a slider moves: a menu beside every step is most of what a page costs to render. */
const Insert = memo(function Insert({ at, catalogue, onInsert }: InsertProps) {
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
        {Object.keys(catalogue.steps).map((kind) => (
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
});
