/** Thin skins over Headless UI and plain elements; no knowledge of steel. */

import {
  Dialog,
  DialogPanel,
  DialogTitle,
  Button as HeadlessButton,
  Listbox,
  ListboxButton,
  ListboxOption,
  ListboxOptions,
  Radio,
  RadioGroup,
  Switch,
  Tab,
  TabGroup,
  TabList,
} from "@headlessui/react";
import { Check, ChevronDown, X } from "lucide-react";
import { type ReactNode, useRef } from "react";

type Kind = "plain" | "main" | "quiet" | "plate";
const KINDS: Record<Kind, string> = {
  plain: "border border-edge bg-well text-ink hover:bg-panel",
  main: "bg-accent text-on-accent font-semibold hover:brightness-110",
  quiet: "text-ink hover:bg-line/60",
  plate: "text-plate-ink border border-plate-line hover:bg-white/10",
};

export function Button({
  kind = "plain",
  label,
  children,
  onClick,
  disabled,
  type = "button",
  pressed,
  compact,
}: {
  kind?: Kind;
  /** For a button that shows only an icon. */
  label?: string;
  children: ReactNode;
  onClick?: () => void;
  disabled?: boolean;
  type?: "button" | "submit";
  pressed?: boolean;
  compact?: boolean;
}) {
  return (
    <HeadlessButton
      type={type}
      onClick={onClick}
      disabled={disabled}
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-lg whitespace-nowrap ${compact ? "min-w-11 px-2" : "px-4"} disabled:opacity-45 ${KINDS[kind]}`}
    >
      {children}
    </HeadlessButton>
  );
}

export function Modal({
  open,
  onClose,
  title,
  children,
  wide,
  huge,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
  huge?: boolean;
}) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-black/50" aria-hidden />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4">
        <DialogPanel
          className={`w-full ${huge ? "max-w-[88rem]" : wide ? "max-w-4xl" : "max-w-lg"} rounded-2xl border border-line bg-panel p-6 shadow-2xl`}
        >
          <div className="mb-4 flex items-center justify-between gap-4">
            <DialogTitle className="text-xl font-bold">{title}</DialogTitle>
            <Button kind="quiet" label="Close" onClick={onClose} compact>
              <X size={20} aria-hidden />
            </Button>
          </div>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}

export type Option<T extends string> = {
  value: T;
  label: string;
  hint?: string;
  swatch?: string /** Shown when chosen, in place of the label. */;
  short?: string;
};

type OneOf<T extends string> = {
  label: string;
  value: T;
  options: Option<T>[];
  onChange: (value: T) => void;
  /** The label stands above it, for all to read. */
  titled?: boolean;
};

function Title({ children }: { children: string }) {
  return <span className="mb-0.5 block text-sm text-quiet">{children}</span>;
}

/** One of a few, all in sight. */
export function Segments<T extends string>({
  label,
  value,
  options,
  onChange,
  titled,
  snug,
}: OneOf<T> & {
  /** Several long words in a narrow place. */
  snug?: boolean;
}) {
  return (
    <>
      {titled ? <Title>{label}</Title> : null}
      <RadioGroup
        value={value}
        onChange={onChange}
        aria-label={label}
        className="flex flex-wrap gap-1 rounded-lg border border-edge bg-well p-0.5"
      >
        {options.map((o) => (
          <Radio
            key={o.value}
            value={o.value}
            className={`grid min-h-10 min-w-11 flex-1 cursor-pointer place-items-center rounded-md ${snug ? "px-1.5" : "px-3"} text-center leading-tight data-checked:bg-ink data-checked:font-semibold data-checked:text-panel`}
          >
            {o.label}
          </Radio>
        ))}
      </RadioGroup>
    </>
  );
}

/** One of many. */
export function Choice<T extends string>({ label, value, options, onChange, titled }: OneOf<T>) {
  const chosen = options.find((o) => o.value === value);
  return (
    <Listbox value={value} onChange={onChange}>
      {titled ? <Title>{label}</Title> : null}
      <ListboxButton
        aria-label={`${label}: ${chosen?.short ?? chosen?.label ?? value}`}
        className="flex min-h-11 w-full items-center gap-2 rounded-lg border border-edge bg-well px-3 text-left"
      >
        <Swatch colour={chosen?.swatch} />
        <span className="min-w-0 flex-1 truncate">{chosen?.short ?? chosen?.label ?? value}</span>
        <ChevronDown size={16} aria-hidden className="shrink-0 text-quiet" />
      </ListboxButton>
      <ListboxOptions
        anchor={{ to: "bottom start", gap: 4 }}
        className="z-50 max-h-80 min-w-(--button-width) overflow-y-auto rounded-lg border border-edge bg-well p-1 shadow-xl outline-none"
      >
        {options.map((o) => (
          <ListboxOption
            key={o.value}
            value={o.value}
            className="group flex min-h-11 cursor-pointer items-center gap-2 rounded-md px-2 data-focus:bg-line/70"
          >
            <Swatch colour={o.swatch} />
            <span className="flex-1">
              {o.label}
              {o.hint ? <span className="block text-sm text-quiet">{o.hint}</span> : null}
            </span>
            <Check size={16} aria-hidden className="invisible group-data-selected:visible" />
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}

function Swatch({ colour }: { colour?: string }) {
  if (!colour) return null;
  return <span aria-hidden className="h-5 w-5 shrink-0 rounded border border-edge" style={{ background: colour }} />;
}

export function Toggle({ label, checked, onChange }: { label: string; checked: boolean; onChange: (on: boolean) => void }) {
  return (
    <Switch checked={checked} onChange={onChange} className="group flex min-h-11 items-center gap-3 rounded-lg text-left">
      <span className="flex h-6 w-11 shrink-0 items-center rounded-full border border-edge bg-well p-0.5 group-data-checked:bg-accent">
        <span className="h-4.5 w-4.5 rounded-full bg-edge transition-transform group-data-checked:translate-x-4.5 group-data-checked:bg-on-accent" />
      </span>
      {label}
    </Switch>
  );
}

/** A notice that stays until answered or replaced. */
export function Notice({ children, tone = "note" }: { children: ReactNode; tone?: "note" | "care" | "stop" }) {
  const wash = { note: "bg-note-wash border-note", care: "bg-care-wash border-care", stop: "bg-stop-wash border-stop" }[tone];
  return (
    <div role="status" className={`flex flex-wrap items-center gap-3 border-l-4 px-4 py-2 ${wash}`}>
      {children}
    </div>
  );
}

/** A row of tabs; what they show stands below, in a tabpanel of the caller's. */
export function Tabs<T extends string>({
  label,
  tabs,
  value,
  onChange,
}: {
  label: string;
  tabs: readonly T[];
  value: T;
  onChange: (tab: T) => void;
}) {
  return (
    <TabGroup
      selectedIndex={tabs.indexOf(value)}
      onChange={(i) => {
        const next = tabs[i];
        if (next) onChange(next);
      }}
      className="no-print flex min-w-0 flex-1"
    >
      <TabList aria-label={label} className="flex min-w-0 flex-1 overflow-x-auto">
        {tabs.map((t) => (
          <Tab
            key={t}
            className="min-h-11 border-b-3 border-transparent px-4 whitespace-nowrap text-quiet hover:text-ink data-selected:border-ink data-selected:font-semibold data-selected:text-ink"
          >
            {t}
          </Tab>
        ))}
      </TabList>
    </TabGroup>
  );
}

/** A button that asks for a text file of one kind. */
export function FilePick({
  label,
  field,
  accept,
  onPick,
  children,
}: {
  label: string;
  /** What the file is called where it cannot be seen. */
  field: string;
  accept: string;
  onPick: (file: File) => void;
  children: ReactNode;
}) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button compact label={label} onClick={() => file.current?.click()}>
        {children}
      </Button>
      <input
        ref={file}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={field}
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          if (chosen) onPick(chosen);
          e.target.value = "";
        }}
      />
    </>
  );
}

/** What is looked for among many; says: what stands in the field while it is empty. */
export function SearchField({
  label,
  says = label,
  value,
  onChange,
  className = "w-60",
}: {
  label: string;
  says?: string;
  value: string;
  onChange: (text: string) => void;
  className?: string;
}) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={says}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      className={`min-h-11 max-w-full rounded-lg border border-edge bg-well px-3 ${className}`}
    />
  );
}
