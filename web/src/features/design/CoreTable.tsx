import type { Side, Station } from "../../api/types";
import { useUnit } from "../../app/session";
import { lengthText, UNIT_MARK } from "../../lib/units";

const SHOWN = 8;

/** Where the core shows along the blade, left against right: height above the edge. */
export function CoreTable({ core }: { core: Station[] }) {
  const unit = useUnit();
  const places = [...new Set(core.map((s) => s.x))];
  const every = Math.max(1, Math.ceil(places.length / SHOWN));
  const at = (x: number, side: Side) => core.find((s) => s.x === x && s.side === side);
  return (
    <table className="mt-3 w-full text-right">
      <caption className="pb-1 text-left text-sm font-semibold text-quiet">Core line, {UNIT_MARK[unit]} up from the edge</caption>
      <thead className="text-sm text-quiet">
        <tr>
          <th scope="col" className="text-left font-normal">
            from the heel
          </th>
          <th scope="col" className="font-normal">
            left
          </th>
          <th scope="col" className="font-normal">
            right
          </th>
        </tr>
      </thead>
      <tbody className="font-mono">
        {places
          .filter((_, i) => i % every === Math.floor(every / 2))
          .map((x) => (
            <tr key={x} className="border-t border-line">
              <th scope="row" className="py-0.5 text-left font-normal">
                {lengthText(x, unit)}
              </th>
              <td>{height(at(x, "left"), unit)}</td>
              <td>{height(at(x, "right"), unit)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

function height(station: Station | undefined, unit: Parameters<typeof lengthText>[1]): string {
  if (!station || station.state === "none") return "no core";
  const [low = 0, high = 0] = station.shown[0] ?? [];
  if (station.state === "line") return lengthText(high, unit);
  if (station.state === "spine" && low < 1e-6) return "to the spine";
  return `${lengthText(low, unit)} to ${lengthText(high, unit)}`;
}
