/** What a build begins with. Pure. */

import type { CutPlan, StockSheet } from "../../../api/types";
import { length, sizes, type Units } from "../../../lib/units";

export type Piled = "must" | "drawn";
type Told = { text: string; tone: "care" | "note" };

/** The bars that leave the rack, and what comes back of them. */
export function takesOf(plan: CutPlan | null): {
  takes: Record<string, number>;
  keep: { item: number; length: number; count: number }[];
} {
  const takes: Record<string, number> = {};
  for (const b of plan?.bars ?? []) takes[b.item] = (takes[b.item] ?? 0) + 1;
  const keep = (plan?.bars ?? [])
    .filter((b) => b.keep)
    .map((b) => ({ item: b.item, length: Math.round(b.left * 10) / 10, count: 1 }));
  return { takes, keep };
}

/** What should be known before one begins; none of it forbids it. */
export function whatStands(
  sheet: StockSheet | null | undefined,
  piled: Piled,
  plan: CutPlan | null | undefined,
  steel: "laid" | "rack" | "mine",
  name: (key: string) => string = String,
): Told[] {
  const out: Told[] = [];
  if (sheet && piled === "drawn" && sheet.spare < -0.5)
    out.push({ text: "As drawn the finished bar is too short for this blade: cut the piles as Stock says.", tone: "care" });
  if (steel === "rack" && plan?.buy.length) {
    const n = plan.buy.reduce((sum, b) => sum + b.pieces.length, 0);
    out.push({
      text: `${n} ${n === 1 ? "piece is" : "pieces are"} still to buy: ${plan.buy.map((b) => name(b.steel)).join(", ")}.`,
      tone: "care",
    });
  }
  const others = (plan?.others ?? []).filter((o) => o.there === false);
  if (steel === "rack" && others.length)
    out.push({ text: `Not in the rack: ${others.map((o) => o.says).join(", ")}.`, tone: "care" });
  if (steel === "rack" && plan && !plan.buy.length && !others.length) out.push({ text: "The rack has it all.", tone: "note" });
  return out;
}

type Piece = { says: string; section: string; length: string; count: string };

/** What to cut, as it goes to paper: from which bar, those alike together; then what is to buy, and what else goes in. */
export function piecesOf(plan: CutPlan | null | undefined, u: Units, name: (key: string) => string = String): Piece[] {
  const alike = new Map<string, Piece & { n: number }>();
  const add = (says: string, section: string, long: number) => {
    const one = { says, section, length: length(long, u.length), count: "" };
    const key = JSON.stringify(one);
    alike.set(key, { ...one, n: (alike.get(key)?.n ?? 0) + 1 });
  };
  for (const b of plan?.bars ?? [])
    for (const c of b.cuts)
      add(`${b.code}, ${name(b.steel)}${c.how ? `: ${c.how}` : ""}`, sizes([c.width, c.thickness], u.length), c.length);
  for (const b of plan?.buy ?? [])
    for (const long of b.pieces) add(`to buy, ${name(b.steel)}`, sizes([b.width, b.thickness], u.length), long);
  const others = (plan?.others ?? []).map((o) => ({
    says: o.says,
    section: "",
    length: "",
    count: o.count ? `${o.count} ×` : "",
  }));
  return [...[...alike.values()].map(({ n, ...one }) => ({ ...one, count: `${n} ×` })), ...others];
}
