"""What is put into a canister among the powder: rods, balls, tiles, cut-out outlines.

Each piece answers one question, how far a point is from its surface (negative inside), exactly.
Frame: the can's inside, x from its start, y and z from the middle, mm.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property

FEW = 40
"""Centres up to which all are gone through: for more of them a tree is quicker."""
MANY, ABOUT = 200, 1e-3
"""Corners from which the nearest is found by a tree, and what is added to its distance, mm, to be beyond the skin's."""
SLACK = 1e-6
"""How deep two pieces may lie in one another and still only touch, mm."""


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

    def claimed(self, x: Array, y: Array, z: Array, best: Array) -> Any:
        """Where it is nearer than `best`, mm, which is lowered there to its distance."""
        off = self.distance(x, y, z)
        where = off < best
        best[where] = off[where]
        return where

    def work(self, across: tuple[float, float], deep: float) -> float:
        """What a point costs, in steps of forging."""
        return min(len(self.centres), FEW)

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

    @cached_property
    def box(self) -> Array:
        """Lowest and highest corner of every piece, (n, 2, 3) mm; along a rod both are where it was put."""
        r = self.diameter / 2
        return np.array(self.centres)[:, None, :] + np.array([[-1.0], [1.0]]) * (r if self.ball else 0.0, r, r)


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

    @cached_property
    def core(self) -> Any:
        """Its cross-section a slack smaller, to be met: what only touches does not meet."""
        from shapely import Polygon

        return Polygon(self.outline).buffer(-SLACK, join_style="mitre")

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

    @cached_property
    def box(self) -> Array:
        """Lowest and highest corner, (1, 2, 3) mm; 0 along one that goes through the whole can."""
        a, _ = self._edges
        low, high = self.span or (0.0, 0.0)
        return np.array([[(low, *a.min(axis=0)), (high, *a.max(axis=0))]])

    def claimed(self, x: Array, y: Array, z: Array, best: Array) -> Any:
        """As of a round; only where its box is nearer than `best` along every axis is it measured."""
        ((low, high),) = self.box
        near: Any = ...
        for v, a, b in list(zip((x, y, z), low, high, strict=True))[: 0 if self.through else None : -1]:
            at = v[near]
            keep = np.nonzero(np.maximum(a - at, at - b) < best[near])
            near = keep if near is ... else tuple(axis[keep] for axis in near)
        off = self.distance(x[near], y[near], z[near])
        nearer = off < best[near]
        where = tuple(axis[nearer] for axis in near)
        best[where] = off[nearer]
        return where

    def work(self, across: tuple[float, float], deep: float) -> float:
        """What a point of a can so wide and high costs, in steps of forging: only those within `deep` of it meet all its corners, mm."""
        near = np.minimum(np.ptp(self.box[0, :, 1:], axis=0) + 2 * deep, across) / across
        return float(2 + 2 * len(self.outline) * near.prod())

    def moved(self, x: float, y: float, z: float) -> "Prism":
        """The same piece elsewhere, mm."""
        return Prism(tuple((a + y, b + z) for a, b in self.outline), self.span and (self.span[0] + x, self.span[1] + x))


Piece = Round | Prism


class Lying:
    """Pieces where they lie, and what is near them: exact, as all that is no ball runs straight along the can."""

    def __init__(self, pieces: Sequence[Piece]):
        self._rounds = [(i, p) for i, p in enumerate(pieces) if isinstance(p, Round)]
        self._numbers = np.array([i for i, p in enumerate(pieces) if isinstance(p, Prism)], int)
        self._prisms = [p for p in pieces if isinstance(p, Prism)]

    @cached_property
    def _cores(self) -> Any:
        """Those of the prisms, to be found by where they are."""
        from shapely import STRtree

        return STRtree([p.core for p in self._prisms])

    @cached_property
    def _spans(self) -> Array:
        return np.array([p.span or (-np.inf, np.inf) for p in self._prisms])

    def nearer(self, at: Array, than: float) -> NDArray[np.bool_]:
        """Which of the points (n, 3) have a skin no further off than `than` mm, or lie within."""
        near = np.zeros(len(at), bool)
        for _, each in self._rounds:
            near |= each.distance(*at.T) <= than
        for n, which in self._beside(at, than):
            near[which] |= self._prisms[n].distance(*at[which].T) <= than
        return near

    def _beside(self, at: Array, than: float) -> Iterator[tuple[int, NDArray[np.intp]]]:
        """(a prism, the points beside whose cross-section it is), of those that have any."""
        from shapely import points

        if not self._prisms:
            return
        which, n = self._cores.query(points(at[:, 1:]), predicate="dwithin", distance=max(than, 0.0) + SLACK)
        order = np.argsort(n, kind="stable")
        found, first = np.unique(n[order], return_index=True)
        # none found is split into one that is empty
        yield from zip(found.tolist(), np.split(which[order], first[1:]), strict=False)

    def met(self, piece: Prism, at: Array) -> NDArray[np.bool_]:
        """Which of the places (n, 3) `piece`, moved there by as much, runs into something."""
        met = np.zeros(len(at), bool)
        reach = float(np.hypot(*np.array(piece.outline).T).max())
        for _, other in self._rounds:
            off = np.moveaxis(np.array(other.centres) - at[:, None], -1, 0)
            within = other.diameter / 2 - SLACK
            near = np.nonzero(np.hypot(off[1], off[2]) < reach + within)
            hit = (piece.shadow if other.through else piece).distance(*(v[near] for v in off)) < within
            met[near[0][hit]] = True
        if self._prisms:
            met[self._pairs(np.array(piece.outline) + at[:, None, 1:], np.array(piece.span or (-np.inf, np.inf)) + at[:, :1])[1]] = True
        return met

    def _pairs(self, outlines: Array, spans: Array) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Numbers of a prism of ours and of one of other outlines (m, corners, 2) and spans (m, 2), mm, that run into one another."""
        from shapely import polygons

        theirs, ours = self._cores.query(polygons(outlines), predicate="intersects")
        along = np.minimum(self._spans[ours, 1], spans[theirs, 1]) - np.maximum(self._spans[ours, 0], spans[theirs, 0])
        return ours[along > SLACK], theirs[along > SLACK]

    def crossing(self) -> tuple[int, int] | None:
        """Numbers of the first two pieces that run into one another (the same number twice: two rounds of one kind)."""
        from scipy.spatial import cKDTree

        met: list[tuple[int, int]] = []
        for k, (i, one) in enumerate(self._rounds):
            centres = np.array(one.centres)
            for j, other in self._rounds[: k + 1]:
                flat = 0 if one.ball and other.ball else 1
                there = cKDTree(np.array(other.centres)[:, flat:])
                # of its own kind the nearest is itself
                nth = 2 if i == j else 1
                if nth > len(other.centres):
                    continue
                gap, _ = there.query(centres[:, flat:], k=[nth])
                if gap.min() < (one.diameter + other.diameter) / 2 - SLACK:
                    met.append((j, i))
            than = one.diameter / 2 - SLACK
            for n, which in self._beside(centres, than):
                piece, number = self._prisms[n], int(self._numbers[n])
                if ((piece.shadow if one.through else piece).distance(*centres[which].T) < than).any():
                    met.append((min(i, number), max(i, number)))
        for n, prism in enumerate(self._prisms):
            ours, _ = self._pairs(np.array([prism.outline]), self._spans[n : n + 1])
            met += [(int(self._numbers[k]), int(self._numbers[n])) for k in ours if k < n]
        return min(met, key=lambda pair: pair[::-1]) if met else None


@dataclass(frozen=True)
class Filling:
    """All that lies in a can: the pieces of every kind, and the share of the can that is steel."""

    kinds: list[list[Piece]]
    share: float

    @cached_property
    def _corners(self) -> Any:
        """Of all that goes through the can, to be found by where they are; None where they are too few to be worth it."""
        from scipy.spatial import cKDTree

        rings = [p.outline for kind in self.kinds for p in kind if isinstance(p, Prism) and p.through]
        return cKDTree(np.concatenate(rings)) if sum(map(len, rings)) > MANY else None

    def nearest(self, x: Array, y: Array, z: Array, deep: float) -> tuple[Array, NDArray[np.int16]]:
        """(mm to the skin of the nearest piece, `deep` if that is further; its kind) of points in the can."""
        best = np.full(x.shape, deep, x.dtype)
        if self._corners is not None:
            # no skin is further off than the nearest corner: only pieces about as near are looked at
            corner, _ = self._corners.query(np.stack([y, z], axis=-1), distance_upper_bound=deep)
            np.minimum(best, corner + ABOUT, out=best, casting="same_kind")
        which = np.zeros(x.shape, np.int16)
        for i, kind in enumerate(self.kinds):
            for piece in kind:
                which[piece.claimed(x, y, z, best)] = i
        return best, which
