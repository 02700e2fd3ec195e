import { useState } from "react";
import type { WayOut } from "../../../api/types";
import { useGrams, useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { useTable } from "../table";
import { Picture } from "../views/Picture";
import { Worse } from "../Worse";
import { useStock } from "./stock";

const BOX = { width: 284, height: 64 };

/** What may give way, each worked out and with its blade; taken with a click. */
export function Ways() {
  const { ways, sheet } = useStock();
  const found = ways.data;
  if (ways.busy && !found) return <p className="animate-pulse text-quiet">Looking for what may give way…</p>;
  if (!found?.ways.length)
    return sheet.data && sheet.data.spare < -0.5 ? (
      <p className="text-quiet">No one number alone makes it long enough. Change several, or begin with more steel.</p>
    ) : null;
  return (
    <section aria-label={found.short ? "Ways out" : "With less steel"} className={ways.busy ? "opacity-60" : ""}>
      <h3 className="mb-1 font-bold">{found.short ? "Ways out, each worked out" : "It could do with less steel"}</h3>
      <ul className="flex flex-col gap-3">
        {found.ways.map((w) => (
          <Way key={w.give} way={w} />
        ))}
      </ul>
    </section>
  );
}

function Way({ way }: { way: WayOut }) {
  const { ledger, change, undo } = useTable();
  const { sheet } = useStock();
  const unit = useUnit();
  const grams = useGrams();
  const say = useSay();
  const toast = useToast();
  const [looked, setLooked] = useState(false);
  const piles = sheet.data?.piles ?? [];
  const more = way.mass - piles.reduce((sum, p) => sum + p.mass_has, 0);
  const { recipe, blade, off } = way.document;
  const shape = ledger?.shape;
  return (
    <li className="overflow-hidden rounded-lg border border-line" aria-label={say(way.says)}>
      {blade && shape ? (
        <button
          type="button"
          aria-label={looked ? "The right face, as it would look" : "Look at its left face"}
          className="grid w-full place-items-center bg-plate py-1"
          onClick={() => setLooked(!looked)}
        >
          <Picture
            path="/api/predict/blade.png"
            lane={`way-${way.give}`}
            label={`${looked ? "Left" : "Right"} face of the blade so`}
            box={BOX}
            body={{ document: { recipe, blade, off }, side: looked ? "left" : "right", margin: 1.8, book: true }}
          />
        </button>
      ) : null}
      <div className="p-2">
        <p className="font-semibold">{say(way.says)}</p>
        <p className="text-sm text-quiet">
          {Math.abs(more) < 1 ? "The same steel" : `${grams(Math.abs(more))} ${more > 0 ? "more" : "less"} steel`}
          {way.spare > 0.5 ? `, ${length(way.spare, unit)} to spare` : ", just enough"}.
        </p>
        <Worse worse={way.worse} />
        <Button
          compact
          onClick={() => {
            change({ type: "document", document: way.document });
            toast(`Taken: ${say(way.says)}`, undo);
          }}
        >
          Take this
        </Button>
      </div>
    </li>
  );
}
