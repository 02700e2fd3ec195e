"""For which steels the laws of hardening hold. Outside they are silent: the answer is "not known here", and the maker's figures are asked
for.

Compositions are weight %. The laws: carbon in solution, martensite start, retained austenite, ideal diameter, hardness.
"""

from collections.abc import Mapping
from typing import Literal

from varistrat.core.laws.transform import Composition

Law = Literal["low alloy", "13 chromium"]
LIMITS: Mapping[Law, Mapping[str, tuple[float, float]]] = {
    "low alloy": {
        "C": (0.0, 1.35),
        "Mn": (0.0, 2.0),
        "Si": (0.0, 2.2),
        "Cr": (0.0, 1.8),
        "Ni": (0.0, 3.0),
        "Mo": (0.0, 0.6),
        "V": (0.0, 0.5),
        "W": (0.0, 1.0),
        "Cu": (0.0, 0.6),
        "Co": (0.0, 0.5),
    },
    "13 chromium": {
        "C": (0.05, 0.75),
        "Mn": (0.0, 1.5),
        "Si": (0.0, 1.2),
        "Cr": (11.0, 15.5),
        "Ni": (0.0, 1.0),
        "Mo": (0.0, 1.0),
        "V": (0.0, 0.3),
        "W": (0.0, 0.3),
        "Cu": (0.0, 0.6),
        "Co": (0.0, 0.5),
    },
}
"""Least and most of each element. Low alloy: what ASTM A255, Andrews and van Bohemen were fitted to, and 52100 and O1 here.
13 chromium: the hardenable stainless steels of the list, to which their carbon in solution was fitted."""
HEATS: Mapping[Law, tuple[float, float]] = {"low alloy": (600.0, 1150.0), "13 chromium": (950.0, 1130.0)}
"""Temperatures the carbon in solution is followed over, C. Under Ac1 the answer is that nothing dissolves."""


def law_of_composition(composition: Composition) -> Law | None:
    """The law that holds for a steel of this composition; None outside both."""
    for law, limits in LIMITS.items():
        if all(low <= composition.get(e, 0.0) <= high for e, (low, high) in limits.items()):
            return law
    return None


def outside(composition: Composition, celsius: float | None = None) -> str:
    """Why the laws are silent, in words that begin a sentence; empty where they hold. `celsius`: the heat it is hardened from."""
    law = law_of_composition(composition)
    if law is None:
        nearest = min(LIMITS, key=lambda name: len(_over(composition, name)))
        found = ", ".join(_over(composition, nearest))
        return f"The laws of hardening here do not reach so far ({found})"
    low, high = HEATS[law]
    if celsius is not None and not low <= celsius <= high and law == "13 chromium":
        return f"What a chromium steel dissolves is known from {low:.0f} to {high:.0f} C only"
    return ""


def _over(composition: Composition, law: Law) -> list[str]:
    out = []
    for e, (low, high) in LIMITS[law].items():
        value = composition.get(e, 0.0)
        if not low <= value <= high:
            out.append(f"{value:g} % {e}, fitted {f'{low:g} to {high:g}' if low else f'up to {high:g}'}")
    return out
