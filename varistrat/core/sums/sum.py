"""A sum as done on the back of an envelope: one formula, any one of its quantities the unknown."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from math import isfinite
from typing import Any

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.errors import InputError

Values = Mapping[str, float]
SCAN = 600
"""Places looked at between the least and the most a quantity can be, before the root is closed in on."""


@dataclass(frozen=True)
class Quantity:
    """`least`, `most`: what it can be; `fills`: the step's own field it belongs to, if any."""

    key: str
    label: str
    unit: str = ""
    least: float = 1e-3
    most: float = 1e5
    whole: bool = False
    fills: str = ""
    given: bool = False
    """Only needed for what follows from the answer: never the unknown."""


@dataclass(frozen=True)
class Line:
    """A thing that follows from the answer."""

    label: str
    value: float
    unit: str = ""


@dataclass(frozen=True)
class Sum:
    """`gap` is zero when the values fit the formula; `fill` gives what is known of the bar and the step."""

    key: str
    title: str
    steps: tuple[str, ...]
    formula: str
    quantities: tuple[Quantity, ...]
    unknown: str
    gap: Callable[[Values], float]
    fill: Callable[[Bar, Mapping[str, Any]], dict[str, float]]
    lines: Callable[[Values], list[Line]] = field(default=lambda v: [])
    note: str = ""

    def solve(self, given: Mapping[str, float | None], unknown: str) -> float:
        """The unknown, to a part in 1e12. Raises InputError naming what is missing, out of range, or without an answer."""
        if wanted_given := next((q for q in self.quantities if q.key == unknown and q.given), None):
            raise InputError.at("unknown", f"{wanted_given.label.lower()} does not follow from the rest", "give it")
        known: dict[str, float] = {}
        wanted = next((q for q in self.quantities if q.key == unknown), None)
        if wanted is None:
            raise InputError.at(
                "unknown", f"there is no {unknown[:40]!r} in this sum", f"use one of {', '.join(q.key for q in self.quantities)}"
            )
        for q in self.quantities:
            if q.key == unknown:
                continue
            value = given.get(q.key)
            if value is None:
                raise InputError.at(f"values.{q.key}", f"{q.label.lower()} is not known", "give it; only one can be worked out")
            if not isfinite(value) or not q.least <= value <= q.most:
                raise InputError.at(f"values.{q.key}", f"{q.label.lower()} cannot be {value:g}", f"use {q.least:g} to {q.most:g}")
            known[q.key] = float(value)
        return self._root(wanted, known)

    def _root(self, wanted: Quantity, known: dict[str, float]) -> float:
        def miss(value: float) -> float:
            return self.gap({**known, wanted.key: value})

        low = wanted.least
        places = np.geomspace(low, wanted.most, SCAN) if low > 0 else np.linspace(low, wanted.most, SCAN)
        misses = [miss(float(p)) for p in places]
        for a, b, fa, fb in zip(places, places[1:], misses, misses[1:], strict=False):
            if not (isfinite(fa) and isfinite(fb)):
                continue
            if fa == 0:
                return float(a)
            if (fa < 0) != (fb < 0):
                from scipy.optimize import brentq

                return float(brentq(miss, a, b, xtol=1e-12, rtol=1e-13))
        if misses[-1] == 0:
            return wanted.most
        raise InputError.at(
            f"values.{wanted.key}",
            f"no {wanted.label.lower()} from {wanted.least:g} to {wanted.most:g} {wanted.unit} fits the rest".replace("  ", " "),
            "change one of the others",
        )
