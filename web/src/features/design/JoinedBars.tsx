import type { BarId, Child, Portrait } from "../../api/types";
import { useUnit } from "../../app/session";
import { barSize } from "./words";

const PX = 0.62;
const ROW = 44;

/** The bars that come together, each in its own portrait, running into the joint: open one to work on it. */
export function JoinedBars({
  items,
  portraits,
  join,
  onOpen,
}: {
  items: Child[];
  portraits: Portrait[];
  join: string;
  onOpen: (bar: BarId) => void;
}) {
  const unit = useUnit();
  // as they lie: the highest, or the one furthest back, on top
  const order = items.map((_, i) => i).reverse();
  const columns = Math.max(1, Math.ceil(items.length / 3));
  const rows = Math.min(3, items.length);
  const height = Math.max(1, rows) * ROW;
  return (
    <div className="flex items-center">
      <ul
        aria-label={items.length === 1 ? "One bar here" : `${items.length} bars come together here`}
        className="grid gap-x-1"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
      >
        {order.map((i) => {
          const child = items[i] as Child;
          const portrait = portraits.find((p) => p.child === child.id);
          const size = child.length !== null && child.width !== null && child.thickness !== null && child.form !== null;
          return (
            <li key={child.id}>
              <button
                type="button"
                data-open-bar={i}
                title={`Open bar ${i + 1}: ${child.label}`}
                onClick={() => onOpen(child.id)}
                className="flex h-11 w-[13.2rem] items-center gap-2 rounded-lg border border-transparent px-1.5 text-left hover:border-ink hover:bg-panel"
              >
                {portrait && size ? (
                  <span className="flex shrink-0 items-center gap-1">
                    <img
                      src={portrait.end}
                      alt=""
                      className="max-h-8 max-w-8"
                      style={{ height: (child.thickness ?? 10) * PX * 2 }}
                    />
                    <img src={portrait.side} alt="" className="h-3 w-7 object-cover object-left" />
                  </span>
                ) : (
                  <span className="grid h-8 w-16 shrink-0 place-items-center rounded border border-dashed border-edge text-xs text-quiet">
                    {child.problem ? "stops" : "…"}
                  </span>
                )}
                <span className="min-w-0 leading-tight">
                  <span className="block truncate text-sm font-semibold">
                    {i + 1}. {child.label}
                  </span>
                  <span className={`block truncate font-mono text-[0.72rem] ${child.problem ? "text-stop" : "text-quiet"}`}>
                    {child.problem
                      ? "cannot be done: open it"
                      : size
                        ? barSize(child as { form: string; length: number; width: number; thickness: number }, unit).replace(
                            / [a-z]+$/,
                            "",
                          )
                        : ""}
                  </span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <svg width={34} height={Math.max(60, height)} viewBox={`0 0 34 ${Math.max(60, height)}`} aria-hidden className="shrink-0">
        <title>{join}</title>
        {Array.from({ length: rows }, (_, r) => {
          const y = (r + 0.5) * ROW + Math.max(0, (60 - height) / 2);
          const mid = Math.max(60, height) / 2;
          return <path key={y} d={`M2 ${y} C18 ${y} 14 ${mid} 32 ${mid}`} fill="none" stroke="var(--edge)" strokeWidth={2} />;
        })}
      </svg>
    </div>
  );
}
