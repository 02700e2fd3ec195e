import { Plus, Upload, X } from "lucide-react";
import { type ChangeEvent, useRef, useState } from "react";
import { post, whatWentWrong } from "../../api/client";
import type { Canister, Catalogue, Insert, ProblemItem } from "../../api/types";
import { Button, Segments } from "../../ui";
import { Measure } from "./fields/Measure";
import { sentence, under } from "./fields/problems";
import { SchemaFields } from "./fields/SchemaFields";
import { fieldsOf, type Schema, type Values } from "./fields/schema";

type List = NonNullable<Canister["inserts"]>;
const BY_HAND = new Set(["positions", "count", "seed", "outline"]);

/** The pieces in a canister: kind by kind, dropped in by chance or placed by hand; outlines from a drawing. */
export function Inserts({
  catalogue,
  start,
  problems,
  onChange,
}: {
  catalogue: Catalogue;
  start: Canister;
  problems: ProblemItem[];
  onChange: (inserts: List, what: string) => void;
}) {
  const inserts = start.inserts ?? [];
  const schema = (catalogue.starts.canister as Schema).$defs?.Insert as Schema;
  const fields = fieldsOf(schema, catalogue.starts.canister as Schema).filter((f) => !BY_HAND.has(f.name));
  const put = (i: number, next: Insert, what: string) =>
    onChange(
      inserts.map((old, k) => (k === i ? next : old)),
      what && `inserts.${i}.${what}`,
    );
  const small = Math.round(Math.min(start.width, start.thickness) / 8);
  return (
    <div className="col-span-full flex flex-col gap-2">
      {problems
        .filter((p) => p.path === "")
        .map((p) => (
          <p key={p.wrong} role="alert" className="text-sm text-stop">
            {sentence(p)}
          </p>
        ))}
      {inserts.map((insert, i) => (
        <OneKind
          // biome-ignore lint/suspicious/noArrayIndexKey: a kind is its place in the list
          key={i}
          index={i}
          insert={insert as Insert}
          start={start}
          fields={fields}
          problems={under(problems, `[${i}]`)}
          onChange={(next, what) => put(i, next, what)}
          onRemove={() =>
            onChange(
              inserts.filter((_, k) => k !== i),
              "",
            )
          }
        />
      ))}
      <div>
        <Button
          compact
          onClick={() =>
            onChange(
              [...inserts, { shape: "rod", steel: "15n20", size: Math.max(1, small), count: 5, seed: inserts.length + 1 }],
              "",
            )
          }
        >
          <Plus size={15} aria-hidden /> More pieces
        </Button>
      </div>
    </div>
  );
}

function OneKind({
  index,
  insert,
  start,
  fields,
  problems,
  onChange,
  onRemove,
}: {
  index: number;
  insert: Insert;
  start: Canister;
  fields: ReturnType<typeof fieldsOf>;
  problems: ProblemItem[];
  onChange: (insert: Insert, what: string) => void;
  onRemove: () => void;
}) {
  const placed = !!insert.positions;
  const solid = insert.shape === "ball" || (insert.shape === "tile" && insert.length != null);
  const take = (values: Values, what: string) => {
    const next = { ...values } as unknown as Insert;
    // places need an x for balls and short tiles, and none for what is as long as the can
    const deep = next.shape === "ball" || (next.shape === "tile" && next.length != null);
    if (next.positions) {
      next.positions = next.positions.map((p) => (deep ? (p.length === 3 ? p : [start.length / 2, ...p]) : p.slice(-2)));
    }
    if (next.shape !== "outline") delete next.outline;
    if (next.shape === "outline" && !next.outline)
      next.outline = [
        [-5, -5],
        [5, -5],
        [0, 6],
      ];
    if (next.shape !== "tile") {
      delete next.thickness;
      delete next.length;
    }
    onChange(next, what);
  };
  const byHand = (yes: boolean) => {
    const next = { ...insert };
    if (yes) {
      delete next.count;
      delete next.seed;
      next.positions = [solid ? [start.length / 2, 0, 0] : [0, 0]];
    } else {
      delete next.positions;
      next.count = 5;
      next.seed = 1;
    }
    onChange(next, "");
  };
  const places = insert.positions ?? [];
  const said = problems.filter((p) =>
    ["", "positions", "outline", "seed", "count"].some((k) => p.path === k || p.path.startsWith(`${k}[`)),
  );
  return (
    <fieldset className="grid grid-cols-2 gap-2 rounded-lg border border-line p-2">
      <legend className="sr-only">Pieces {index + 1}</legend>
      <SchemaFields fields={fields} values={insert as unknown as Values} onChange={take} problems={problems} />
      {insert.shape === "outline" ? (
        <OutlineFile insert={insert} onChange={(outline) => onChange({ ...insert, outline }, "")} />
      ) : null}
      <div className="col-span-full">
        <Segments
          label="Placed"
          value={placed ? "hand" : "chance"}
          options={[
            { value: "chance", label: "dropped in" },
            { value: "hand", label: "placed by hand" },
          ]}
          onChange={(v) => byHand(v === "hand")}
        />
      </div>
      {said.map((p) => (
        <p key={p.path + p.wrong} role="alert" className="col-span-full text-sm text-stop">
          {sentence(p)}
        </p>
      ))}
      {placed ? (
        <ol className="col-span-full flex flex-col gap-1">
          {places.map((place, k) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: a place is its place
              key={k}
              className="flex items-end gap-1"
            >
              {place.map((value, axis) => {
                const name = ["along", "across", "up"][axis + (3 - place.length)];
                return (
                  <Measure
                    // biome-ignore lint/suspicious/noArrayIndexKey: x, y, z
                    key={axis}
                    label={`Piece ${k + 1}, ${name}`}
                    bare={k > 0}
                    unit="mm"
                    min={-20000}
                    value={value}
                    onChange={(v) =>
                      onChange(
                        {
                          ...insert,
                          positions: places.map((p, m) => (m === k ? p.map((o, a) => (a === axis ? (v ?? 0) : o)) : p)),
                        },
                        `positions.${k}.${axis}`,
                      )
                    }
                  />
                );
              })}
              <Button
                kind="quiet"
                compact
                label={`Take piece ${k + 1} out`}
                disabled={places.length === 1}
                onClick={() => onChange({ ...insert, positions: places.filter((_, m) => m !== k) }, "")}
              >
                <X size={15} aria-hidden />
              </Button>
            </li>
          ))}
          <li>
            <Button
              compact
              onClick={() => {
                const last = places.at(-1) ?? [0, 0];
                const next = last.map((v, a) => (a === last.length - 2 ? v + insert.size * 1.2 : v));
                onChange({ ...insert, positions: [...places, next] }, "");
              }}
            >
              <Plus size={15} aria-hidden /> One more
            </Button>
          </li>
        </ol>
      ) : (
        <>
          <Measure
            label="How many"
            unit=""
            whole
            value={insert.count ?? 1}
            onChange={(v) => onChange({ ...insert, count: Math.max(1, v ?? 1) }, "count")}
          />
          <Measure
            label="Fall"
            unit=""
            whole
            value={insert.seed ?? 1}
            hint="another number, another fall"
            onChange={(v) => onChange({ ...insert, seed: Math.max(0, v ?? 0) }, "seed")}
          />
        </>
      )}
      <div className="col-span-full">
        <Button kind="quiet" compact onClick={onRemove}>
          <X size={15} aria-hidden /> Take these out
        </Button>
      </div>
    </fieldset>
  );
}

/** Reads a cut-out's outline from an SVG or DXF drawing. */
function OutlineFile({ insert, onChange }: { insert: Insert; onChange: (outline: number[][]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState("");
  const corners = insert.outline ?? [];
  const read = async (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    e.target.value = "";
    if (!file) return;
    const form = new FormData();
    form.append("file", file);
    try {
      const found = (await (await post("/api/files/outlines", form)).json()) as { outlines: number[][][] };
      setProblem("");
      if (found.outlines[0]) onChange(found.outlines[0]);
    } catch (error) {
      setProblem(`${file.name}: ${whatWentWrong(error)}`);
    }
  };
  const ys = corners.map((c) => c[0] ?? 0);
  const zs = corners.map((c) => c[1] ?? 0);
  const span = Math.max(1e-6, Math.max(...ys) - Math.min(...ys), Math.max(...zs) - Math.min(...zs));
  return (
    <div className="col-span-full flex items-center gap-3">
      {corners.length ? (
        <svg
          width={56}
          height={56}
          viewBox={`${Math.min(...ys)} ${-Math.max(...zs)} ${span} ${span}`}
          role="img"
          aria-label="The outline"
        >
          <path d={`M${corners.map(([y, z]) => `${y} ${-(z ?? 0)}`).join("L")}Z`} fill="currentColor" />
        </svg>
      ) : null}
      <div>
        <input
          ref={input}
          type="file"
          accept=".svg,.dxf"
          className="hidden"
          onChange={read}
          aria-label="Outline drawing"
          tabIndex={-1}
        />
        <Button compact onClick={() => input.current?.click()}>
          <Upload size={15} aria-hidden /> Outline from SVG or DXF
        </Button>
        <p className="text-sm text-quiet">{corners.length} corners; the largest closed shape is taken.</p>
        {problem ? (
          <p role="alert" className="text-sm text-stop">
            {problem}
          </p>
        ) : null}
      </div>
    </div>
  );
}
