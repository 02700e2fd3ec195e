import type { Steel } from "../../api/types";
import { greyOf } from "./useSteels";

/** How the steel etches, as a small plate. */
export function Swatch({ steel, size = 36 }: { steel: Pick<Steel, "grey">; size?: number }) {
  return (
    <span
      aria-hidden
      className="inline-block shrink-0 rounded-md border border-edge"
      style={{ background: greyOf(steel.grey), width: size, height: size }}
    />
  );
}
