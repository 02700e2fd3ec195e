"""How thick a section hardens through, and how fast a quench it wants. Diameters and thicknesses mm."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import SEVERITY
from varistrat.core.laws.quench import QUENCHES, Quench
from varistrat.core.laws.transform import Composition

Floats = NDArray[np.float64]
INCH = 25.4
GRAIN = 1.083
"""Factor on the ideal diameter for each ASTM grain number coarser than 7."""
FULL = 0.65
"""Share of the half-martensite thickness that is martensite throughout; indicative."""
AIR = 0.02
"""Grossmann H of still air, per inch."""
BRINE = 4.0
"""And of strong brine: what `water` can be brought up to."""


def severity_of(quench: Quench, numbers: Numbers = USUAL) -> float:
    """Grossmann H of a quench in this shop, well moved about, per inch."""
    return AIR if quench == "air" else numbers.of(SEVERITY[quench])


def carbon_factor(carbon: float) -> float:
    """Base ideal diameter, inch, ASTM A255, grain 7; carbon in solution, held at 0.9 %."""
    c = min(max(carbon, 0.0), 0.9)
    if c <= 0.39:
        return 0.54 * c
    if c <= 0.55:
        return 0.171 + 0.001 * c + 0.265 * c * c
    if c <= 0.65:
        return 0.115 + 0.268 * c - 0.038 * c * c
    if c <= 0.75:
        return 0.143 + 0.2 * c
    return 0.062 + 0.409 * c - 0.135 * c * c


def ideal_diameter(composition: Composition, carbon: float, grain: float = 7.0) -> float:
    """Diameter that is half martensite at its centre in an ideal quench, mm. ASTM A255 factors; carbon in solution, held at 0.8 %."""
    get = composition.get
    mn = get("Mn", 0.0)
    factors = (
        1 + 3.3333 * mn if mn <= 1.2 else 5.1 * mn - 1.12,
        1 + 0.7 * get("Si", 0.0),
        1 + 0.363 * min(get("Ni", 0.0), 2.0),
        1 + 2.16 * min(get("Cr", 0.0), 1.75),
        1 + 3.0 * min(get("Mo", 0.0), 0.55),
        1 + 0.365 * min(get("Cu", 0.0), 0.55),
        1 + 1.73 * min(get("V", 0.0), 0.2),
    )
    return INCH * carbon_factor(min(carbon, 0.8)) * float(np.prod(factors)) * GRAIN ** (7.0 - grain)


@lru_cache(maxsize=1)
def _half_cylinder() -> float:
    """Fourier number at which the centre of a cylinder, its skin held at the bath, is half way: series of Bessel functions."""
    from scipy.optimize import brentq
    from scipy.special import j0, j1, jn_zeros

    z = jn_zeros(0, 12)
    return float(brentq(lambda fo: (2 / (z * j1(z)) * j0(0.0) * np.exp(-z * z * fo)).sum() - 0.5, 0.05, 0.6))


def _half_plate(biot: float) -> float:
    """Fourier number (half thickness) at which the centre of a plate is half way: roots of z tan z = Bi."""
    from scipy.optimize import brentq

    roots = np.array([brentq(lambda z: z * np.sin(z) - biot * np.cos(z), k * np.pi + 1e-9, k * np.pi + np.pi / 2) for k in range(12)])
    weight = 4 * np.sin(roots) / (2 * roots + np.sin(2 * roots))
    return float(brentq(lambda fo: (weight * np.exp(-roots * roots * fo)).sum() - 0.5, 1e-3, 5 / biot + 5))


@lru_cache(maxsize=1)
def _plates() -> tuple[Floats, Floats]:
    """(Biot number over the whole thickness, plate over ideal diameter): the ratio depends on the Biot number alone."""
    biot = np.geomspace(1e-4, 1e3, 240)
    return biot, np.sqrt(_half_cylinder() / np.array([_half_plate(b) for b in biot]))


def plate_half(diameter: float, severity: float) -> float:
    """Thickest plate, mm, half martensite at its centre: it takes as long to be half way cold as the ideal cylinder.
    docs/physics.md#hardenability."""
    biot, ratio = _plates()
    # H D = Bi / ratio: rises with Bi, so it can be looked up either way
    return diameter * float(np.interp(np.log(severity * diameter / INCH), np.log(biot / ratio), ratio))


def plate_full(diameter: float, severity: float) -> float:
    """Thickest plate, mm, that is martensite throughout; indicative."""
    return FULL * plate_half(diameter, severity)


def needed_severity(diameter: float, thickness: float) -> float:
    """H that makes a plate of this thickness martensite throughout; inf when no quench does."""
    biot, ratio = _plates()
    half = thickness / FULL
    if diameter <= 0 or half >= diameter * ratio[-1]:
        return float("inf")
    return float(np.exp(np.interp(np.log(half / diameter), np.log(ratio), np.log(biot)))) * INCH / half


HALF_KINETICS = 10.0
"""Exponent of the equivalent diameter in the share that is lost to pearlite: an Avrami exponent of about 5 in time, which goes as the
diameter squared; so that at FULL of the half-martensite diameter 99 % is martensite."""
KNOWN_WITHIN = 1.7
"""Factor within which the thickness that hardens through is known: severity, grain and composition of the one bar;
honest between 1.5 and 2."""
DIFFUSIVITY = 6e-6
"""Of heat in hot steel, m2/s."""


def equivalent_diameter(thickness: float, severity: float) -> float:
    """Diameter, mm, that an ideal quench cools half way as fast as this quench does a plate: `plate_half` read the other way."""
    biot, ratio = _plates()
    return thickness / float(np.interp(np.log(max(severity * thickness / INCH, 1e-9)), np.log(biot), ratio))


def martensite_share(diameter: float, thickness: float, severity: float) -> float:
    """Share of a plate's centre that escapes pearlite, 0 to 1: 2^-(d / D)^10, half where its equivalent diameter d is the ideal one D.

    docs/physics.md#part-quenched. `diameter` inf: it hardens in air, 1.
    """
    if diameter == float("inf"):
        return 1.0
    if diameter <= 0:
        return 0.0
    return float(0.5 ** min((equivalent_diameter(thickness, severity) / diameter) ** HALF_KINETICS, 1000.0))


def cooling_rate(thickness: float, severity: float) -> float:
    """K/s through 700 C at the centre of a plate, from the time it takes to be half way cold."""
    d = equivalent_diameter(thickness, severity) * 1e-3
    half = _half_cylinder() * (d / 2) ** 2 / DIFFUSIVITY
    return float(680.0 * np.log(2.0) / half)


GRAIN_BEFORE = 8.0
"""ASTM number of the grain that is quenched, after normalising."""


def slowest_quench(
    composition: Composition, carbon: float, thickness: float, grain: float = GRAIN_BEFORE, numbers: Numbers = USUAL
) -> tuple[Quench | None, float]:
    """(the slowest quench that hardens this thickness through, H needed); `water` up to brine, None when not even that does."""
    needed = needed_severity(ideal_diameter(composition, carbon, grain), thickness)
    for quench in reversed(QUENCHES):
        if (BRINE if quench == "water" else severity_of(quench, numbers)) >= needed:
            return quench, needed
    return None, needed
