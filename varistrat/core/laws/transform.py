"""What heating and quenching make of a steel: austenite and its carbon, martensite start, retained austenite.

Compositions are weight %, temperatures C. The carbon that counts is the carbon *in solution*.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import exp

import numpy as np

Composition = Mapping[str, float]
HIGH_CHROMIUM = 4.0
"""Above this the plain formulas are not followed, weight %."""
_AC1 = {"Mn": -10.7, "Ni": -16.9, "Si": 29.1, "Cr": 16.9, "W": 6.38}
_MS = {"Mn": -31.0, "Si": -13.0, "Cr": -10.0, "Ni": -18.0, "Mo": -12.0}
_ALPHA = {"Mn": 0.00014, "Si": 0.00021, "Cr": 0.00011, "Ni": 0.00008, "Mo": 0.00005}
A3 = ((727.0, 0.763), (740.0, 0.67), (760.0, 0.54), (780.0, 0.44), (800.0, 0.34), (850.0, 0.155), (912.0, 0.0))
"""Points (C, % C) of the line above which plain steel is all austenite."""
FERRITE_C = 0.02


def _of(composition: Composition, factors: Mapping[str, float]) -> float:
    return sum(k * composition.get(e, 0.0) for e, k in factors.items())


def ac1(composition: Composition) -> float:
    """Where austenite begins on heating, C. Andrews, JISI 203 (1965) 721; 13 % chromium steels about 810."""
    if composition.get("Cr", 0.0) > HIGH_CHROMIUM:
        return 810.0
    return 723.0 + _of(composition, _AC1)


def acm_carbon(celsius: float) -> float:
    """Carbon that plain austenite can hold, %: fit to Gustafson (1985), within 0.003 of it; 727 to 1148 C."""
    t = max(celsius, 727.0) - 727.0
    return 0.7634 + 2.418e-3 * t + 1.509e-6 * t * t


def acm(carbon: float) -> float:
    """Where plain steel of this carbon (0.76 to 2 %) has dissolved all its carbide, C."""
    return 398.5 + 472.95 * carbon - 52.69 * carbon * carbon


def holds(composition: Composition, celsius: float) -> float:
    """Carbon its austenite can hold, %. Chromium binds it: 0.12 Cr + 0.095 Cr^2, set by 52100 and O1; indicative."""
    cr = composition.get("Cr", 0.0)
    if cr > HIGH_CHROMIUM:
        return max(0.0, (0.45 + 0.0025 * (celsius - 1020.0)) * (13.0 / cr) ** 1.5)
    bound = 0.1245 * cr + 0.095 * cr * cr
    shift = 0.07 * composition.get("Mn", 0.0) + 0.05 * composition.get("Ni", 0.0) + 0.1 * composition.get("Si", 0.0)
    return max(0.1, acm_carbon(celsius) - bound - shift)


def dissolving(composition: Composition) -> float:
    """Time constant of carbides going into solution, min; indicative. Chromium-rich ones wait for chromium to move."""
    cr = composition.get("Cr", 0.0)
    if cr > HIGH_CHROMIUM:
        return 6.0
    return float(2.0 + 10.0 * np.clip((cr - 0.2) / 0.3, 0, 1))


UNDISSOLVED_AT_FIRST = 0.25
SOLUTION_SURE = 0.05
"""How far the carbon in solution may be off, %."""


@dataclass(frozen=True)
class Austenite:
    """`carbon` in solution, %; `share` of the steel that is austenite; `left`: carbon of the whole that is not in it, but still in
    carbides, %."""

    carbon: float
    share: float
    left: float


TURNS_OVER = 25.0
"""C over Ac1 within which pearlite has turned to austenite on heating; indicative."""
SOON_GONE = 0.6
"""Share of what austenite can hold up to which carbides dissolve at once; at the whole of it they take their time."""


def austenite(composition: Composition, celsius: float, minutes: float = 10.0) -> Austenite:
    """The austenite after a soak of so many minutes at heat; smooth in carbon, heat and time. Derived in docs/physics.md#austenite.

    Limits of validity: laws/ranges.py says for which steels; ask it first.
    """
    total = composition.get("C", 0.0)
    start = ac1(composition)
    turned = min(1.0, (celsius - start) / TURNS_OVER)
    if turned <= 0:
        return Austenite(0.0, 0.0, total)
    tied = 0.15 * composition.get("V", 0.0) + 0.02 * composition.get("W", 0.0)
    free = max(0.0, total - tied)
    limit = holds(composition, celsius)
    if composition.get("Cr", 0.0) > HIGH_CHROMIUM:
        carbon = min(free, limit) * _dissolved(composition, 1.0, minutes)
        return Austenite(carbon, turned, total - carbon * turned)
    line = a3_carbon(celsius, start)
    there = min(max(free, line), limit)
    carbon = there * _dissolved(composition, there / limit, minutes)
    share = 1.0 if free >= line else (free - FERRITE_C) / (line - FERRITE_C) if free > FERRITE_C else 0.0
    return Austenite(carbon, turned * share, max(0.0, total - carbon * turned * share))


def _dissolved(composition: Composition, full: float, minutes: float) -> float:
    """Share of the carbon that is in solution after a soak; `full`: of what the austenite can hold.
    A lean austenite takes it up at once."""
    slow = min(1.0, max(0.0, (full - SOON_GONE) / (1 - SOON_GONE)))
    return 1 - UNDISSOLVED_AT_FIRST * slow * exp(-minutes / dissolving(composition))


def a3_carbon(celsius: float, start: float = 727.0) -> float:
    """Carbon below which ferrite is left at this temperature, %; `start`: its Ac1, by which the line is shifted."""
    t, c = np.array(A3).T
    return float(np.interp(celsius - (start - 727.0), t, c))


def ms(composition: Composition, carbon: float) -> float:
    """Martensite start, C, by van Bohemen, Mater. Sci. Technol. 28 (2012) 487; holds above 0.6 % C too."""
    return 565.0 - 600.0 * (1 - exp(-0.96 * carbon)) + _of(composition, _MS)


MS_KNOWN = 25.0
"""C within which a martensite start is known: scatter of the measured starts about this law and of the carbon in solution; tool steels (O1,
L6, W1) are told some 25 C lower in handbooks, and W, not in the law, lowers it; indicative."""


def ms_linear(composition: Composition, carbon: float) -> float:
    """Martensite start by Andrews (1965), C: for steels up to 0.6 % C; far too low above."""
    return 539.0 - 423.0 * carbon + _of(composition, {"Mn": -30.4, "Ni": -17.7, "Cr": -12.1, "Mo": -7.5})


def ms_product(composition: Composition, carbon: float) -> float:
    """Martensite start by the product formula of Andrews (1965), C."""
    mn, cr = composition.get("Mn", 0.0), composition.get("Cr", 0.0)
    rest = _of(composition, {"Ni": -16.9, "Cr": 15.0, "Mo": -9.5})
    return 512.0 - 453.0 * carbon + rest + 217.0 * carbon**2 - 71.5 * carbon * mn - 67.6 * carbon * cr


def retained(composition: Composition, carbon: float, down_to: float = 20.0) -> float:
    """Share of austenite left when quenched down to a temperature, by van Bohemen's rate and start."""
    return min(1.0, exp(-martensite_rate(composition, carbon) * max(0.0, ms(composition, carbon) - down_to)))


def martensite_rate(composition: Composition, carbon: float) -> float:
    """Rate in f = 1 - exp(-rate (Ms - T)), per C, by van Bohemen (2012)."""
    return max(0.004, 0.0272 - _of(composition, _ALPHA) - 0.0198 * (1 - exp(-1.56 * carbon)))


def retained_km(start: float, down_to: float = 20.0) -> float:
    """The same by Koistinen and Marburger, Acta Metall. 7 (1959) 59, from a martensite start."""
    return min(1.0, exp(-0.011 * max(0.0, start - down_to)))


STABILISED = 0.02, 0.04
"""Added by the pause a slow quench makes, as shares (least, most); indicative."""


def retained_range(composition: Composition, carbon: float, down_to: float = 20.0) -> tuple[float, float]:
    """(least, most) retained austenite to reckon with, shares: the carbon in solution is known within SOLUTION_SURE."""
    low, high = STABILISED
    return (
        min(1.0, retained(composition, max(0.0, carbon - SOLUTION_SURE), down_to) + (low if down_to > -20 else 0.0)),
        min(1.0, retained(composition, carbon + SOLUTION_SURE, down_to) + (high if down_to > -20 else 0.01)),
    )


def growth(carbon: float) -> float:
    """Linear growth from pearlite to martensite, share: a third of 1.68 C % in volume (Thelning, Steel and its Heat Treatment)."""
    return 1.68 * carbon / 300.0
