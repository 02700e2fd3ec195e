"""Hardness after tempering: a straight line in the Hollomon-Jaffe parameter, fitted to each steel's own table."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log10

import numpy as np

KELVIN = 273.15
TABLE_HOURS = 2.0
RANGE = 150.0, 350.0
"""Tempering temperatures the law is followed over, C."""
BRITTLE = 250.0, 370.0
"""Range in which tempered martensite turns brittle, C: not for an edge."""
ALLOY_FLATTENS = 0.45
"""Change of the slope for a per cent of chromium, silicon over 0.2 or vanadium (by 0.6); indicative."""


def parameter(celsius: float, hours: float) -> float:
    """Hollomon-Jaffe parameter in thousands, c = 20, T in K, hours. Trans. AIME 162 (1945) 223."""
    return (celsius + KELVIN) * (20.0 + log10(hours)) / 1000.0


def together(tempers: Sequence[tuple[float, float]]) -> float | None:
    """Parameter of several tempers, (C, h) each, one after another; None of none.

    What was done before counts as the hours at the next one's heat that would have done as much.
    """
    found: float | None = None
    for celsius, hours in tempers:
        before = 0.0 if found is None else 10.0 ** (1000.0 * found / (celsius + KELVIN) - 20.0)
        found = parameter(celsius, hours + before)
    return found


@dataclass(frozen=True)
class TemperLaw:
    """HRC = min(as quenched, h10 + slope (M - 10)), M the parameter; `off`: largest miss from the table it was fitted to."""

    h10: float
    slope: float
    top: float
    off: float

    @classmethod
    def fitted(cls, temperatures: Sequence[float], hrc: Sequence[float], top: float) -> "TemperLaw":
        """Least squares over the table, each entry after two hours in all."""
        m = np.array([parameter(t, TABLE_HOURS) for t in temperatures]) - 10.0
        slope, h10 = np.polyfit(m, np.array(hrc), 1)
        off = float(np.abs(h10 + slope * m - np.array(hrc)).max())
        return cls(float(h10), min(float(slope), -0.05), top, off)

    @classmethod
    def of_alloy(cls, h10: float, slope: float, alloy: float, top: float) -> "TemperLaw":
        """A steel without a table: that of plain steel of its carbon, 0.45 flatter for a per cent of alloy;
        indicative, within about 1.5 HRC."""
        return cls(h10, min(-1.0, slope + ALLOY_FLATTENS * alloy), top, 1.5)

    def moved(self, h10: float, slope: float, carbon: float, top: float) -> "TemperLaw":
        """The same steel with so much more (or less) carbon, %, which moves its line, and another hardness as quenched."""
        return TemperLaw(self.h10 + h10, min(self.slope + slope, -0.05), top, self.off + 3.0 * abs(carbon))

    def hrc(self, celsius: float, hours: float = TABLE_HOURS) -> float:
        """After so many hours in all at this temperature."""
        return self.at(parameter(celsius, hours))

    def at(self, m: float) -> float:
        """After tempers of this parameter in all."""
        return min(self.top, self.h10 + self.slope * (m - 10.0))

    def celsius(self, hrc: float, hours: float = TABLE_HOURS) -> float | None:
        """Temperature that gives this hardness, C; None when no tempering in RANGE does."""
        if hrc > self.top + 1e-9:
            return None
        found = 1000.0 * (10.0 + (hrc - self.h10) / self.slope) / (20.0 + log10(hours)) - KELVIN
        return found if RANGE[0] - 1e-6 <= found <= RANGE[1] + 1e-6 else None
