"""How a shop's work departs from the plan: a factor on a planned number, log-normal, learned build by build.

Normal-inverse-gamma on y = ln(measured / planned); derived in docs/physics.md#learning.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from math import exp, isfinite, log, sqrt

from varistrat.core.errors import InputError

ODD = 4.0
"""|t| beyond which a measurement is shown and left out, unless the shop keeps it."""
SHARE = 0.8
"""Of the blades to come that the range told holds: eight in ten."""
ENOUGH = 3
"""Builds from which on a number is offered in place of ours."""
LEAST_SD = 1.02
"""Geometric deviation below which no prior is believed: nobody plans to two in a hundred."""


@dataclass(frozen=True)
class Prior:
    """What is held before anything was measured: gsd: geometric deviation of one blade; centre: mean of y; strength, shape: how many
    builds that is worth, for the mean and for the spread."""

    gsd: float
    centre: float = 0.0
    strength: float = 2.0
    shape: float = 2.0

    @property
    def belief(self) -> "Belief":
        """As a belief of no builds."""
        return Belief(0, self.centre, self.strength, self.shape, self.shape * log(max(self.gsd, LEAST_SD)) ** 2)


@dataclass(frozen=True)
class Belief:
    """After `n` builds: y of the next is Student-t with 2 `shape` degrees about `mean`."""

    n: int
    mean: float
    strength: float
    shape: float
    rate: float

    @property
    def factor(self) -> float:
        """By how much the plan is to be multiplied."""
        return exp(self.mean)

    @property
    def scale(self) -> float:
        """Of the next one's Student-t."""
        return sqrt(self.rate * (self.strength + 1) / (self.shape * self.strength))

    def range(self, share: float = SHARE) -> tuple[float, float]:
        """(low, high) factor between which so large a share of the next ones lies."""
        return self._about(self.scale, share)

    def of_mean(self, share: float = SHARE) -> tuple[float, float]:
        """(low, high) between which the factor itself lies so surely."""
        return self._about(sqrt(self.rate / (self.shape * self.strength)), share)

    def _about(self, scale: float, share: float) -> tuple[float, float]:
        from scipy.stats import t

        half = float(t.ppf((1 + share) / 2, 2 * self.shape)) * scale
        return exp(self.mean - half), exp(self.mean + half)

    def away(self, y: float) -> float:
        """How far off a next one would be, in scales."""
        return (y - self.mean) / self.scale


def learn(prior: Prior, logs: Sequence[float]) -> Belief:
    """What is held after these; logs: ln(measured / planned) of each, (n,)."""
    before, n = prior.belief, len(logs)
    if not n:
        return before
    mean = sum(logs) / n
    strength = before.strength + n
    rate = before.rate + 0.5 * sum((y - mean) ** 2 for y in logs)
    rate += before.strength * n * (mean - before.mean) ** 2 / (2 * strength)
    return Belief(n, (before.strength * before.mean + n * mean) / strength, strength, before.shape + n / 2, rate)


@dataclass(frozen=True)
class Measured:
    """One build's: what was planned and what was measured, of one unit; whose: its name, told with its dot."""

    whose: str
    planned: float
    measured: float

    @property
    def log(self) -> float:
        """Raises InputError for what cannot be a measurement."""
        if not all(isfinite(v) and v > 0 for v in (self.planned, self.measured)):
            raise InputError.at(
                "measured", f"{self.measured:g} of {self.planned:g} planned is no measurement", "give both, greater than nothing"
            )
        return log(self.measured / self.planned)


@dataclass(frozen=True)
class Dot:
    """One build on the chart: its ratio, and whether it is left out as odd."""

    whose: str
    ratio: float
    odd: bool


@dataclass(frozen=True)
class Learned:
    """belief: without those left out; dots: every build, in the order given; offered: enough builds to take it over; sure: its range
    does not hold 1, so that it is another number than ours and not only chance."""

    belief: Belief
    dots: list[Dot] = field(default_factory=list)

    @property
    def offered(self) -> bool:
        """Builds enough to take it over."""
        return self.belief.n >= ENOUGH

    @property
    def sure(self) -> bool:
        """Another number than ours, and not only chance."""
        low, high = self.belief.of_mean()
        return self.offered and not low <= 1.0 <= high


def learned(prior: Prior, measured: Sequence[Measured], kept: Collection[str] = ()) -> Learned:
    """What a log says; odd ones are left out, the oddest first and each against all the others, but for those `kept` (by name).

    Raises InputError for what cannot be a measurement.
    """
    logs = {i: m.log for i, m in enumerate(measured)}
    counted = dict(logs)
    while True:
        away = {i: abs(learn(prior, [v for k, v in counted.items() if k != i]).away(y)) for i, y in counted.items()}
        odd = [i for i, t in away.items() if t > ODD and measured[i].whose not in kept]
        if not odd:
            break
        del counted[max(odd, key=lambda i: away[i])]
    dots = [Dot(m.whose, exp(logs[i]), i not in counted) for i, m in enumerate(measured)]
    return Learned(learn(prior, list(counted.values())), dots)
