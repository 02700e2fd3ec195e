"""The maker's mark by stencil and current: Faraday's law. docs/physics.md#mark."""

from dataclasses import dataclass

from varistrat.core.errors import InputError
from varistrat.core.etch.etchants import IRON
from varistrat.core.figures import Numbers
from varistrat.core.laws.numbers import MARK_YIELD

FARADAY = 96_485.332
"""C/mol."""
CHARGES = 2
"""Electrons an atom of iron gives."""
STEEL = 7.87e-3
"""g/mm3."""
BURST = 3.0
"""s: longer ones heat the stencil and creep under it."""
STEPS = (
    "After the last etch, before the oil: degreased, dry.",
    "The stencil hinged on tape that stays, so that it comes back to its place.",
    "Direct current cuts, the blade on plus; alternating current darkens what was cut.",
    "Short bursts of two or three seconds, the pad lifted between; look, then again.",
    "Low voltage, dry hands, gloves; the fumes are chlorine and hydrogen: air drawn off, no flame.",
    "Neutralise, rinse, dry, oil.",
)


@dataclass(frozen=True)
class Marked:
    """seconds of current in all, in so many bursts; grams taken off."""

    seconds: float
    bursts: int
    grams: float


def dissolved(amperes: float, seconds: float) -> float:
    """g of iron at full yield: I t M/(z F)."""
    return amperes * seconds * IRON / (CHARGES * FARADAY)


def mark_depth(area: float, amperes: float, seconds: float, yields: float = 1.0) -> float:
    """um under `area` mm2."""
    return 1000 * dissolved(amperes, seconds) * yields / (STEEL * area)


def mark_time(area: float, amperes: float, depth: float, numbers: Numbers) -> Marked:
    """How long for `depth` um under `area` mm2. Raises InputError for what is no mark."""
    if min(area, amperes, depth) <= 0:
        raise InputError.at("mark", "area, current and depth must be more than nothing", "give them")
    seconds = depth / (mark_depth(area, amperes, 1.0) * numbers.of(MARK_YIELD))
    return Marked(seconds, max(1, round(seconds / BURST)), area * depth / 1000 * STEEL)
