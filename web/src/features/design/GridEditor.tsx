import { Minus, Plus } from "lucide-react";
import type { ProblemItem, Step } from "../../api/types";
import { Button } from "../../ui";
import { sentence } from "./fields/problems";

type Cells = Extract<Step, { kind: "grid" }>["cells"];
type Cell = Cells[number][number];

const TURNED = ["as cut", "a quarter", "half", "three quarters"];

/** The cells as they will be piled, the lowest row at the bottom: choose one to turn its piece by a quarter. */
export function GridEditor({
  cells,
  problems,
  onChange,
}: {
  cells: Cells;
  problems: ProblemItem[];
  onChange: (cells: Cells) => void;
}) {
  const rows = cells.length;
  const columns = cells[0]?.length ?? 1;
  const put = (r: number, c: number, cell: Cell) =>
    onChange(cells.map((row, i) => (i === r ? row.map((old, j) => (j === c ? cell : old)) : row)));
  const resize = (r: number, c: number) =>
    onChange(Array.from({ length: r }, (_, i) => Array.from({ length: c }, (_, j) => cells[i]?.[j] ?? {})));
  const said = problems[0];
  return (
    <div className="col-span-full">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-quiet">
        <Count label="rows" value={rows} onChange={(n) => resize(n, columns)} />
        <Count label="columns" value={columns} onChange={(n) => resize(rows, n)} />
      </div>
      {said ? (
        <p role="alert" className="text-sm text-stop">
          {sentence(said)}
        </p>
      ) : null}
      <ol className="mt-1 flex flex-col-reverse gap-1 overflow-x-auto" aria-label="Cells, lowest row last">
        {cells.map((row, r) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
            key={r}
            className="flex gap-1"
          >
            {row.map((cell, c) => {
              const quarters = (((cell.quarter_turns ?? 0) % 4) + 4) % 4;
              return (
                <div
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                  key={c}
                  className="flex w-20 shrink-0 flex-col rounded-lg border border-edge"
                >
                  <button
                    type="button"
                    className="grid h-12 place-items-center rounded-t-lg hover:bg-line/60"
                    aria-label={`Row ${r + 1}, column ${c + 1}: turned ${TURNED[quarters]}; turn it by a quarter more`}
                    onClick={() => put(r, c, { ...cell, quarter_turns: (quarters + 1) % 4 })}
                  >
                    <svg width={26} height={26} viewBox="-13 -13 26 26" aria-hidden>
                      <g transform={`rotate(${-90 * quarters})`}>
                        <rect x={-11} y={-11} width={22} height={22} fill="none" stroke="var(--edge)" />
                        <path d="M-11 11 L-11 -1 L1 11 Z" fill="currentColor" />
                        <path d="M-11 -6 L6 11 M-11 -11 L11 11" stroke="currentColor" strokeWidth={1.5} />
                      </g>
                    </svg>
                  </button>
                  <button
                    type="button"
                    aria-pressed={!!cell.end_for_end}
                    className="min-h-9 rounded-b-lg border-t border-line text-xs aria-pressed:bg-ink aria-pressed:text-panel"
                    onClick={() => put(r, c, { ...cell, end_for_end: !cell.end_for_end })}
                  >
                    end for end
                  </button>
                </div>
              );
            })}
          </li>
        ))}
      </ol>
      <p className="mt-1 text-sm text-quiet">
        Seen from the far end. Pieces are cut from the start on, row by row from the bottom.
      </p>
    </div>
  );
}

function Count({ label, value, onChange }: { label: string; value: number; onChange: (n: number) => void }) {
  return (
    <span className="flex items-center gap-1">
      <Button kind="quiet" compact label={`Fewer ${label}`} disabled={value <= 1} onClick={() => onChange(value - 1)}>
        <Minus size={15} aria-hidden />
      </Button>
      <span className="min-w-16 text-center">
        <span className="font-mono text-ink">{value}</span> {label}
      </span>
      <Button kind="quiet" compact label={`More ${label}`} disabled={value >= 20} onClick={() => onChange(value + 1)}>
        <Plus size={15} aria-hidden />
      </Button>
    </span>
  );
}
