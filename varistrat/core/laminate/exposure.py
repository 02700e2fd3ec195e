"""Where the core shows on each side of a blade: the core line.

The core shows at a height where the ground face lies within the core's thickness:
|z_face - m| <= c, c = share t_f / 2, m the layers' shift. Heights here are vertical, mm from
the edge. Derived in docs/physics.md#core-line.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES, Faces, Geometry, Side

State = Literal["none", "line", "strip", "spine"]


@dataclass(frozen=True)
class Fineness:
    """How many heights are looked at, and how often what lies between two of them is halved."""

    scan: int
    rounds: int


EXACT = Fineness(513, 27)
SCREEN = Fineness(129, 14)
"""Good to a ten-thousandth of a mm; a strip narrower than 1/128 of the height may be missed."""

Depth = Callable[[Array, Array], tuple[Array, Array]]
"""(x, h) -> how far inside the core the right and the left face lie, mm; negative: clad."""


@dataclass(frozen=True)
class Station:
    """One side of one station: intervals of height where core shows, and what that amounts to."""

    x: float
    side: Side
    height: float
    shown: tuple[tuple[float, float], ...]
    core_at_edge: float

    @property
    def state(self) -> State:
        """In a word: no core seen, a line, a strip that does not reach the edge, or core up to the spine."""
        if not self.shown:
            return "none"
        if self.shown[-1][1] >= self.height * (1 - 1e-9):
            return "spine"
        return "line" if self.shown[0][0] <= 1e-9 else "strip"

    @property
    def clad_share(self) -> float:
        """Share of the height that is clad."""
        shown = sum(high - low for low, high in self.shown)
        return 1 - shown / self.height if self.height > 0 else 0.0


def core_depths(share: Array, faces: Faces) -> tuple[Array, Array]:
    """How far inside the core the right and the left face lie, mm; `share`: the core's, of the forged thickness there."""
    half = share * faces.forged / 2
    return half - np.abs(faces.right - faces.layers), half - np.abs(faces.left - faces.layers)


def stations(geometry: Geometry, n: int) -> Array:
    """Stations at (i + 0.5) L / n."""
    return (np.arange(n) + 0.5) * geometry.length / n


def expose_laminate(geometry: Geometry, n: int, fine: Fineness = EXACT) -> Iterator[Station]:
    """Core line of a plain three-layer laminate, right before left at each of n stations."""
    assert geometry.blade.laminate
    planned = geometry.blade.laminate.core.share

    def depth(x: Array, h: Array) -> tuple[Array, Array]:
        faces = geometry.faces(x, h)
        return core_depths(geometry.core_share(planned, x, faces.forged), faces)

    x = stations(geometry, n)
    f = geometry.faces(x, np.zeros_like(x))
    c = geometry.core_share(planned, x, f.forged) * f.forged / 2
    at_edge = np.maximum(0, np.minimum(f.right, f.layers + c) - np.maximum(f.left, f.layers - c))
    return expose(geometry, x, depth, at_edge, fine)


def expose(geometry: Geometry, x: Array, depth: Depth, at_edge: Array, fine: Fineness = EXACT) -> Iterator[Station]:
    """Intervals where `depth` >= 0, by a scan in height, then halving (EXACT: to 1e-11 of the height)."""
    height = geometry.height(x)
    u = np.linspace(0, 1, fine.scan)
    inside = np.stack(depth(x[:, None], u * height[:, None])) >= 0
    side, row, cell = np.nonzero(inside[:, :, 1:] != inside[:, :, :-1])
    low, high = u[cell] * height[row], u[cell + 1] * height[row]
    starts_inside = inside[side, row, cell]
    for _ in range(fine.rounds):
        mid = (low + high) / 2
        same = (np.where(side == 0, *depth(x[row], mid)) >= 0) == starts_inside
        low, high = np.where(same, mid, low), np.where(same, high, mid)
    marks: dict[tuple[int, int], list[float]] = {}
    for s, r, h in zip(side.tolist(), row.tolist(), ((low + high) / 2).tolist(), strict=True):
        marks.setdefault((r, s), []).append(h)
    for i in range(len(x)):
        for k, name in enumerate(SIDES):
            cuts = marks.get((i, k), [])
            if inside[k, i, 0]:
                cuts = [0.0, *cuts]
            if inside[k, i, -1]:
                cuts = [*cuts, float(height[i])]
            yield Station(float(x[i]), name, float(height[i]), tuple(zip(cuts[::2], cuts[1::2], strict=True)), float(at_edge[i]))
