"""Times taken at quiet moments. On a shared machine a neighbour on the same core doubles every time for seconds on end: each try is
taken between two looks at how fast a plain loop runs, and those that were disturbed do not count.
"""

import os
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from statistics import median

QUIET = 1.25
"""Times the quickest turn of the loop, up to which a moment is quiet."""
TURNS = 20_000
FEW = 3
"""Quiet tries below which all count, and it is said."""


def _turn() -> float:
    """Seconds of a plain loop, the quickest of three."""
    took = []
    for _ in range(3):
        start = time.perf_counter()
        total = 0
        for i in range(TURNS):
            total += i
        took.append(time.perf_counter() - start)
    return min(took)


@dataclass
class Machine:
    """How fast it ran at its quickest, as far as was seen, and how it ran at every look."""

    quickest: float = float("inf")
    looks: list[float] = field(default_factory=list)

    def pace(self) -> float:
        """Times slower than its quickest that the slowest core runs now, of those this thread may run on."""
        mine = os.sched_getaffinity(0)
        took = []
        for core in mine:
            os.sched_setaffinity(0, {core})
            took.append(_turn())
        os.sched_setaffinity(0, mine)
        self.quickest = min(self.quickest, *took)
        self.looks.append(max(took))
        return max(took) / self.quickest

    def settle(self, patience: float) -> float:
        """Wait for a quiet moment, if one comes; its pace."""
        until = time.monotonic() + patience
        while (now := self.pace()) > QUIET and time.monotonic() < until:
            time.sleep(0.1)
        return now

    def said(self) -> str:
        """For the head of the page."""
        busy = sum(1 for took in self.looks if took > QUIET * self.quickest) / max(len(self.looks), 1)
        slow = median(self.looks) / self.quickest if self.looks else 1.0
        return (
            f"A turn of a plain loop took {self.quickest / TURNS * 1e9:.0f} ns at its quickest; at {100 * busy:.0f} % of {len(self.looks)} "
            f"looks another machine's work made it slower (median {slow:.1f} times). Tries that were so disturbed do not count where "
            f"there were {FEW} that were not."
        )


machine = Machine()


@dataclass(frozen=True)
class Tries:
    """What was measured, one row a try, and the pace it was measured at."""

    rows: list[tuple[float, ...]]
    paces: list[float]

    @property
    def _quiet(self) -> list[tuple[float, ...]]:
        return [r for r, pace in zip(self.rows, self.paces, strict=True) if pace <= QUIET]

    @property
    def counted(self) -> list[tuple[float, ...]]:
        return self._quiet if len(self._quiet) >= FEW else self.rows

    def median(self, column: int = 0) -> float:
        return median(r[column] for r in self.counted)

    def best(self, column: int = 0) -> float:
        """Median of the fastest half: short of noise, not of luck."""
        found = sorted(r[column] for r in self.counted)
        return median(found[: (len(found) + 1) // 2])

    def ratio(self, one: int, other: int) -> float:
        """Of two columns, try by try."""
        return median(r[one] / r[other] for r in self.counted)

    @property
    def how(self) -> str:
        if len(self._quiet) >= FEW:
            return f"median of {len(self._quiet)} quiet tries of {len(self.rows)}"
        return f"median of {len(self.rows)}, the machine {median(self.paces):.1f} times slower than at its quickest"


def tries(work: Callable[[int], tuple[float, ...]], enough: int = 9, most: int = 24, patience: float = 3.0) -> Tries:
    """Do it until `enough` quiet moments were met, `most` times at most, waiting for each at most `patience` seconds."""
    rows: list[tuple[float, ...]] = []
    paces: list[float] = []
    quiet = 0
    while len(rows) < most and quiet < enough:
        before = machine.settle(patience)
        rows.append(work(len(rows)))
        paces.append(max(before, machine.pace()))
        quiet += paces[-1] <= QUIET
    return Tries(rows, paces)


def timed(*works: Callable[[], object]) -> Callable[[int], tuple[float, ...]]:
    """Seconds that each takes, side by side in one try."""

    def work(_: int) -> tuple[float, ...]:
        took = []
        for one in works:
            start = time.perf_counter()
            one()
            took.append(time.perf_counter() - start)
        return tuple(took)

    return work


def best(work: Callable[[], object], repeats: int = 7) -> float:
    """Seconds, at quiet moments."""
    return tries(timed(work), repeats, 2 * repeats).best()
