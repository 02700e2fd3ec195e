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
from varistrat.core.blade.geometry import Faces, Geometry

Side = Literal["right", "left"]
State = Literal["none", "line", "strip", "spine"]
SIDES: tuple[Side, Side] = ("right", "left")
SCAN = 513
ROUNDS = 44

Depth = Callable[[Array, Array, Side], Array]
"""(x, h, side) -> how far inside the core the face lies, mm; negative: clad."""


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
        if not self.shown:
            return "none"
        if self.shown[-1][1] >= self.height * (1 - 1e-9):
            return "spine"
        return "line" if self.shown[0][0] <= 1e-9 else "strip"

    @property
    def clad_share(self) -> float:
        shown = sum(high - low for low, high in self.shown)
        return 1 - shown / self.height if self.height > 0 else 0.0


def core_depth(share: float, faces: Faces, side: Side) -> Array:
    """How far inside the core the face of `side` lies, mm."""
    face = faces.right if side == "right" else faces.left
    return share * faces.forged / 2 - np.abs(face - faces.layers)


def stations(geometry: Geometry, n: int) -> Array:
    """Stations at (i + 0.5) L / n."""
    return (np.arange(n) + 0.5) * geometry.length / n


def expose_laminate(geometry: Geometry, n: int) -> Iterator[Station]:
    """Core line of a plain three-layer laminate, right before left at each of n stations."""
    assert geometry.blade.laminate
    share = geometry.blade.laminate.core.share

    def depth(x: Array, h: Array, side: Side) -> Array:
        return core_depth(share, geometry.faces(x, h), side)

    x = stations(geometry, n)
    f = geometry.faces(x, np.zeros_like(x))
    c = share * f.forged / 2
    at_edge = np.maximum(0, np.minimum(f.right, f.layers + c) - np.maximum(f.left, f.layers - c))
    return expose(geometry, x, depth, at_edge)


def expose(geometry: Geometry, x: Array, depth: Depth, at_edge: Array) -> Iterator[Station]:
    """Intervals where `depth` >= 0, by a scan in height then halving to 1e-12 of the height."""
    height = geometry.height(x)
    u = np.linspace(0, 1, SCAN)
    found: dict[Side, list[tuple[tuple[float, float], ...]]] = {s: _intervals(x, height, u, depth, s) for s in SIDES}
    for i in range(len(x)):
        for side in SIDES:
            yield Station(float(x[i]), side, float(height[i]), found[side][i], float(at_edge[i]))


def _intervals(x: Array, height: Array, u: Array, depth: Depth, side: Side) -> list[tuple[tuple[float, float], ...]]:
    inside = depth(x[:, None], u * height[:, None], side) >= 0
    row, cell = np.nonzero(inside[:, 1:] != inside[:, :-1])
    low, high = u[cell] * height[row], u[cell + 1] * height[row]
    starts_inside = inside[row, cell]
    for _ in range(ROUNDS):
        mid = (low + high) / 2
        same = (depth(x[row], mid, side) >= 0) == starts_inside
        low, high = np.where(same, mid, low), np.where(same, high, mid)
    marks = (low + high) / 2
    out = []
    for i in range(len(x)):
        cuts = marks[row == i].tolist()
        if inside[i, 0]:
            cuts.insert(0, 0.0)
        if inside[i, -1]:
            cuts.append(float(height[i]))
        out.append(tuple(zip(cuts[::2], cuts[1::2], strict=True)))
    return out
