import { useSay } from "../../../app/session";

const SHOWN = 2;

/** What comes before the acid: what hurts most in sight, the rest a touch away. */
export function First({ order, never }: { order: string[]; never: string[] }) {
  const say = useSay();
  const all = [...order.slice(0, SHOWN), ...never.slice(0, 1), ...order.slice(SHOWN), ...never.slice(1)];
  const rest = all.slice(SHOWN + 1);
  const rows = (lines: string[]) => (
    <ul className="list-disc pl-4">
      {lines.map((l) => (
        <li key={l} className="first-letter:uppercase">
          {say(l)}
        </li>
      ))}
    </ul>
  );
  return (
    <section aria-label="First" className="rounded-lg border-l-4 border-stop bg-stop-wash px-3 py-2">
      <h3 className="font-bold">First</h3>
      {rows(all.slice(0, SHOWN + 1))}
      {rest.length ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">and {rest.length} more</summary>
          {rows(rest)}
        </details>
      ) : null}
    </section>
  );
}
