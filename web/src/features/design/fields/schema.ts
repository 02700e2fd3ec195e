/** Reading the JSON Schemas of the catalogue: what kind of field each property wants. */

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
export type Values = { [key: string]: Json };

type Raw = {
  type?: string;
  title?: string;
  description?: string;
  unit?: string;
  quiet?: boolean;
  /** Kept, but nothing to be filled in: an id. */
  hidden?: boolean;
  when?: string;
  default?: Json;
  const?: Json;
  enum?: string[];
  format?: string;
  $ref?: string;
  anyOf?: Raw[];
  items?: Raw;
  properties?: Record<string, Raw>;
  required?: string[];
  maximum?: number;
  $defs?: Record<string, Raw>;
};
export type Schema = Raw;

export type Field = {
  name: string;
  label: string;
  hint: string;
  unit: string;
  quiet: boolean;
  /** Shown only while one of these holds: `field=value`, or a bare value of `method`. */
  when: string[];
  optional: boolean;
  fallback: Json | undefined;
  max?: number;
} & (
  | { kind: "number"; whole: boolean }
  | { kind: "choice"; options: string[] }
  | { kind: "steel" }
  | { kind: "text" }
  | { kind: "switch" }
  | { kind: "group"; fields: Field[] }
  | { kind: "list"; item: "choice"; options: string[] }
  | { kind: "list"; item: "group"; fields: Field[] }
);

function resolve(raw: Raw, root: Schema): Raw {
  if (!raw.$ref) return raw;
  const name = raw.$ref.split("/").at(-1) ?? "";
  const { $ref: _, ...rest } = raw;
  return { ...root.$defs?.[name], ...rest };
}

export function fieldsOf(schema: Raw, root: Schema = schema): Field[] {
  const own = resolve(schema, root);
  return Object.entries(own.properties ?? {}).flatMap(([name, raw]) => {
    const field = fieldOf(name, raw, root, !(own.required ?? []).includes(name));
    return field ? [field] : [];
  });
}

function fieldOf(name: string, given: Raw, root: Schema, optional: boolean): Field | null {
  const empty = given.anyOf?.some((o) => o.type === "null") ?? false;
  const inner = given.anyOf?.find((o) => o.type !== "null");
  const raw: Raw = inner ? { ...resolve(inner, root), ...given, anyOf: undefined } : resolve(given, root);
  if (raw.const !== undefined || name === "kind" || given.hidden) return null;
  const common = {
    name,
    label: given.title ?? name,
    hint: given.description ?? "",
    unit: given.unit ?? "",
    quiet: given.quiet ?? false,
    when: given.when?.split(" ") ?? [],
    optional: optional && (empty || given.default === undefined),
    fallback: given.default,
    max: raw.maximum,
  };
  if (raw.enum) return { ...common, kind: "choice", options: raw.enum };
  if (raw.format === "steel") return { ...common, kind: "steel" };
  if (raw.type === "number" || raw.type === "integer") return { ...common, kind: "number", whole: raw.type === "integer" };
  if (raw.type === "boolean") return { ...common, kind: "switch" };
  if (raw.type === "string") return { ...common, kind: "text" };
  if (raw.type === "object" && raw.properties) return { ...common, kind: "group", fields: fieldsOf(raw, root) };
  if (raw.type === "array" && raw.items) {
    const item = resolve(raw.items, root);
    if (item.enum) return { ...common, kind: "list", item: "choice", options: item.enum };
    if (item.properties) return { ...common, kind: "list", item: "group", fields: fieldsOf(item, root) };
  }
  return null;
}

/** Whether a field shows beside these values (`fallbacks`: what a field left out counts as). */
export function showsWith(field: Field, values: Values, fields: Field[]): boolean {
  if (!field.when.length) return true;
  return field.when.some((clause) => {
    const [name, wanted] = clause.includes("=") ? clause.split("=") : ["method", clause];
    const now = values[name as string] ?? fields.find((f) => f.name === name)?.fallback ?? (name === "method" ? "hammer" : null);
    return String(now) === wanted;
  });
}

const WORDS: Record<string, string> = {
  as_cut: "as cut",
  end_for_end: "end for end",
  rolled: "rolled over",
  turned_over: "turned over",
  thickness: "on top",
  width: "side by side",
  flat_convex: "flat, convex edge",
  cut_forged: "cut, forged flat",
  pressed_ground: "pressed, ground flat",
  stacked: "one on the other",
  slot: "inlaid in a slot",
  plug: "plug in a hole",
  jacket: "core in a jacket",
  outline: "cut-out",
};

export function word(value: string): string {
  return WORDS[value] ?? value.replaceAll("_", " ");
}
