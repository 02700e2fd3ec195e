import { Plus, X } from "lucide-react";
import type { ProblemItem } from "../../../api/types";
import { useCatalogue } from "../../../api/useCatalogue";
import { Button, Choice, Segments, Toggle } from "../../../ui";
import { SteelChoice } from "../../steels";
import { Measure } from "./Measure";
import { sentence, under } from "./problems";
import { type Field, type Json, showsWith, type Values, word } from "./schema";

type Props = {
  fields: Field[];
  values: Values;
  onChange: (values: Values, what: string) => void;
  /** Problems under this group, paths relative to it. */
  problems: ProblemItem[];
  sliders?: boolean;
};

/** A form made from a model's own schema. */
export function SchemaFields({ fields, values, onChange, problems, sliders }: Props) {
  return (
    <>
      {fields
        .filter((f) => showsWith(f, values, fields))
        .map((f) => (
          <OneField
            key={f.name}
            field={f}
            value={values[f.name]}
            problems={under(problems, f.name)}
            sliders={sliders}
            onChange={(value) => {
              const next = { ...values };
              if (value === null || value === undefined) delete next[f.name];
              else next[f.name] = value;
              onChange(next, f.name);
            }}
          />
        ))}
    </>
  );
}

type OneProps = {
  field: Field;
  value: Json | undefined;
  problems: ProblemItem[];
  onChange: (value: Json | undefined) => void;
  sliders?: boolean;
};

function OneField({ field, value, problems, onChange, sliders }: OneProps) {
  const own = problems.find((p) => p.path === "");
  const problem = own ? sentence(own) : undefined;
  switch (field.kind) {
    case "number":
      return (
        <Measure
          label={field.label}
          unit={field.unit}
          hint={field.hint}
          value={(value as number | undefined) ?? (field.optional ? null : (field.fallback as number | undefined))}
          onChange={onChange}
          optional={field.optional}
          whole={field.whole}
          max={field.max}
          problem={problem}
          slider={sliders && !field.quiet}
          placeholder={field.optional ? "–" : undefined}
        />
      );
    case "choice": {
      const current = String(value ?? field.fallback ?? field.options[0]);
      const options = field.options.map((o) => ({ value: o, label: word(o) }));
      return (
        <div className={options.map((o) => o.label).join("").length > 11 && options.length <= 3 ? "col-span-full" : ""}>
          <span className="mb-0.5 block text-sm text-quiet">{field.label}</span>
          {options.length <= 3 ? (
            <Segments label={field.label} value={current} options={options} onChange={onChange} />
          ) : (
            <Choice label={field.label} value={current} options={options} onChange={onChange} />
          )}
          {field.hint ? <p className="mt-0.5 text-sm leading-tight text-quiet">{field.hint}</p> : null}
          {problem ? (
            <p role="alert" className="text-sm text-stop">
              {problem}
            </p>
          ) : null}
        </div>
      );
    }
    case "steel":
      return (
        <div>
          <span className="mb-0.5 block text-sm text-quiet">{field.label}</span>
          <SteelChoice value={String(value ?? "15n20")} onChange={onChange} />
        </div>
      );
    case "group":
      return <Group field={field} value={value} problems={problems} onChange={onChange} sliders={sliders} />;
    case "list":
      return field.item === "choice" ? (
        <Lays field={field} value={value} onChange={onChange} />
      ) : (
        <Rows field={field} value={value} problems={problems} onChange={onChange} />
      );
    case "switch":
      return (
        <div className="col-span-full">
          <Toggle label={field.label} checked={Boolean(value ?? field.fallback)} onChange={onChange} />
          {field.hint ? <p className="text-sm leading-tight text-quiet">{field.hint}</p> : null}
        </div>
      );
    case "text":
      return (
        <label className="col-span-full block text-sm text-quiet">
          {field.label}
          <textarea
            className="mt-0.5 block min-h-16 w-full rounded-lg border border-edge bg-well px-3 py-2 text-base text-ink"
            maxLength={4000}
            value={String(value ?? "")}
            onChange={(e) => onChange(e.target.value || undefined)}
          />
        </label>
      );
    default:
      return field satisfies never;
  }
}

const FRESH: Record<string, Values> = {
  uneven: { amount: 0.15, wavelength: 24, seed: 1 },
  interleaf: { steel: "nickel", thickness: 0.3 },
};

const HAND_NAMES: Record<string, string> = { hammer: "Hammer by hand", press: "Press", roll: "Rolling mill" };

type GroupField = Extract<Field, { kind: "group" }>;
type LaysField = Extract<Field, { kind: "list"; item: "choice" }>;
type RowsField = Extract<Field, { kind: "list"; item: "group" }>;

function Group({ field, value, problems, onChange, sliders }: OneProps & { field: GroupField }) {
  const on = value !== undefined && value !== null;
  const catalogue = useCatalogue();
  return (
    <fieldset className="col-span-full">
      <Toggle label={field.label} checked={on} onChange={(yes) => onChange(yes ? (FRESH[field.name] ?? {}) : undefined)} />
      {on ? (
        <div className="mt-1 grid grid-cols-2 gap-3 border-l-2 border-line pl-3">
          {field.name === "uneven" ? (
            <div className="col-span-full flex flex-wrap gap-1">
              {Object.entries(catalogue?.hands ?? {}).map(([method, hand]) => (
                <Button key={method} compact onClick={() => onChange({ ...hand, seed: (value as Values).seed ?? 1 })}>
                  {HAND_NAMES[method] ?? method}
                </Button>
              ))}
            </div>
          ) : null}
          <SchemaFields
            fields={field.fields}
            values={value as Values}
            onChange={(v) => onChange(v)}
            problems={problems}
            sliders={sliders}
          />
        </div>
      ) : field.hint ? (
        <p className="text-sm text-quiet">{field.hint}</p>
      ) : null}
    </fieldset>
  );
}

/** The order in which pieces are laid: a short run that repeats. */
function Lays({ field, value, onChange }: { field: LaysField; value: Json | undefined; onChange: (v: Json) => void }) {
  const lays = (value as string[] | undefined) ?? (field.fallback as string[] | undefined) ?? ["as_cut"];
  return (
    <div className="col-span-full">
      <span className="mb-0.5 block text-sm text-quiet">
        {field.label}, {field.hint}
      </span>
      <div className="flex flex-wrap items-center gap-2">
        {lays.map((lay, i) => (
          <div
            // biome-ignore lint/suspicious/noArrayIndexKey: its place in the run is what it is
            key={i}
            className="flex w-44 items-center"
          >
            <Choice
              label={`Piece ${i + 1}`}
              value={lay}
              options={field.options.map((o) => ({ value: o, label: word(o) }))}
              onChange={(v) => onChange(lays.map((l, j) => (j === i ? v : l)))}
            />
            {lays.length > 1 ? (
              <Button
                kind="quiet"
                compact
                label={`Take piece ${i + 1} out of the order`}
                onClick={() => onChange(lays.filter((_, j) => j !== i))}
              >
                <X size={16} aria-hidden />
              </Button>
            ) : null}
          </div>
        ))}
        <Button compact label="One more in the order" onClick={() => onChange([...lays, "as_cut"])}>
          <Plus size={16} aria-hidden />
        </Button>
      </div>
    </div>
  );
}

/** Rows of a small table (zones of a twist). */
function Rows({
  field,
  value,
  problems,
  onChange,
}: {
  field: RowsField;
  value: Json | undefined;
  problems: ProblemItem[];
  onChange: (v: Json | undefined) => void;
}) {
  const rows = (value as Values[] | undefined | null) ?? [];
  const set = (next: Values[]) => onChange(next.length ? next : undefined);
  return (
    <div className="col-span-full">
      <span className="mb-0.5 block text-sm text-quiet">
        {field.label}: {field.hint}
      </span>
      {rows.map((row, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: rows have no other name
          key={i}
          className="mb-2 flex items-end gap-2"
        >
          <div className="grid flex-1 grid-cols-2 gap-2">
            <SchemaFields
              fields={field.fields}
              values={row}
              onChange={(v) => set(rows.map((r, j) => (j === i ? v : r)))}
              problems={under(problems, `[${i}]`)}
            />
          </div>
          <Button kind="quiet" compact label={`Remove zone ${i + 1}`} onClick={() => set(rows.filter((_, j) => j !== i))}>
            <X size={16} aria-hidden />
          </Button>
        </div>
      ))}
      <Button compact onClick={() => set([...rows, { from: 0, to: 50, turns: 2 }])}>
        <Plus size={16} aria-hidden /> Zone
      </Button>
    </div>
  );
}
