"""How large a shop's errors of the core line usually are, from the blades whose faces were read: the tolerance study's own sizes.

An error has no ratio to a plan, it is about nothing: e ~ N(0, s^2), and s^2 is inverse gamma. Held beforehand is our own size, worth
STRENGTH builds; after n: a = a0 + n/2, b = b0 + sum e^2 / 2, s = sqrt(b/a). Derived in docs/physics.md#learning.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from scipy.special import gammaincinv

from varistrat.core.blade.model import Along, Errors
from varistrat.core.learning.factor import ENOUGH, SHARE
from varistrat.core.study.tolerances import GROUPS, Sizes

STRENGTH = 4.0
"""Builds that our own size is worth: half of it is the inverse gamma's shape."""
FLAT = 1e-9


@dataclass(frozen=True)
class SizeLearned:
    """key: of a size; ours, learned: one standard deviation, in its unit; low, high: between which it lies eight times in ten; n: blades
    read; offered: enough of them."""

    key: str
    ours: float
    learned: float
    low: float
    high: float
    n: int
    offered: bool


def size_of(value: Along) -> float:
    """Of one blade's error: root of its mean square along the blade (a number, or at its stations)."""
    if isinstance(value, float | int):
        return abs(float(value))
    return sqrt(sum(v * v for _, v in value) / len(value))


def was_read(errors: Errors) -> bool:
    """A blade on which some error is said was read; one on which none is tells nothing."""
    return any(size_of(getattr(errors, g)) > FLAT for g in GROUPS) or abs(errors.bow) > FLAT


def sizes_learned(blades: Sequence[Errors], usual: Sizes | None = None) -> list[SizeLearned]:
    """blades: as they were made, read or not; a bow counts as a dip."""
    usual = usual or Sizes()
    read = [e for e in blades if was_read(e)]
    out = []
    for key in GROUPS:
        ours = float(getattr(usual, key))
        squares = [size_of(getattr(e, key)) ** 2 + (e.bow**2 if key == "dip" else 0.0) for e in read]
        shape = STRENGTH / 2 + len(read) / 2
        rate = STRENGTH / 2 * ours**2 + sum(squares) / 2
        half = (1 - SHARE) / 2
        # the inverse gamma's quantiles: rate over those of a gamma, the other way round
        low, high = (sqrt(rate / float(gammaincinv(shape, 1 - q))) for q in (half, 1 - half))
        out.append(SizeLearned(key, ours, sqrt(rate / shape), low, high, len(read), len(read) >= ENOUGH))
    return out
