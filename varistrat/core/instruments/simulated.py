"""Instruments that stand in for real ones: each wraps what is truly so, with its noise, its wear and its wrong zero."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from varistrat.core.instruments.instrument import Taken, Unit

FILE_SKATES, FILE_SLIPS = 61.0, 57.5
"""HRC above which a good file skates, and slips; indicative."""
EXPANDS = 12e-6
"""Of steel, a degree."""


@dataclass(frozen=True)
class Simulated:
    """true: what is so, in the instrument's unit; spread: of one reading; off: its wrong zero; worn: share by which it reads long; step:
    the smallest it shows; draw: which reading of the day."""

    true: Callable[[], float]
    spread: float = 0.0
    off: float = 0.0
    worn: float = 0.0
    step: float = 0.01
    seed: int = 1
    draw: int = 0
    unit: ClassVar[Unit] = "mm"

    def read(self) -> Taken:
        """Rounded to what it shows."""
        noise = float(np.random.default_rng([self.seed, self.draw]).normal(0, self.spread)) if self.spread else 0.0
        value = self.true() * (1 + self.worn) + self.off + noise
        return Taken(round(round(value / self.step) * self.step, 6), self.unit)


@dataclass(frozen=True)
class Caliper(Simulated):
    """To 0.02 mm; warm steel reads long: warm: above the shop, C."""

    spread: float = 0.02
    warm: float = 0.0

    def read(self) -> Taken:
        """As long as it is while it is warm."""
        cold = self.true
        warmed = Simulated(lambda: cold() * (1 + EXPANDS * self.warm), self.spread, self.off, self.worn, self.step, self.seed, self.draw)
        return warmed.read()


@dataclass(frozen=True)
class HeightGauge(Simulated):
    """On a plate; to 0.03 mm."""

    spread: float = 0.03
    step: float = 0.02


@dataclass(frozen=True)
class Scale(Simulated):
    """To a gram."""

    spread: float = 0.4
    step: float = 1.0
    unit: ClassVar[Unit] = "g"


@dataclass(frozen=True)
class Thermometer(Simulated):
    """A thermocouple and its meter."""

    spread: float = 0.8
    step: float = 0.1
    unit: ClassVar[Unit] = "C"


@dataclass(frozen=True)
class Tester(Simulated):
    """One dent, to half a point."""

    spread: float = 0.6
    step: float = 0.5
    unit: ClassVar[Unit] = "HRC"


@dataclass(frozen=True)
class HardnessTester:
    """Reads what is under its point: layers finer than its dent as their mean. `spread`: of one reading, HRC; `off`: its
    wrong zero."""

    spread: float = 0.6
    off: float = 0.0
    seed: int = 1

    def read(self, hrc: Sequence[float], shares: Sequence[float], spots: int = 3) -> list[float]:
        """So many readings to half a point of steels of these hardnesses and shares."""
        mean = float(np.average(hrc, weights=shares))
        return [Tester(lambda: mean, self.spread, self.off, seed=self.seed, draw=n).read().value for n in range(spots)]


def file_says(hrc: float) -> Literal["skates", "slips", "bites"]:
    """What a file of about 64 HRC does on steel this hard."""
    return "skates" if hrc >= FILE_SKATES else "slips" if hrc >= FILE_SLIPS else "bites"


@dataclass(frozen=True)
class Thermocouple:
    """A second thermocouple, on the blade itself: reads its centre with its own small error."""

    off: float = 0.0
    spread: float = 0.8
    seed: int = 1

    def read(self, true: float, second: float = 0.0) -> float:
        """C to a tenth."""
        return Thermometer(lambda: true, self.spread, self.off, seed=self.seed, draw=int(second)).read().value
