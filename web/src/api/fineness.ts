/** Previews follow the hand: rather coarse in time than fine and late. */

export const IN_TIME_MS = 36;
const COARSEST = 0.4;
const FINEST = 1;
/** A little at a time, so that one slow answer does not make them all coarse. */
const STEP = 0.88;
/** So much quicker than it must be, the next may be finer. */
const EASILY = 0.6;
/** Sizes are told apart by so many pixels: what the server keeps of one is of use for the next. */
const GRAIN_PX = 16;

/** How fine the next preview is asked for, when the last took so long. */
export function finer(now: number, tookMs: number): number {
  if (tookMs > IN_TIME_MS) return Math.max(COARSEST, now * STEP);
  return tookMs < EASILY * IN_TIME_MS ? Math.min(FINEST, now / STEP) : now;
}

/** Pixels across of a preview that stands in `px` pixels. */
export function roughPx(px: number, fineness: number): number {
  return Math.min(px, Math.max(GRAIN_PX, Math.round((px * fineness) / GRAIN_PX) * GRAIN_PX));
}
