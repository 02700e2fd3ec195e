/** Minutes since the first morning as days and times of day. Pure. */

import type { Document, StockSheet, TimeAndMoney } from "../../../api/types";
import { barAt, numberOf, rootOf, stepsOf } from "../bars";

export const DAY_MIN = 24 * 60;

/** "2 h 5 min", "45 min". */
export function hoursText(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  if (!hours) return `${whole} min`;
  const rest = whole % 60;
  return hours < 10 && rest ? `${hours} h ${rest} min` : `${(whole / 60).toFixed(hours < 10 ? 0 : 1)} h`;
}

/** Time of day of a moment: 0 is when the first day's work begins, `opens` minutes after midnight. */
export function clock(minutes: number, opens: number): string {
  const of = (opens + (((minutes % DAY_MIN) + DAY_MIN) % DAY_MIN)) % DAY_MIN;
  return `${Math.floor(of / 60)}:${String(Math.floor(of % 60)).padStart(2, "0")}`;
}

/** The calendar day that so many minutes after the first morning fall on. */
export function dayOf(first: Date, minutes: number, opens: number): Date {
  const day = new Date(first);
  day.setDate(day.getDate() + Math.floor((opens + minutes) / DAY_MIN));
  return day;
}

/** Monday 0. */
export function weekday(day: Date): number {
  return (day.getDay() + 6) % 7;
}

/** "2031-05-17" in the user's own time. */
export function isoDay(day: Date): string {
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

export type Day = { number: number; operations: TimeAndMoney["operations"] };

/** Operations by the day they are begun on, in their order. */
export function byDay(operations: TimeAndMoney["operations"]): Day[] {
  const days = new Map<number, TimeAndMoney["operations"]>();
  for (const o of operations.toSorted((a, b) => a.start - b.start || a.hands - b.hands)) {
    const number = Math.floor(o.start / DAY_MIN);
    days.set(number, [...(days.get(number) ?? []), o]);
  }
  return [...days.entries()].map(([number, of]) => ({ number, operations: of }));
}

/** "bar 2", or "bars 1, 2, 3" while they are forged as one; nothing of the whole, or of the blade. */
export function barsOf(document: Document, groups: StockSheet["groups"], bar: string, step: string | null): string {
  if (!bar || bar === rootOf(document)) return "";
  const at = step === null ? -1 : stepsOf(barAt(document, bar)).findIndex((s) => s.id === step);
  const group = groups.find((g) => g.bars[0] === bar && at < g.steps);
  const names = (group?.bars ?? [bar]).map((b) => numberOf(document, b));
  return `bar${names.length > 1 ? "s" : ""} ${names.join(", ")}`;
}
