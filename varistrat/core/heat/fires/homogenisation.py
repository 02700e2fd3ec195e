"""How even carbon has become along a line through the layers, what each steel ends at, and the line as a picture."""

from collections.abc import Mapping
from itertools import pairwise
from math import log
from typing import Literal

import numpy as np

from varistrat.core.laws.carbon import FROM, even_after
from varistrat.core.laws.column import Column
from varistrat.core.steels import Steel

Even = Literal["even", "partly", "own"]
LEFT, OWN = 0.05, 0.4
"""Share of the differences the steels began with: carbon has evened out up to the first, layers keep their own above the second.

Of a pile of even layers they are left at 4 pi^2 D t / period^2 of 2.8 and 0.7.
"""
LONGEST = 100.0
"""Hours: no fire is kept longer for it."""


def uneven(column: Column, steels: Mapping[str, Steel]) -> float:
    """Step of f C from layer to layer of unlike steel, against what it was when each had its own carbon: the middle one, 0 to 1.

    The middle one, for a skin lost to the fire (or welded in) upsets the few steps beside it, however small those began. 0 when
    all began alike.
    """
    own = np.array([steels[k].share("C") for k in column.steels])
    f = column.factor[np.searchsorted(column.layer, np.arange(len(own)))]
    began = np.diff(own * f)
    unlike = np.array([a != b for a, b in pairwise(column.steels)], bool) & (np.abs(began) > 0.3 * np.abs(began).max(initial=0.0))
    if not unlike.any() or np.abs(began[unlike]).mean() < 0.005:
        return 0.0
    now = np.diff(column.layer_carbon() * f)
    return float(np.clip(np.median(now[unlike] / began[unlike]), 0.0, 1.0))


def homogeneity(left: float) -> Even:
    """In a word, from `uneven`: evened out, partly, or layers keep their own."""
    return "even" if left <= LEFT else "partly" if left <= OWN else "own"


def minutes_to_even(column: Column, celsius: float, steels: Mapping[str, Steel]) -> float | None:
    """Minutes more at this temperature until LEFT of the differences is left, layers as thick as they are and faces closed.

    0 when they are even already; None when it would take longer than LONGEST. Followed cell by cell, for piles of unlike layers have no one
    period.
    """
    if uneven(column, steels) <= LEFT:
        return 0.0
    if celsius < FROM:
        return None
    # a first guess as of even layers; followed longer when that was not enough
    line, passed, longest = column, 0.0, 1.5 * even_after(celsius, 2 * float(column.thickness().max()))
    while passed < LONGEST * 60:
        before, left = 0.0, uneven(line, steels)
        for minutes, now in line.while_heated(celsius, longest):
            line, still = now, uneven(now, steels)
            if still <= LEFT:
                # differences die away exponentially
                share = log(left / LEFT) / max(log(left / max(still, 1e-9)), 1e-9)
                return passed + before + (minutes - before) * share
            before, left = minutes, still
        passed, longest = passed + longest, 3 * longest
    return None


def within(column: Column, depth: float) -> Column:
    """The line without its outermost `depth` mm at either end; a third of it is left at the least."""
    depth = min(depth, column.height / 3)
    return column.ground(depth, depth)


def settled(column: Column, depth: float) -> dict[str, tuple[float, float, float]]:
    """(least, mean, most) carbon of each steel below a skin so deep; of one that lies in the skin alone, there."""
    return column.by_steel() | within(column, depth).by_steel()


def in_the_middle(column: Column) -> dict[str, float]:
    """Mean carbon of the steels in the middle third of the line, %: an edge ground from both sides lies there."""
    return means(within(column, column.height / 3).by_steel())


def means(carbon: Mapping[str, tuple[float, float, float]]) -> dict[str, float]:
    """Mean carbon of each steel, %, from (least, mean, most)."""
    return {k: v[1] for k, v in carbon.items()}


POINTS = 320


def profile(column: Column) -> tuple[list[float], list[float], list[int]]:
    """(height as a share, carbon, which steel) along the column for a picture: means over POINTS cells, or the cells themselves."""
    order = {k: i for i, k in enumerate(dict.fromkeys(column.steels))}
    edges = np.concatenate([[0.0], np.cumsum(column.width)])
    running = np.concatenate([[0.0], np.cumsum(column.width * column.carbon)])
    at = edges if len(edges) <= POINTS else np.linspace(0, edges[-1], POINTS + 1)
    total = np.interp(at, edges, running)
    mid = (at[:-1] + at[1:]) / 2
    carbon = np.diff(total) / np.diff(at)
    cell = np.clip(np.searchsorted(edges, mid, side="right") - 1, 0, len(column.width) - 1)
    which = [order[column.steels[int(column.layer[c])]] for c in cell]
    return [round(float(v), 5) for v in mid / edges[-1]], [round(float(v), 4) for v in carbon], which
