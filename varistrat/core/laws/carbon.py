"""How fast carbon and alloying elements move in hot steel, and where carbon would rather be.

Diffusivities in m2/s, temperatures C, carbon in weight %. Derived in docs/physics.md#carbon.
"""

from collections.abc import Mapping, Sequence
from math import exp, log, pi, sqrt
from typing import Any

import numpy as np

from varistrat.core.laws.transform import Composition

KELVIN = 273.15
GAS = 8.314
FROM = 720.0
"""Below this carbon sits in carbides and is taken to stand still, C."""


def diffusivity(carbon: Any, celsius: float) -> Any:
    """Of carbon in austenite: Tibbetts, J. Appl. Phys. 51 (1980) 4813. Array in, array out; 0 below FROM."""
    if celsius < FROM:
        return carbon * 0.0
    t = 1.987 * (celsius + KELVIN)
    return 0.47e-4 * exp(-37000.0 / t) * np.exp((6600.0 / t - 1.6) * carbon)


def diffusivity_agren(carbon: float, celsius: float) -> float:
    """Of carbon in austenite: Agren, Scripta Metall. 20 (1986) 1507; an independent fit, within 10 % of the other at 900 to 1250 C."""
    t = celsius + KELVIN
    x = (carbon / 12.011) / (carbon / 12.011 + (100 - carbon) / 55.845)
    y = x / (1 - x)
    return 4.53e-7 * (1 + y * (1 - y) * 8339.9 / t) * exp(-(1 / t - 2.221e-4) * (17767 - 26436 * y))


_SLOW: dict[str, tuple[float, float]] = {
    "Ni": (0.77, 280.5), "Cr": (10.8, 291.8), "Mn": (0.16, 261.7), "Mo": (0.036, 239.8), "V": (0.25, 264.2),
    "W": (0.51, 272.0), "Si": (0.07, 243.0), "Cu": (0.19, 272.6),
}  # fmt: skip
"""D0 (cm2/s) and Q (kJ/mol) in austenite: Ni MacEwan et al. 1959, Cr Bowen and Leak 1970, Mn Nohara and Hirano 1971, the rest less sure."""


def slow_diffusivity(element: str, celsius: float) -> float:
    """Of an alloying element in austenite; 0 for one that is not listed."""
    if element not in _SLOW:
        return 0.0
    d0, q = _SLOW[element]
    return d0 * 1e-4 * exp(-1000.0 * q / (GAS * (celsius + KELVIN)))


_ACTIVITY = {"Si": 0.055, "Mn": -0.013, "Cr": -0.040, "Ni": 0.014, "Mo": -0.013}
FACTOR_RANGE = 0.25, 8.0
"""Held here: chromium steels then form carbides, and nickel holds about an eighth of the carbon iron does; indicative beyond Cr 4."""
NO_CARBON = 1e4
"""Copper takes no carbon."""


def activity_factor(composition: Composition) -> float:
    """f: carbon evens out in f C, not in C. Gunnarson, Haerterei-Techn. Mitt. 22 (1967)."""
    if composition.get("Cu", 0.0) > 50:
        return NO_CARBON
    power = sum(k * composition.get(e, 0.0) for e, k in _ACTIVITY.items())
    return min(max(10.0**power, FACTOR_RANGE[0]), FACTOR_RANGE[1])


def homogenised(carbons: Sequence[float], factors: Sequence[float], shares: Sequence[float]) -> list[float]:
    """Carbon of each steel once it has evened out: f C alike everywhere, carbon kept. `shares` of the mass."""
    mean = sum(c * v for c, v in zip(carbons, shares, strict=True))
    level = mean / sum(v / f for v, f in zip(shares, factors, strict=True))
    return [level / f for f in factors]


def wave_left(spread: float) -> float:
    """Share of a wave's height left after `spread` = 4 pi^2 sum(D t / period^2)."""
    return exp(-spread)


def even_after(celsius: float, period_mm: float, carbon: float = 0.7) -> float:
    """Minutes until carbon has evened out to 5 % across layers of this period."""
    return log(20.0) * (period_mm * 1e-3) ** 2 / (4 * pi**2 * float(diffusivity(carbon, celsius))) / 60


def reach(minutes: float, celsius: float, carbon: float = 0.7) -> float:
    """sqrt(4 D t), mm: how far carbon has come in the time."""
    return 1e3 * sqrt(4 * float(diffusivity(carbon, celsius)) * minutes * 60)


def contrast_left(element: str, heats: Sequence[tuple[float, float, float]]) -> float:
    """Share of an element's contrast between layers left after (C, min, period mm) heats: first wave, no more than 1."""
    spread = sum(4 * pi**2 * slow_diffusivity(element, t) * m * 60 / (p * 1e-3) ** 2 for t, m, p in heats)
    return min(1.0, 4 / pi * wave_left(spread))


LASTS = 0.5
"""% of nickel, chromium or copper between two steels that keeps them apart in the etch once carbon is even; indicative."""


def worst_contrast(compositions: Sequence[Mapping[str, float]]) -> tuple[str, float]:
    """(element, difference in %) that parts these steels most, of those that hardly move."""
    spread = {e: max(c.get(e, 0.0) for c in compositions) - min(c.get(e, 0.0) for c in compositions) for e in ("Ni", "Cr", "Cu")}
    return max(spread.items(), key=lambda p: p[1])
