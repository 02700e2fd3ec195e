"""Small instruments that stand in for real ones: a thermocouple, a hardness tester, a set of files."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

FILE_SKATES, FILE_SLIPS = 61.0, 57.5
"""HRC above which a good file skates, and slips; indicative."""


@dataclass(frozen=True)
class HardnessTester:
    """Reads what is under its point: layers finer than its dent as their mean. `spread`: of one reading, HRC; `off`:
    of the tester itself."""

    spread: float = 0.6
    off: float = 0.0
    seed: int = 1

    def read(self, hrc: Sequence[float], shares: Sequence[float], spots: int = 3) -> list[float]:
        """So many readings to half a point of steels of these hardnesses and shares."""
        rng = np.random.default_rng(self.seed)
        mean = float(np.average(hrc, weights=shares))
        return [float(round(2 * (mean + self.off + v)) / 2) for v in rng.normal(0, self.spread, spots)]


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
        noise = np.random.default_rng([self.seed, int(second)]).normal(0, self.spread)
        return float(round(true + self.off + noise, 1))
