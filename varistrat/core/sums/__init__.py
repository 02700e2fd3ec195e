"""Sums people do on the back of an envelope, each beside the step that needs it."""

from collections.abc import Mapping
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.errors import InputError
from varistrat.core.sums.counting import COUNTING
from varistrat.core.sums.edges import EDGES
from varistrat.core.sums.fit_up import FIT_UP
from varistrat.core.sums.fitting import FITTING
from varistrat.core.sums.slicing import SLICING
from varistrat.core.sums.sum import Sum
from varistrat.core.sums.working import WORKING

SUMS: dict[str, Sum] = {s.key: s for s in (*SLICING, *WORKING, *COUNTING, *FITTING, *EDGES, *FIT_UP)}


def sum_of(key: str) -> Sum:
    """Raises InputError for a sum there is not."""
    if key not in SUMS:
        raise InputError.at("key", f"there is no sum {key[:40]!r}", f"use one of {', '.join(SUMS)}")
    return SUMS[key]


def sums_for(kind: str, before: Bar, fields: Mapping[str, Any]) -> list[tuple[Sum, dict[str, float]]]:
    """The sums beside a step (or start) of this kind, with what its bar and its fields already say."""
    return [(s, s.fill(before, fields)) for s in SUMS.values() if kind in s.steps]
