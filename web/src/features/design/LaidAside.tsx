import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { LaidAside as Aside } from "../../api/types";
import { Only, useGrams, useUnit } from "../../app/session";
import { sizes } from "../../lib/units";
import { Button } from "../../ui";
import { useRackChange } from "../rack/useRack";
import { useSteelName } from "../steels/useSteels";

export const ASIDE_KEY = ["laid-aside"];

/** Steel taken out of the rack for a design, and that no build of it has yet. */
export function useLaidAside(design: number) {
  return useQuery({
    queryKey: [...ASIDE_KEY, design],
    queryFn: () => ask(api.GET("/api/builds/laid-aside/{design_id}", { params: { path: { design_id: design } } })),
  });
}

/** For whoever takes steel, or gives it back: what was laid aside is asked for anew. */
export function useAsideChanged() {
  const queries = useQueryClient();
  return () => void queries.invalidateQueries({ queryKey: ASIDE_KEY });
}

/** What lies ready for this design, and how it goes back. */
export function LaidAside({ aside }: { aside: Aside[] }) {
  const steel = useSteelName();
  const unit = useUnit();
  const grams = useGrams();
  const change = useRackChange();
  const changed = useAsideChanged();
  const putBack = (act: string) =>
    change(ask(api.POST("/api/rack/acts/{act}/put-back", { params: { path: { act } } })), "It is in the rack again.").finally(
      changed,
    );
  if (!aside.length) return null;
  return (
    <section aria-label="Taken for this design" className="col-span-full border-l-4 border-note bg-note-wash px-3 py-1.5">
      <p className="font-semibold">Taken out of the rack for this design</p>
      {aside.map((one) => (
        <div key={one.act} className="flex flex-wrap items-center justify-between gap-x-3">
          <ul>
            <li className="text-sm text-quiet">
              {new Date(one.at).toLocaleDateString()}
              {one.by ? `, by ${one.by}` : ""}
            </li>
            {one.bars.map((b) => (
              <li key={b.code}>
                <b className="font-mono">{b.code}</b>{" "}
                {b.form === "powder"
                  ? `${steel(b.steel)}, ${grams(b.amount)}`
                  : `${b.amount} × ${steel(b.steel)} ${sizes([b.width ?? 0, b.thickness ?? 0, b.length ?? 0], unit)}`}
              </li>
            ))}
          </ul>
          <Only needs="smith">
            <Button compact onClick={() => void putBack(one.act)}>
              Put it back
            </Button>
          </Only>
        </div>
      ))}
    </section>
  );
}
