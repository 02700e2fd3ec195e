"""How the grain grows while steel is hot. Grain size um (mean intercept), C, minutes."""

from collections.abc import Sequence
from math import exp, log10

from varistrat.core.laws.carbon import GAS, KELVIN

START = 20.0
COARSE = 5.0
"""ASTM number at which grain is called coarse; blades want 8 to 10."""


def grown(size: float, celsius: float, minutes: float) -> float:
    """Austenite grain after a heat, um: d^10 = d0^10 + A t exp(-Q/RT), Sellars (1980) for carbon-manganese steel; fair."""
    t = celsius + KELVIN
    if celsius < 730 or minutes <= 0:
        return size
    a, q = (3.87e32, 400e3) if t > 1273 else (5.02e53, 914e3)
    return float((size**10 + a * minutes * 60 * exp(-q / (GAS * t))) ** 0.1)


def astm(size: float) -> float:
    """ASTM E112 grain number from the mean intercept in um; larger is finer."""
    return -6.643856 * log10(size / 1000.0) - 3.288


def last_grain(heats: Sequence[tuple[float, float]]) -> float:
    """Grain left by the last heat, um: each cooling to black and heating again starts it afresh at START."""
    return grown(START, *heats[-1]) if heats else START
