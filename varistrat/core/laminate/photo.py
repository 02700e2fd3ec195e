"""Core heights picked on a photograph: where marks of known place lie in it gives the way back from the picture to the blade.

A flat blade seen from anywhere is a projective picture of itself: eight numbers, found from four marks or, by least squares,
from more (Hartley & Zisserman 2004, 4.1). Derived in docs/physics.md#photo.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.errors import InputError

FLATTEST = 1e-3
"""Marks whose quadrangle is thinner than this share of its size hardly fix anything."""

FARTHEST = 1e6
"""px or mm; no photo and no blade is as large."""


@dataclass(frozen=True)
class Mark:
    """A place on the picture (px, py; down is +) and on the blade (x from the heel, y above the heel's edge, mm)."""

    px: float
    py: float
    x: float
    y: float


@dataclass(frozen=True)
class Sight:
    """The way from the picture to the blade. worst: how far the marks lie from where it puts them, mm (0 for four marks)."""

    matrix: Array
    worst: float

    def blade(self, points: Array) -> Array:
        """Blade (x, y) of picture points (n, 2); not finite on the horizon."""
        return _projected(points, self.matrix)

    def picture(self, places: Array) -> Array:
        """Where the picture shows blade places (n, 2); not finite where it never does."""
        return _projected(places, np.linalg.inv(self.matrix))


def _projected(points: Array, matrix: Array) -> Array:
    p = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        out: Array = p[:, :2] / p[:, 2:]
    return out


def sight(marks: Sequence[Mark]) -> Sight:
    """Raises InputError when the marks are too few or lie along a line, in the picture or on the blade."""
    if len(marks) < 4:
        raise InputError.at(
            "marks", f"{len(marks)} marks do not fix the picture", "mark four places or more whose position on the blade is known"
        )
    for i, m in enumerate(marks):
        # also what is no number at all is not within it
        if not all(abs(v) <= FARTHEST for v in (m.px, m.py, m.x, m.y)):
            raise InputError.at(f"marks[{i}]", f"it lies more than {FARTHEST:.0e} px or mm away", "mark a place in the picture again")
    seen, true = np.array([[m.px, m.py] for m in marks]), np.array([[m.x, m.y] for m in marks])
    for points, where in ((seen, "in the picture"), (true, "on the blade")):
        if not _spread(points):
            raise InputError.at(
                "marks",
                f"three of the four marks lie along one line {where}",
                "mark both the edge and the spine, at two places along the blade",
            )
    (a, from_seen), (b, from_true) = _centred(seen), _centred(true)
    rows = []
    for (u, v), (x, y) in zip(a, b, strict=True):
        rows += [[u, v, 1, 0, 0, 0, -x * u, -x * v, -x], [0, 0, 0, u, v, 1, -y * u, -y * v, -y]]
    h = np.linalg.svd(np.array(rows))[2][-1].reshape(3, 3)
    matrix = np.linalg.inv(from_true) @ h @ from_seen
    found = Sight(matrix, 0.0)
    depth = np.column_stack([seen, np.ones(len(seen))]) @ matrix[2]
    if not (np.all(depth > 0) or np.all(depth < 0)):
        raise InputError.at("marks", "no camera can have seen the marks so", "two of them are probably swapped: check their order")
    return Sight(matrix, float(np.abs(found.blade(seen) - true).max()))


def _spread(points: Array) -> bool:
    """Whether some four of the points lie so that no three are along a line."""
    size = float(np.ptp(points, axis=0).max())
    if size <= 0:
        return False

    def area(i: tuple[int, ...]) -> float:
        p, q, r = points[list(i)]
        return abs(float((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])))

    return any(all(area(t) > FLATTEST * size**2 for t in combinations(four, 3)) for four in combinations(range(min(len(points), 8)), 4))


def _centred(points: Array) -> tuple[Array, Array]:
    """The points moved to their middle and scaled to sqrt 2, and the matrix that does it."""
    middle = points.mean(axis=0)
    scale = np.sqrt(2) / max(float(np.hypot(*(points - middle).T).mean()), 1e-12)
    return (points - middle) * scale, np.array([[scale, 0, -scale * middle[0]], [0, scale, -scale * middle[1]], [0, 0, 1]])
