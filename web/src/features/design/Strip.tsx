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
import { type ReactNode, useEffect, useMemo } from "react";
import type { Address, Catalogue, Document, Ledger, Step } from "../../api/types";
import { useSay } from "../../app/session";
import { barAt, offIn, stepsOf } from "./bars";
import { JoinedBars } from "./JoinedBars";
import { BladeCard, type CardCommon, type Chosen, Portraits, PX_PER_MM, SHOWN_MM } from "./Portraits";
import { fitting, usePortraits } from "./usePrediction";

type Props = {
  document: Document;
  /** The open bar. */
  bar: Address;
  ledger: Ledger | null;
  catalogue: Catalogue;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  onInsert: (at: number, kind: string) => void;
  onMove: (from: number, to: number) => void;
  onOpen: (bar: Address) => void;
};

/** The open bar drawn to one scale after every step, with the bars that come together in it; choose one to change the step that made it. */
export function Strip({ document, bar, ledger, catalogue, chosen, onChoose, onInsert, onMove, onOpen }: Props) {
  const answer = usePortraits(document, bar, PX_PER_MM * 1.5, SHOWN_MM).data;
  const recipe = barAt(document, bar);
  const portraits = useMemo(() => (answer ? fitting(answer, stepsOf(recipe)) : []), [answer, recipe]);
  const count = portraits.length;
  useEffect(() => {
    // portraits that come in push the chosen one aside
    if (count) window.document.querySelector("[aria-current=step]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [count]);
  const steps = stepsOf(recipe);
  const off = offIn(document, bar);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(Number(active.id) - 1, Number(over.id) - 1);
  };
  const ids = steps.map((_, i) => i + 1);
  const common = { ledger, bar, portraits: portraits.filter((p) => p.child === null || p.child === undefined), chosen, onChoose };
  return (
    <nav aria-label="The bar after each step" className="no-print shrink-0 overflow-x-auto border-b border-line bg-ground">
      <ol className="flex w-max min-w-full items-stretch px-3 py-1.5">
        {bar.length ? (
          <li className="flex items-stretch">
            <button
              type="button"
              data-testid="back-to-joint"
              onClick={() => onOpen(bar.slice(0, -1))}
              className="mr-2 flex w-28 flex-col items-start justify-center gap-1 rounded-xl border-2 border-edge bg-panel px-2.5 text-left text-sm hover:border-ink"
            >
              <span className="flex items-center gap-1 font-semibold">
                <ArrowLeft size={16} aria-hidden /> Back
              </span>
              <span className="leading-tight text-quiet">
                to the {bar.length > 1 ? "bar" : "whole"} that bar {bar.map((i) => i + 1).join(".")} goes into
              </span>
            </button>
          </li>
        ) : null}
        {recipe.start.kind === "assembly" ? (
          <li className="flex items-stretch">
            <JoinedBars bar={bar} items={ledger?.children ?? []} portraits={portraits} join={recipe.start.join} onOpen={onOpen} />
          </li>
        ) : null}
        <li className="flex items-stretch">
          <Portraits {...common} id="start" name={catalogue.step_words[recipe.start.kind]?.name ?? "Start"} row={null} />
          <Insert at={0} catalogue={catalogue} onInsert={onInsert} />
        </li>
        <DndContext
          accessibility={{
            container: window.document.body,
            announcements: spoken(steps.map((s) => catalogue.step_words[s.kind]?.name ?? s.kind)),
          }}
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
        {bar.length ? null : <BladeCard {...common} document={document} />}
      </ol>
    </nav>
  );
}

/** What moving a step says, by its name and place. */
function spoken(names: string[]): Announcements {
  const name = (id: number | string) => `${names[Number(id) - 1] ?? "The step"}, step ${id}`;
  return {
    onDragStart: ({ active }) => `${name(active.id)}, lifted. Arrows move it, space puts it down, escape leaves it.`,
    onDragOver: ({ active, over }) =>
      over ? `${names[Number(active.id) - 1] ?? "The step"} would become step ${over.id}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over ? `${names[Number(active.id) - 1] ?? "The step"} is now step ${over.id}.` : "Put back.",
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}

function SortableCard({
  index,
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
  const detail = common.ledger?.rows.find((r) => r.step === index)?.brief ?? "";
  const say = useSay();
  return (
    <li ref={setNodeRef} style={style} className={`flex items-stretch ${isDragging ? "opacity-80" : ""}`}>
      <Portraits
        {...common}
        id={index}
        row={index}
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
}
