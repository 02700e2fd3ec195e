import type { KeyboardEvent } from "react";
import type { PairCell, Steel } from "../../api/types";
import { Swatch } from "../steels";
import { DECIDES, VERDICT } from "./words";

/** Every two steels in use, once each: rows under columns, one plain sign. */
export function Matrix({
  steels,
  cells,
  chosen,
  onChoose,
}: {
  steels: Steel[];
  cells: PairCell[];
  chosen: string[];
  onChoose: (pair: string[]) => void;
}) {
  const found = new Map(cells.map((c) => [[...c.steels].sort().join("|"), c]));
  const cell = (a: string, b: string) => found.get([a, b].sort().join("|"));
  const move = (e: KeyboardEvent<HTMLTableElement>) => {
    const at = (e.target as HTMLElement).dataset.at?.split(",").map(Number);
    const by = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key];
    if (!at || !by) return;
    e.preventDefault();
    e.currentTarget
      .querySelector<HTMLElement>(`[data-at="${(at[0] ?? 0) + (by[0] ?? 0)},${(at[1] ?? 0) + (by[1] ?? 0)}"]`)
      ?.focus();
  };
  return (
    <table className="border-separate border-spacing-0.5" onKeyDown={move} aria-label="Every two steels in use">
      <tbody>
        {steels.map((row, r) => (
          <tr key={row.key}>
            <th scope="row" className="pr-2 text-right font-normal whitespace-nowrap">
              <span className="inline-flex items-center gap-2">
                {shortName(row)}
                <Swatch steel={row} size={18} />
              </span>
            </th>
            {steels.slice(0, r).map((column, c) => {
              const here = cell(row.key, column.key);
              const how = here ? VERDICT[here.verdict] : null;
              const on = chosen.length === 2 && chosen.includes(row.key) && chosen.includes(column.key);
              const first = chosen.length === 2 ? on : r === 1 && c === 0;
              return (
                <td key={column.key} className="p-0">
                  <button
                    type="button"
                    data-at={`${r},${c}`}
                    tabIndex={first ? 0 : -1}
                    aria-pressed={on}
                    aria-label={`${column.name} and ${row.name}: ${how ? how.word : "working it out"}${here?.word ? `, ${DECIDES[here.word] ?? here.word}` : ""}`}
                    title={`${column.name} and ${row.name}: ${how?.word ?? ""}${here?.word ? ` (${DECIDES[here.word]?.toLowerCase() ?? here.word})` : ""}`}
                    onClick={() => onChoose([column.key, row.key])}
                    className={`grid h-11 w-11 place-items-center rounded-md border text-lg ${how ? `${how.wash} ${how.text}` : ""} ${on ? "border-2 border-ink font-bold" : "border-line hover:border-edge"}`}
                  >
                    {how?.sign ?? "·"}
                  </button>
                </td>
              );
            })}
            <td className="relative h-9 p-0">
              <span aria-hidden className="absolute bottom-0 left-1 text-sm whitespace-nowrap text-quiet">
                {r < steels.length - 1 ? `↓ ${shortName(row)}` : ""}
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function shortName(steel: Pick<Steel, "name">): string {
  const [first, second] = steel.name.split(" ");
  return first && /\d/.test(first) ? first : [first, second].filter(Boolean).join(" ");
}
