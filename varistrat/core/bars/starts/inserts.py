"""What is put into a canister among the powder: rods, balls, tiles, cut-out outlines.

Each piece answers one question, how far a point is from its surface (negative inside), exactly.
Frame: the can's inside, x from its start, y and z from the middle, mm.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property

FEW = 40
"""Centres up to which all are gone through: for more of them a tree is quicker."""
AROUND = np.linspace(0, 2 * np.pi, 48, endpoint=False)


@dataclass(frozen=True)
class Round:
    """Rods along the can (`ball` false) or balls: pieces of one diameter, centres (n, 3)."""

    diameter: float
    centres: tuple[tuple[float, float, float], ...]
    ball: bool

    @property
    def through(self) -> bool:
        """Whether it goes through the whole can, however long that is."""
        return not self.ball

    @property
    def shadow(self) -> "Round":
        """All that it leaves no room for what goes through the whole can."""
        return replace(self, ball=False)

    @cached_property
    def _tree(self) -> Any:
        from scipy.spatial import cKDTree

        at = np.array(self.centres)
        return cKDTree(at if self.ball else at[:, 1:])

    def distance(self, x: Array, y: Array, z: Array) -> Array:
        """To the nearest of its rounds, mm: negative inside."""
        at = (x, y, z) if self.ball else (y, z)
        if len(self.centres) <= FEW:
            near = np.sqrt(self._square_of(at))
        else:
            near, _ = self._tree.query(np.stack(at, axis=-1))
        return np.asarray(near - self.diameter / 2, dtype=x.dtype)

    def _square_of(self, at: Sequence[Array]) -> Array:
        """mm2 to the nearest centre, one centre after the other."""
        near = np.full(np.broadcast_shapes(*(v.shape for v in at)), np.inf, at[0].dtype)
        for centre in self.centres:
            square = np.zeros_like(near)
            for v, c in zip(at, centre if self.ball else centre[1:], strict=True):
                off = v - at[0].dtype.type(c)
                off *= off
                square += off
            np.minimum(near, square, out=near)
        return near

    def volume(self, length: float) -> float:
        """All of them in a can `length` mm long, mm3."""
        each = np.pi * self.diameter**3 / 6 if self.ball else np.pi * self.diameter**2 / 4 * length
        return float(each * len(self.centres))

    def skin(self) -> Array:
        """Points on the surface of every piece, (n, m, 3)."""
        r = self.diameter / 2
        if self.ball:
            k = np.arange(64) + 0.5
            z, t = 1 - 2 * k / 64, np.pi * (1 + 5**0.5) * k
            ring = np.stack([np.sqrt(1 - z * z) * np.cos(t), np.sqrt(1 - z * z) * np.sin(t), z], axis=-1)
        else:
            ring = np.stack([0 * AROUND, np.cos(AROUND), np.sin(AROUND)], axis=-1)
        return np.array(self.centres)[:, None, :] + r * ring


@dataclass(frozen=True)
class Prism:
    """One piece of any outline across (y, z), as long as the can or as `span` (from, to) along it.

    outline: its corners in the can's frame, in order round it, not crossing.
    """

    outline: tuple[tuple[float, float], ...]
    span: tuple[float, float] | None = None

    @property
    def through(self) -> bool:
        """Whether it goes through the whole can, however long that is."""
        return self.span is None

    @property
    def shadow(self) -> "Prism":
        """All that it leaves no room for what goes through the whole can."""
        return replace(self, span=None)

    @cached_property
    def _edges(self) -> tuple[Array, Array]:
        a = np.array(self.outline, float)
        return a, np.roll(a, -1, axis=0) - a

    @property
    def area(self) -> float:
        """Of its cross-section, mm2."""
        a, e = self._edges
        return float(abs((a[:, 0] * e[:, 1] - a[:, 1] * e[:, 0]).sum()) / 2)

    def distance(self, x: Array, y: Array, z: Array) -> Array:
        """To its skin, mm: negative inside."""
        start, edge = self._edges
        near = np.full(y.shape, np.inf)
        inside = np.zeros(y.shape, bool)
        for (ay, az), (ey, ez) in zip(start, edge, strict=True):
            dy, dz = y - ay, z - az
            along = np.clip((dy * ey + dz * ez) / (ey * ey + ez * ez), 0, 1)
            np.minimum(near, (dy - along * ey) ** 2 + (dz - along * ez) ** 2, out=near)
            # a ray towards +y crosses this edge
            rising = (az > z) != (az + ez > z)
            if ez:
                inside ^= rising & (dy < dz * (ey / ez))
        off = np.where(inside, -np.sqrt(near), np.sqrt(near))
        if self.span:
            ends = np.maximum(self.span[0] - x, x - self.span[1])
            both = np.hypot(np.maximum(off, 0), np.maximum(ends, 0))
            off = np.where((off > 0) & (ends > 0), both, np.maximum(off, ends))
        return np.asarray(off, dtype=x.dtype)

    def volume(self, length: float) -> float:
        """In a can `length` mm long, mm3."""
        return self.area * (self.span[1] - self.span[0] if self.span else length)

    def skin(self) -> Array:
        """Points on its outline at its ends (1, n, 3), mm: enough to see what it runs into."""
        start, edge = self._edges
        ring = np.concatenate([start + f * edge for f in (0.0, 0.25, 0.5, 0.75)])
        ends = self.span or (0.0, 0.0)
        return np.concatenate([np.column_stack([np.full(len(ring), e), ring]) for e in dict.fromkeys(ends)])[None]


Piece = Round | Prism


def crossing(pieces: Sequence[Piece], slack: float = 1e-6) -> tuple[int, int] | None:
    """The first two kinds of piece that run into one another (the same number twice: two of one kind)."""
    for i, one in enumerate(pieces):
        if isinstance(one, Round) and len(one.centres) > 1:
            at = np.array(one.centres)
            from scipy.spatial import cKDTree

            gap, _ = cKDTree(at if one.ball else at[:, 1:]).query(at if one.ball else at[:, 1:], k=2)
            if gap[:, 1].min() < one.diameter - slack:
                return i, i
        for j in range(i):
            for a, b in ((one, pieces[j]), (pieces[j], one)):
                skin = b.skin().reshape(-1, 3)
                if isinstance(a, Prism) and a.span and b.through:
                    skin[:, 0] = sum(a.span) / 2  # b runs the whole length of the can
                if (a.distance(*skin.T) < -slack).any():
                    return j, i
    return None
