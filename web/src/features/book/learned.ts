/** What was learned, in words and along a line. Pure. */

import type { Factor } from "../../api/types";

export const TICKS = [0.5, 0.7, 1, 1.4, 2];
const FROM = 0.4;
const TO = 2.5;

/** Per cent along the line: logarithmic, so that twice and half lie equally far from 1. */
export function along(ratio: number): number {
  const share = Math.log(Math.min(TO, Math.max(FROM, ratio)) / FROM) / Math.log(TO / FROM);
  return Math.round(share * 1e4) / 100;
}

const builds = (n: number) => `${n} ${n === 1 ? "build" : "builds"}`;

/** "1.32 times ours (5 builds); eight in ten between 1.03 and 1.69". */
export function factorText(f: Factor): string {
  if (!f.n) return f.quantity === "minutes" ? "not timed yet" : "not measured yet";
  return `${f.factor.toFixed(2)} times ours (${builds(f.n)}); eight in ten between ${f.low.toFixed(2)} and ${f.high.toFixed(2)}`;
}

/** What is offered, and how sure it is. */
export function offerText(f: Factor): string {
  return f.sure ? `Yours is ${f.factor.toFixed(2)}: use it` : `Use ${f.factor.toFixed(2)}, though it may be chance`;
}
