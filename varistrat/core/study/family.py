"""Which of several designs suits how one works: the first-grade chance of each over a grid of errors. docs/physics.md#tolerance-study.

The same quasi-random blades meet every design and every size of error, so that what differs between two chances is the design, not the
draw.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.laminate.exposure import stations
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import DIMENSIONS, GROUPS, Blades, Sizes, grades

SCALES = (0.0, 0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 2.0, 2.5)
"""Of the usual errors of the one looked at: steadier, as usual, less so."""
OTHERS = (0.5, 1.0, 2.0)
"""Of all the other errors."""
BLADES, STATIONS, SEED = 1024, 24, 11
ALL = "all"


@dataclass(frozen=True)
class Chance:
    """Share of blades of first grade, and its standard error."""

    first: float
    error: float


def sizes_at(sizes: Sizes, error: str, scale: float, others: float) -> Sizes:
    """One kind of error (or ALL) as large as this, the others so."""
    if error != ALL and error not in GROUPS:
        raise InputError.at("error", f"there is no error called {error!r}", f"use {ALL} or one of {', '.join(GROUPS)}")
    return sizes.model_copy(update={g: getattr(sizes, g) * (scale if error in (ALL, g) else others) for g in GROUPS})


def grid_of(error: str) -> tuple[tuple[float, float], ...]:
    """(scale, others) of every point; where all are looked at together there are no others."""
    return tuple((s, o) for o in ((1.0,) if error == ALL else OTHERS) for s in SCALES)


def chances(cut: Cut, aim: Aim, sizes: Sizes, error: str, points: Sequence[tuple[float, float]], blades: int = BLADES) -> list[Chance]:
    """Of one design, at each of the points. Raises InputError when it has no core that lies flat."""
    from scipy.stats import qmc

    lamina = Lamina.of(cut, stations(cut.geometry, STATIONS))
    band = Band.of(aim, cut.geometry)
    judged = band.judged(lamina.x)
    if not judged.any():
        judged = np.ones_like(judged)
    draws = qmc.Sobol(DIMENSIONS, scramble=True, rng=SEED).random(blades)
    found = []
    for scale, others in points:
        right, left = Blades(lamina, sizes_at(sizes, error, scale, others)).lines(draws)
        first = float(grades(right, left, band, judged)[0].mean())
        found.append(Chance(first, sqrt(max(first * (1 - first), 0.25 / blades) / blades)))
    return found
