import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { ChevronRight } from "lucide-react";
import { type ComponentType, type ReactNode, useEffect, useMemo } from "react";
import type { ProblemItem } from "../../api/types";
import { Tabs } from "../../ui";
import { under } from "./fields/problems";
import { SchemaFields } from "./fields/SchemaFields";
import { fieldsOf, type Schema, type Values } from "./fields/schema";
import { FLOW } from "./flow";
import { useTable } from "./table";

/** The frame of everything that is changed at the left: a title, what can be done with it, its fields. */
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

/** Fields made from a schema: plain ones first, then what stands between, then those seldom needed, folded away. */
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
        <Fold title={quiet.map((f) => f.label.toLowerCase()).join(", ")} open={needsLook}>
          <SchemaFields fields={quiet} values={values} onChange={onChange} problems={problems} />
        </Fold>
      ) : null}
    </>
  );
}

/** Something folded away under its title. */
export function Fold({ title, open, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <Disclosure as="div" className="col-span-full" defaultOpen={open}>
      <DisclosureButton className="group flex min-h-11 items-center gap-1 rounded-lg pr-3 text-left text-sm text-quiet">
        <ChevronRight size={16} aria-hidden className="shrink-0 transition-transform group-data-open:rotate-90" />
        {title}
      </DisclosureButton>
      <DisclosurePanel className="grid grid-cols-2 gap-3">{children}</DisclosurePanel>
    </Disclosure>
  );
}

/** A tab of a place of three: what is put in, what is seen, what it comes to. */
export function Columns({
  name,
  left,
  children,
  right,
  scrolls,
}: {
  name: string;
  left: ReactNode;
  children: ReactNode;
  right: ReactNode;
  /** What is seen is longer than its place. */
  scrolls?: boolean;
}) {
  return (
    <div
      role="tabpanel"
      aria-label={name}
      className={`screen-only grid-cols-[21rem_minmax(0,1fr)_20rem] max-[1100px]:grid-cols-[19rem_minmax(0,1fr)] ${scrolls ? FLOW.grid : "grid min-h-0 flex-1 max-[800px]:flex max-[800px]:flex-none max-[800px]:flex-col"}`}
    >
      <div className={`flex min-h-0 flex-col border-r border-line ${scrolls ? FLOW.left : ""}`}>{left}</div>
      <div
        className={`flex min-h-0 min-w-0 flex-col gap-2 p-3 ${scrolls ? `overflow-y-auto ${FLOW.middle} max-[800px]:h-auto` : "max-[800px]:h-96"}`}
        tabIndex={scrolls ? 0 : undefined}
      >
        {children}
      </div>
      <aside
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        aria-label="What it comes to"
        className={`flex min-h-0 flex-col gap-4 overflow-y-auto p-3 ${scrolls ? FLOW.right : "border-l border-line max-[1100px]:col-span-full max-[1100px]:max-h-60 max-[1100px]:border-t max-[1100px]:border-l-0 max-[800px]:max-h-none"}`}
      >
        {right}
      </aside>
    </div>
  );
}

export type PlaceTab = { path: string; name: string; Page: ComponentType };

/** A place of tabs, the one in the address open; `usual` where it names none, said in the address from the start. */
export function TabbedPlace({ label, tabs, usual }: { label: string; tabs: PlaceTab[]; usual: string }) {
  const { where, go } = useTable();
  const tab = tabs.find((t) => t.path === (where.tab || usual)) ?? tabs[0];
  // what is read later must not turn the page
  useEffect(() => {
    if (!where.tab) go({ tab: usual }, true);
  }, [where.tab, usual, go]);
  if (!tab) return null;
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-panel max-[800px]:flex-none">
      <div className="no-print flex shrink-0 border-b border-line bg-ground px-3">
        <Tabs
          label={label}
          tabs={tabs.map((t) => t.name)}
          value={tab.name}
          onChange={(name) => go({ tab: tabs.find((t) => t.name === name)?.path ?? "" })}
        />
      </div>
      <tab.Page />
    </div>
  );
}
