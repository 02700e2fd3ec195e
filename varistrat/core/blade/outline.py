"""Outlines: two curves over one x, built in or drawn."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.model import BuiltIn, Drawn
from varistrat.core.errors import InputError

POINTS = 241


@dataclass(frozen=True)
class Curves:
    """Edge and spine as polylines over their own x, mm."""

    edge_x: Array
    edge_y: Array
    spine_x: Array
    spine_y: Array

    @property
    def length(self) -> float:
        """Heel to tip, mm."""
        return float(self.edge_x[-1])

    def edge(self, x: Array) -> Array:
        """Height of the edge at stations x, mm."""
        return np.interp(x, self.edge_x, self.edge_y).astype(x.dtype)

    def spine(self, x: Array) -> Array:
        """Height of the spine at stations x, mm."""
        return np.interp(x, self.spine_x, self.spine_y).astype(x.dtype)

    def edge_angle(self, x: Array) -> Array:
        """Angle in radians of the edge against the x axis."""
        slopes = np.diff(self.edge_y) / np.diff(self.edge_x)
        segment = np.clip(np.searchsorted(self.edge_x, x, side="right") - 1, 0, len(slopes) - 1)
        return np.arctan(slopes[segment])

    def span(self) -> tuple[float, float]:
        """Lowest and highest y."""
        return float(min(self.edge_y.min(), self.spine_y.min())), float(max(self.spine_y.max(), self.edge_y.max()))


def curves(outline: BuiltIn | Drawn) -> Curves:
    """The outline as curves. Raises InputError where the spine is under the edge."""
    if isinstance(outline, Drawn):
        edge, spine = np.array(outline.edge, float), np.array(outline.spine, float)
        found = Curves(edge[:, 0], edge[:, 1], spine[:, 0], spine[:, 1])
    else:
        found = _built_in(outline)
    x = np.union1d(found.edge_x, found.spine_x)
    gap = found.spine(x) - found.edge(x)
    if (gap[1:-1] <= 0).any() or (gap < -1e-9).any():
        at = float(x[np.argmin(gap)])
        raise InputError.at("outline.spine", f"the spine is not above the edge at x = {at:.4g} mm", "let the edge run below the spine")
    return found


Profile = Callable[[Array, "BuiltIn", float], tuple[Array, Array]]
"""x in 0..1, the outline, how high the tip lies -> edge and spine in shares of the height; both end at the tip."""


def _past(x: Array, point: float) -> Array:
    """0 up to where the point begins, then 0..1 to the tip."""
    return np.clip((x - 1 + point) / point, 0, 1)


def _belly(s: Array) -> Array:
    """A quarter of an ellipse: level at first, upright at the tip."""
    return 1 - np.sqrt(np.maximum(0, 1 - s * s))


def _clip(x: Array, o: BuiltIn, more: float) -> Array:
    """0..1 over the stretch where the spine comes down: as given, or `more` times as long as the point."""
    return _past(x, o.clip if o.clip is not None else min(0.95, o.point * more))


def _drop_point(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """Belly up and spine gently down to a tip a little above the middle."""
    return tip * _past(x, o.point) ** 2.2, 1 - (1 - tip) * _clip(x, o, 1.35) ** 1.7


def _straight_back(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """A straight spine and a belly that rises all the way to it."""
    return tip * _past(x, o.point) ** 2.3, 1 - (1 - tip) * _clip(x, o, 1.0) ** 2


def _sheepfoot(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """A straight edge; the spine rounds down to it."""
    return tip * _past(x, o.point) ** 2.2, 1 - (1 - tip) * _belly(_clip(x, o, 1.0))


def _leaf(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """Both sides swell a little and meet on the middle line."""
    s, c = _past(x, o.point), _clip(x, o, 1.0)
    swell = 0.10 * np.sin(np.pi * np.clip(x / (1 - o.point / 2), 0, 1))
    return -swell * (1 - s) + tip * s**1.8, 1 + swell * (1 - c) - (1 - tip) * c**1.8


def _skew(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """A straight edge and a straight slanting end."""
    return tip * _past(x, o.point), 1 - (1 - tip) * _clip(x, o, 1.0)


def _clipped(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """The spine is clipped away in a shallow hollow; the belly sweeps up to the tip."""
    c = _clip(x, o, 1.15)
    return tip * _past(x, o.point) ** 2.4, 1 - (1 - tip) * (0.55 * c + 0.45 * np.sin(np.pi / 2 * c))


def _hook(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """The tip drops below the heel's edge: for drawing through reeds and rods."""
    return tip * _past(x, o.point) ** 1.7, 1 - (1 - tip) * _clip(x, o, 1.0) ** 2.1


def _end_edge(x: Array, o: BuiltIn, tip: float) -> tuple[Array, Array]:
    """A chisel or plane iron, its edge at the end: the length is the edge's, the height runs up the tool; askew by `tip`."""
    return tip * x, np.ones_like(x)


_SHAPES: dict[str, tuple[Profile, float]] = {
    "drop_point": (_drop_point, 0.56), "straight_back": (_straight_back, 1.0), "sheepfoot": (_sheepfoot, 0.0), "leaf": (_leaf, 0.5),
    "skew": (_skew, 0.0), "clipped": (_clipped, 0.62), "hook": (_hook, -0.34), "end_edge": (_end_edge, 0.0),
}  # fmt: skip
"""Each shape's profile, and how high its tip lies when nothing is said."""


def _built_in(o: BuiltIn) -> Curves:
    """The edge also hangs by the belly, and is cut away by the choil and the rounded heel."""
    x = np.linspace(0, 1, POINTS)
    corner = o.heel + (o.choil.length if o.choil else 0.0)
    if corner > o.length / 2:
        raise InputError.at(
            "outline.choil" if o.choil else "outline.heel",
            f"heel and choil take {corner:g} mm of the edge",
            "keep them under half the length",
        )
    if corner:
        x = np.union1d(x, np.linspace(0, corner, POINTS) / o.length)
    profile, tip = _SHAPES[o.shape]
    low, high = profile(x, o, tip if o.tip is None else o.tip)
    low = low - o.belly * 4 * x * (1 - x)
    mm = x * o.length
    edge = low * o.height
    if o.heel:
        edge = edge + o.heel - np.sqrt(np.maximum(0, o.heel**2 - np.maximum(0, o.heel - mm) ** 2))
    if o.choil:
        v = 2 * (mm - o.heel) / o.choil.length - 1
        edge = edge + o.choil.depth * np.sqrt(np.maximum(0, 1 - v * v))
    return Curves(mm, edge, mm, high * o.height)
