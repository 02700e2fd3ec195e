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
        return float(self.edge_x[-1])

    def edge(self, x: Array) -> Array:
        return np.interp(x, self.edge_x, self.edge_y).astype(x.dtype)

    def spine(self, x: Array) -> Array:
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
        x = np.linspace(0, 1, POINTS)
        low, high = _SHAPES[outline.shape](x, outline.point)
        found = Curves(x * outline.length, low * outline.height, x * outline.length, high * outline.height)
    x = np.union1d(found.edge_x, found.spine_x)
    gap = found.spine(x) - found.edge(x)
    if (gap[1:-1] <= 0).any() or (gap < -1e-9).any():
        at = float(x[np.argmin(gap)])
        raise InputError.at("outline.spine", f"the spine is not above the edge at x = {at:.4g} mm", "let the edge run below the spine")
    return found


Profile = Callable[[Array, float], tuple[Array, Array]]
"""x in 0..1 and the point's share of the length -> edge and spine in shares of the height."""


def _past(x: Array, point: float) -> Array:
    """0 up to where the point begins, then 0..1 to the tip."""
    return np.clip((x - 1 + point) / point, 0, 1)


def _belly(s: Array) -> Array:
    """A quarter of an ellipse: level at first, upright at the tip."""
    return 1 - np.sqrt(np.maximum(0, 1 - s * s))


def _drop_point(x: Array, point: float) -> tuple[Array, Array]:
    """Belly up and spine gently down to a tip a little above the middle."""
    s = _past(x, point)
    return 0.56 * s**2.2, 1 - 0.44 * _past(x, min(0.95, point * 1.35)) ** 1.7


def _straight_back(x: Array, point: float) -> tuple[Array, Array]:
    """A straight spine and a belly that rises all the way to it."""
    return _past(x, point) ** 2.3, np.ones_like(x)


def _sheepfoot(x: Array, point: float) -> tuple[Array, Array]:
    """A straight edge; the spine rounds down to it."""
    return np.zeros_like(x), 1 - _belly(_past(x, point))


def _leaf(x: Array, point: float) -> tuple[Array, Array]:
    """Both sides swell a little and meet on the middle line."""
    s = _past(x, point)
    swell = 0.10 * np.sin(np.pi * np.clip(x / (1 - point / 2), 0, 1)) * (1 - s)
    return -swell + 0.5 * s**1.8, 1 + swell - 0.5 * s**1.8


def _skew(x: Array, point: float) -> tuple[Array, Array]:
    """A straight edge and a straight slanting end."""
    return np.zeros_like(x), 1 - _past(x, point)


def _clipped(x: Array, point: float) -> tuple[Array, Array]:
    """The spine is clipped away in a shallow hollow; the belly sweeps up to the tip."""
    s, c = _past(x, point), _past(x, min(0.95, point * 1.15))
    return 0.62 * s**2.4, 1 - 0.38 * (0.55 * c + 0.45 * np.sin(np.pi / 2 * c))


def _hook(x: Array, point: float) -> tuple[Array, Array]:
    """The tip drops below the heel's edge: for drawing through reeds and rods."""
    s = _past(x, point)
    return -0.34 * s**1.7, 1 - 1.34 * s**2.1


_SHAPES: dict[str, Profile] = {
    "drop_point": _drop_point, "straight_back": _straight_back, "sheepfoot": _sheepfoot, "leaf": _leaf,
    "skew": _skew, "clipped": _clipped, "hook": _hook,
}  # fmt: skip
