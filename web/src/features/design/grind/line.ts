/** The core line as the screen draws it. Pure. */

import type { CoreLine, Side } from "../../../api/types";

export type Place = CoreLine["stations"][number];

/** Height of the core line, mm square to the edge: 0 where none begins at the edge, the blade's height where it reaches the spine. */
export function lineHeight(s: Pick<Place, "shown">): number {
  const [low = 1, high = 0] = s.shown[0] ?? [];
  return low > 1e-6 ? 0 : high;
}

export function ofSide(stations: Place[], side: Side): Place[] {
  return stations.filter((s) => s.side === side);
}
