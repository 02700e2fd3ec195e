"""When everything is done: one pair of hands within their hours, kiln, bath and glue by themselves through the night.

List scheduling: whenever the hands are free, they take up what can be begun and has the longest way still before it.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from varistrat.core.figures import Numbers
from varistrat.core.laws.numbers import DAY, WEEK
from varistrat.core.route.operation import Operation

DRAWS, SEED = 128, 11
DAY_MINUTES = 24 * 60.0
OPENS = 8 * 60.0
"""Minutes after midnight at which the shop begins: minute 0 of a schedule."""


@dataclass(frozen=True)
class Slot:
    """One operation in time: minutes since the first morning's beginning; hands: until when they are on it, end: until when it runs."""

    id: str
    start: float
    hands: float
    end: float


@dataclass(frozen=True)
class Hours:
    """Minutes at work in a day, from 0; days at work in a week, the first day's place in it (Monday 0)."""

    day: float
    week: int
    first: int = 0

    @classmethod
    def of(cls, numbers: Numbers, first: int = 0) -> "Hours":
        """The shop's."""
        return cls(60 * numbers.of(DAY), round(numbers.of(WEEK)), first)

    def _at_work(self, day: int) -> bool:
        return (self.first + day) % 7 < self.week

    def next(self, t: float) -> float:
        """The first moment at work from `t` on."""
        day, into = divmod(t, DAY_MINUTES)
        while not self._at_work(int(day)) or into >= self.day - 1e-9:
            day, into = day + 1, 0.0
        return day * DAY_MINUTES + into

    def after(self, t: float, minutes: float) -> float:
        """When so many minutes of work are done that are begun at `t`; evenings and free days lie between."""
        t = self.next(t)
        while minutes > 1e-9:
            left = self.day - t % DAY_MINUTES
            if minutes <= left + 1e-9:
                return t + minutes
            minutes -= left
            t = self.next(t + left)
        return t


def ways_left(operations: Sequence[Operation]) -> dict[str, float]:
    """Minutes of the longest way from the beginning of each to the end of all."""
    follows: dict[str, list[str]] = {o.id: [] for o in operations}
    for o in operations:
        for before in o.after:
            follows[before].append(o.id)
    left: dict[str, float] = {}
    for o in reversed(operations):
        left[o.id] = o.attended + o.alone + max((left[f] for f in follows[o.id]), default=0.0)
    return left


def critical(operations: Sequence[Operation]) -> list[str]:
    """Ids along the longest way."""
    left = ways_left(operations)
    by_id = {o.id: o for o in operations}
    heads = [o.id for o in operations if not o.after]
    out = [max(heads, key=lambda i: left[i])] if heads else []
    while True:
        last = by_id[out[-1]] if out else None
        following = [o.id for o in operations if last and last.id in o.after]
        if not following:
            return out
        out.append(max(following, key=lambda i: left[i]))


def schedule(operations: Sequence[Operation], hours: Hours, ratio: dict[str, float] | None = None) -> list[Slot]:
    """Every operation in time. ratio: real over planned of each."""
    ratio = ratio or {}
    left, waiting = ways_left(operations), {o.id: o for o in operations}
    ended: dict[str, float] = {}
    free: dict[str, float] = {}
    hands, out = 0.0, []
    while waiting:
        ready = [o for o in waiting.values() if all(a in ended for a in o.after)]
        begin = {o.id: hours.next(max([hands, free.get(o.place, 0.0), *(ended[a] for a in o.after)])) for o in ready}
        soonest = min(begin.values())
        one = max((o for o in ready if begin[o.id] <= soonest + 1e-9), key=lambda o: left[o.id])
        start, times = begin[one.id], ratio.get(one.id, 1.0)
        hands = hours.after(start, one.attended * times)
        end = hands + one.alone * times
        if one.alone and one.place != "glue":
            free[one.place] = end
        ended[one.id] = end
        out.append(Slot(one.id, start, hands, end))
        del waiting[one.id]
    return out


def finish(operations: Sequence[Operation], hours: Hours, draws: int = DRAWS, seed: int = SEED) -> tuple[float, float]:
    """Minutes until all is done: as likely later as sooner, and sooner nine times in ten."""
    rng = np.random.default_rng(seed)
    ends = []
    for _ in range(draws):
        ratio = {o.id: float(np.exp(np.log(o.spread) * rng.standard_normal())) for o in operations}
        ends.append(max((s.end for s in schedule(operations, hours, ratio)), default=0.0))
    return float(np.quantile(ends, 0.5)), float(np.quantile(ends, 0.9))
