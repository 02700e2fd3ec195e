"""The flat piles a bar is made of, and the one axis on which all of them are laid end to end.

Every point of a finished bar comes from one height in one pile. Laid end to end, in cells of a
table, those heights are a single number, so that a picture needs one table and one look-up
however many bars were joined. A single steel that a step brought in is a pile of its own.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property

CELLS_PER_LAYER = 64
CELLS = (4096, 65536)
"""Fewest and most cells of one pile."""
ALL_CELLS = 1 << 18
"""A float32 still tells a sixty-fourth of a cell apart here."""
PLAIN_CELLS = 64


@dataclass(frozen=True)
class Pile:
    """Layers (steel, thickness mm) from the bottom up. `welded`: its outer faces met others later."""

    layers: tuple[tuple[str, float], ...]
    welded: bool = False
    path: str = ""

    @cached_property
    def bounds(self) -> NDArray[np.float64]:
        """Layer boundaries from the bottom, mm: one more than there are layers."""
        return np.cumsum([0.0] + [t for _, t in self.layers])

    @property
    def height(self) -> float:
        """All layers together, mm."""
        return float(self.bounds[-1])


@dataclass(frozen=True)
class PileRow:
    """All piles end to end: pile i fills cells base[i] to base[i] + cells[i], step[i] mm each."""

    piles: tuple[Pile, ...]

    @cached_property
    def cells(self) -> NDArray[np.int64]:
        """Cells of each pile (piles,): more for more layers, within ALL_CELLS together."""
        wanted = [int(np.clip(CELLS_PER_LAYER * len(p.layers), *CELLS)) if len(p.layers) > 1 else PLAIN_CELLS for p in self.piles]
        shrink = min(1.0, ALL_CELLS / sum(wanted))
        return np.array([max(16, int(n * shrink)) for n in wanted], np.int64)

    @cached_property
    def base(self) -> NDArray[np.int64]:
        """First cell of each pile (piles,)."""
        return np.concatenate([[0], np.cumsum(self.cells)[:-1]])

    @cached_property
    def step(self) -> NDArray[np.float64]:
        """Height of a cell of each pile (piles,), mm."""
        return np.array([p.height for p in self.piles]) / self.cells

    @property
    def size(self) -> int:
        """Cells in all."""
        return int(self.cells.sum())

    def put(self, pile: int, s: Array) -> Array:
        """Heights s (mm from the pile's bottom; clipped to it) as places on the axis; in place."""
        np.clip(s, 0, self.piles[pile].height, out=s)
        s *= float(1 / self.step[pile])
        if self.base[pile]:
            s += float(self.base[pile])
        return s

    def middle(self, pile: Array) -> Array:
        """Places of the middles of these piles."""
        return self.base[pile] + self.cells[pile] / 2

    def pile_of(self, place: Array) -> NDArray[np.intp]:
        """The pile that each place on the row lies in."""
        found: NDArray[np.intp] = np.searchsorted(self.base[1:], place, side="right")
        return found

    def height_of(self, place: Array) -> tuple[NDArray[np.intp], Array]:
        """(pile, mm from its bottom) of places on the axis."""
        pile = self.pile_of(place)
        return pile, (place - self.base[pile]) * self.step[pile]
