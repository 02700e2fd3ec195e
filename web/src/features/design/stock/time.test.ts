import { describe, expect, it } from "vitest";
import type { TimeAndMoney } from "../../../api/types";
import { byDay, clock, DAY_MIN, dayOf, hoursText, isoDay, weekday } from "./time";

describe("time of the work", () => {
  it("says minutes as one would", () => {
    expect(hoursText(45.4)).toBe("45 min");
    expect(hoursText(125)).toBe("2 h 5 min");
    expect(hoursText(120)).toBe("2 h");
    expect(hoursText(1215)).toBe("20.3 h");
  });

  it("begins in the morning", () => {
    expect(clock(0, 480)).toBe("8:00");
    expect(clock(65, 480)).toBe("9:05");
    expect(clock(DAY_MIN + 30, 480)).toBe("8:30");
  });

  it("counts days from the first", () => {
    const first = new Date(2031, 4, 30);
    expect(isoDay(dayOf(first, 0, 480))).toBe("2031-05-30");
    expect(isoDay(dayOf(first, 2 * DAY_MIN + 10, 480))).toBe("2031-06-01");
    // glue that sets through the night is done the next day
    expect(isoDay(dayOf(first, 17 * 60, 480))).toBe("2031-05-31");
    expect(weekday(new Date(2031, 5, 2))).toBe(0);
    expect(weekday(new Date(2031, 5, 1))).toBe(6);
  });

  it("puts operations under the day they begin on", () => {
    const op = (id: string, start: number) => ({ id, start, hands: start + 10 }) as TimeAndMoney["operations"][number];
    const days = byDay([op("b", 50), op("c", DAY_MIN + 5), op("a", 0)]);
    expect(days.map((d) => [d.number, d.operations.map((o) => o.id)])).toEqual([
      [0, ["a", "b"]],
      [1, ["c"]],
    ]);
  });
});
