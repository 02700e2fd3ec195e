import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { ArrowLeft, ArrowRight, ChevronRight, Copy, Eye, EyeOff, Trash2 } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import type { Catalogue, Document, ProblemItem, Stack, Start, Step } from "../../api/types";
import { Button } from "../../ui";
import type { Change } from "./draft";
import { under } from "./fields/problems";
import { SchemaFields } from "./fields/SchemaFields";
import { fieldsOf, type Schema, type Values } from "./fields/schema";
import { LayerList } from "./LayerList";

type Common = { catalogue: Catalogue; problems: ProblemItem[]; change: (c: Change) => void };

/** The fields of the start. */
export function StartPanel({ document, catalogue, problems, change }: Common & { document: Document }) {
  const start = document.recipe.bar.start;
  const own = under(problems, "recipe.bar.start");
  const put = (values: Values, what: string) => change({ type: "start", start: values as unknown as Start, what });
  return (
    <Shell title={catalogue.step_words[start.kind]?.name ?? "Start"} about={catalogue.step_words[start.kind]?.about}>
      <Fields
        schema={catalogue.starts[start.kind] as Schema}
        values={start as unknown as Values}
        problems={own}
        onChange={put}
        leaveOut="layers"
      >
        {start.kind === "stack" ? (
          <LayerList
            layers={start.layers}
            problems={under(own, "layers")}
            onChange={(layers, what) => change({ type: "start", start: { ...(start as Stack), layers }, what })}
          />
        ) : null}
      </Fields>
    </Shell>
  );
}

/** The fields of one step, and what can be done with the step itself. */
export function StepPanel({
  index,
  step,
  isOff,
  last,
  onMove,
  onRemove,
  ...common
}: Common & { index: number; step: Step; isOff: boolean; last: boolean; onMove: (to: number) => void; onRemove: () => void }) {
  const { catalogue, problems, change } = common;
  const own = under(problems, `recipe.bar.steps[${index}]`);
  const words = catalogue.step_words[step.kind];
  const put = (values: Values, what: string) => {
    const next = { ...values };
    // a twist has turns over the whole length or zones, never both
    if (step.kind === "twist" && what === "zones" && next.zones) delete next.turns;
    if (step.kind === "twist" && what === "zones" && !next.zones) next.turns ??= 5;
    if (step.kind === "twist" && what === "turns") delete next.zones;
    change({ type: "step", index, step: next as unknown as Step, what });
  };
  return (
    <Shell
      title={`${index + 1}. ${words?.name ?? step.kind}`}
      about={words?.about}
      actions={
        <>
          <span className="contents max-[1100px]:hidden">
            <Button kind="quiet" compact label="Earlier" disabled={index === 0} onClick={() => onMove(index - 1)}>
              <ArrowLeft size={17} aria-hidden />
            </Button>
            <Button kind="quiet" compact label="Later" disabled={last} onClick={() => onMove(index + 1)}>
              <ArrowRight size={17} aria-hidden />
            </Button>
          </span>
          <Button kind="quiet" compact label="Copy this step" onClick={() => change({ type: "copy", index })}>
            <Copy size={17} aria-hidden />
          </Button>
          <Button
            kind="quiet"
            compact
            label={isOff ? "Switch this step on" : "Switch this step off"}
            pressed={isOff}
            onClick={() => change({ type: "switch", index })}
          >
            {isOff ? <EyeOff size={17} aria-hidden /> : <Eye size={17} aria-hidden />}
          </Button>
          <Button kind="quiet" compact label="Remove this step" onClick={onRemove}>
            <Trash2 size={17} aria-hidden />
          </Button>
        </>
      }
    >
      {isOff ? <p className="col-span-full text-quiet">Switched off: the bar passes it by.</p> : null}
      <Fields schema={catalogue.steps[step.kind] as Schema} values={step as unknown as Values} problems={own} onChange={put} />
    </Shell>
  );
}

export function Shell({
  title,
  about,
  actions,
  children,
}: {
  title: string;
  about?: string;
  actions?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="flex min-h-0 flex-col">
      <div className="flex min-h-11 items-center gap-1 px-4 pt-1">
        <h2 className="min-w-0 flex-1 truncate text-lg font-bold">{title}</h2>
        <div className="-mr-2 flex">{actions}</div>
      </div>
      <div className="grid min-h-0 flex-1 auto-rows-min grid-cols-2 gap-x-3 gap-y-2 overflow-y-auto px-4 pt-1 pb-3">
        {about ? <p className="col-span-full -mt-1 text-sm text-quiet">{about}</p> : null}
        {children}
      </div>
    </section>
  );
}

export function Fields({
  schema,
  values,
  problems,
  onChange,
  leaveOut,
  children,
}: {
  schema: Schema;
  values: Values;
  problems: ProblemItem[];
  onChange: (values: Values, what: string) => void;
  leaveOut?: string;
  /** Between the plain fields and the folded-away ones. */
  children?: ReactNode;
}) {
  const fields = useMemo(() => fieldsOf(schema).filter((f) => f.name !== leaveOut), [schema, leaveOut]);
  const plain = [
    ...fields.filter((f) => !f.quiet && f.kind !== "group"),
    ...fields.filter((f) => !f.quiet && f.kind === "group"),
  ];
  const quiet = fields.filter((f) => f.quiet);
  const needsLook = quiet.some((f) => under(problems, f.name).length > 0);
  return (
    <>
      <SchemaFields fields={plain} values={values} onChange={onChange} problems={problems} sliders />
      {children}
      {quiet.length ? (
        <Disclosure as="div" className="col-span-full" defaultOpen={needsLook}>
          <DisclosureButton className="group flex min-h-11 items-center gap-1 rounded-lg pr-3 text-sm text-quiet">
            <ChevronRight size={16} aria-hidden className="transition-transform group-data-open:rotate-90" />
            {quiet.map((f) => f.label.toLowerCase()).join(", ")}
          </DisclosureButton>
          <DisclosurePanel className="grid grid-cols-2 gap-3">
            <SchemaFields fields={quiet} values={values} onChange={onChange} problems={problems} />
          </DisclosurePanel>
        </Disclosure>
      ) : null}
    </>
  );
}
