/** What a pairing is for, kept in the address so that a reload or a link shows the same. Pure. */

import type { Etchant, Use } from "../../api/types";
import { BATHS } from "../steels/words";
import { USES } from "./words";

export type Purpose = { use: Use; thickness: number; etchant: Etchant; temper: number };

const held = (text: string | null, low: number, high: number, usual: number): number => {
  const value = Number(text ?? Number.NaN);
  return Number.isFinite(value) && text?.trim() ? Math.min(high, Math.max(low, value)) : usual;
};

/** From an address; what is missing or nonsense in it is as usual. */
export function purposeIn(query: URLSearchParams): Purpose {
  const etchant = query.get("etchant") ?? "";
  return {
    use: USES.find((u) => u.value === query.get("use"))?.value ?? "edge",
    thickness: held(query.get("thickness"), 0.5, 60, 4),
    etchant: Object.hasOwn(BATHS, etchant) ? (etchant as Etchant) : "ferric",
    temper: held(query.get("temper"), 150, 350, 200),
  };
}
