import { Link } from "react-router";
import { api, ask } from "../../../api/client";
import type { Fitting } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useUnit } from "../../../app/session";
import { sizes } from "../../../lib/units";
import { useTable } from "../table";

/** What goes on this blade, and the patterned offcuts of the rack that would do for it. */
export function Fittings() {
  const { document } = useTable();
  const { recipe, blade, off } = document;
  const unit = useUnit();
  const told = useWorkedOut<Fitting[]>(
    "fittings",
    { document: { recipe, blade, off } },
    (body, signal) => ask(api.POST("/api/rack/fittings", { body, signal })) as Promise<Fitting[]>,
    !!blade,
  ).data;
  const some = told?.filter((f) => f.offered.length) ?? [];
  if (!blade || !told) return null;
  return (
    <section aria-label="From your offcuts">
      <h3 className="mb-1 font-bold">From your offcuts</h3>
      {some.length ? null : (
        <p className="text-sm text-quiet">
          No offcut in the rack would make a guard, bolsters, ferrule, pommel or ring for this blade.
        </p>
      )}
      <ul>
        {some.map((f) => (
          <li key={f.name} className="border-t border-line py-1.5">
            <p>
              <b className="inline-block first-letter:uppercase">{f.name}</b>{" "}
              <span className="text-sm text-quiet">of {sizes([f.length, f.width, f.thickness], unit)}</span>
            </p>
            <ul className="flex flex-col gap-1">
              {f.offered.slice(0, 3).map((o) => (
                <li key={o.item}>
                  <Link
                    to={`/rack?item=${o.item}`}
                    className="grid min-h-11 grid-cols-[5rem_1fr] items-center gap-2 hover:underline"
                  >
                    <span className="grid h-10 place-items-center overflow-hidden rounded bg-plate">
                      <img
                        src={o.picture}
                        alt={`Pattern of ${o.code}`}
                        className="max-h-10 max-w-20 object-contain"
                        loading="lazy"
                      />
                    </span>
                    <span className="text-sm leading-tight">
                      <b className="font-mono">{o.code}</b> {sizes([o.width, o.thickness, o.length], unit)}
                      <span className="block text-quiet">
                        {o.how}
                        {o.stretch > 1.05 ? `, the motif ${o.stretch.toFixed(1)} times as long` : ""}
                      </span>
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}
