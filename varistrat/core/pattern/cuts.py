"""Views into a bar or blade: sections at any angle, windows ground into a face, the whole solid.

Frames as in views.py; each turns places on the picture into points of the bar.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Array
from varistrat.core.blade.place import Placed
from varistrat.core.cached import cached_property
from varistrat.core.pattern.views import Patch, View, soft

FaceName = Literal["top", "bottom", "front", "back"]
EDGES = [(i, j) for i in range(8) for j in range(i + 1, 8) if bin(i ^ j).count("1") == 1]
"""The twelve edges of a box, its corners numbered by their three signs."""


@dataclass(frozen=True)
class Plane:
    """A cut through (x, 0, 0): turned about z by `turn` (0: straight across), then leant by `lean` (90: lengthwise, flat).

    Degrees. In the cut a runs to the right (towards +y when turn is 0), b up.
    """

    x: float
    turn: float = 0.0
    lean: float = 0.0

    @cached_property
    def axes(self) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """(a, b, normal), unit vectors; right-handed: a x b = normal, which is +x for a plain cut across."""
        t, s = np.deg2rad([self.turn, self.lean])
        a = np.array([-np.sin(t), np.cos(t), 0.0])
        n0 = np.array([np.cos(t), np.sin(t), 0.0])
        up = np.array([0.0, 0.0, 1.0])
        return a, np.cos(s) * up - np.sin(s) * n0, np.cos(s) * n0 + np.sin(s) * up

    def corners(self, bar: Bar) -> Array:
        """Where the plane meets the edges of the bar's box, as (a, b), (n, 2)."""
        a, b, n = self.axes
        box = np.array([[bar.length * (i & 1), bar.width * ((i >> 1 & 1) - 0.5), bar.thickness * ((i >> 2) - 0.5)] for i in range(8)])
        box = box - (self.x, 0, 0)
        high = box @ n
        met = []
        for i, j in EDGES:
            if (high[i] > 0) != (high[j] > 0):
                met.append(box[i] + (box[j] - box[i]) * (high[i] / (high[i] - high[j])))
        return np.array(met or box[:1]) @ np.array([a, b]).T


@dataclass(frozen=True)
class SectionView(View):
    """The bar cut along a plane: end grain at any place and angle. Seen from the side its normal points to."""

    bar: Bar
    plane: Plane

    @cached_property
    def _box(self) -> tuple[Array, Array]:
        met = self.plane.corners(self.bar)
        return met.min(axis=0), np.maximum(met.max(axis=0), met.min(axis=0) + 1e-3)

    @property
    def origin(self) -> tuple[float, float]:
        """(a, b) of the view's lower left corner in the plane."""
        return float(self._box[0][0]), float(self._box[0][1])

    @property
    def size(self) -> tuple[float, float]:
        low, high = self._box
        return float(high[0] - low[0]), float(high[1] - low[1])

    def patch(self, a: Array, b: Array) -> Patch:
        ax, bx, _ = self.plane.axes
        u, v = np.broadcast_arrays((a + np.float32(self.origin[0]))[None, :], (b + np.float32(self.origin[1]))[:, None])
        x, y, z = (u * np.float32(ax[i]) + v * np.float32(bx[i]) for i in range(3))
        x += np.float32(self.plane.x)
        steel = self.bar.section.holds(y, z, 1e-4) & (x >= -1e-4) & (x <= self.bar.length + 1e-4)
        return Patch(x, y, z, steel.astype(np.float32))


@dataclass(frozen=True)
class WindowView(View):
    """A long face of the bar with a window ground into it: its slopes show the layers on a slant.

    x, across: the window's middle (mm along, mm from the face's middle line); length, width, depth: its
    flat floor and how deep it lies; slope: mm out for each mm down. Seen square to the face, x to the right.
    """

    bar: Bar
    face: FaceName
    x: float
    across: float
    length: float
    width: float
    depth: float
    slope: float = 1.0
    x0: float = 0.0
    x1: float | None = None

    @property
    def _upright(self) -> bool:
        return self.face in ("front", "back")

    @property
    def size(self) -> tuple[float, float]:
        span = (self.bar.length if self.x1 is None else self.x1) - self.x0
        return span, self.bar.thickness if self._upright else self.bar.width

    def patch(self, a: Array, b: Array) -> Patch:
        tall = self.size[1]
        # seen from outside with x to the right: up the picture is +y on top, +z in front, -y below, -z behind
        across = b - np.float32(tall / 2)
        x, v = np.broadcast_arrays((a + np.float32(self.x0))[None, :], across[:, None])
        section = self.bar.section
        skin = (section.half_width_at if self._upright else section.half_thickness_at)(across)[:, None]
        out = np.maximum(np.abs(x - np.float32(self.x)) - self.length / 2, np.abs(v - np.float32(self.across)) - self.width / 2)
        ground = np.float32(self.depth) - np.maximum(out, 0) / np.float32(self.slope)
        full = np.float32((self.bar.width if self._upright else self.bar.thickness) / 2)
        level = np.minimum(skin, full - np.maximum(ground, 0))
        level = np.maximum(level, -skin)
        cover = ((np.abs(v) <= tall / 2) & (x <= self.bar.length)).astype(np.float32)
        lean = np.gradient(level, axis=0) / (b[1] - b[0]) if len(b) > 1 else np.zeros_like(level)
        slope = np.clip(0.5 * lean, -0.7, 0.7).astype(np.float32)
        sign = -1.0 if self.face in ("bottom", "back") else 1.0
        if self.face in ("top", "bottom"):
            return Patch(x.copy(), np.float32(sign) * v, (np.float32(sign) * level).astype(np.float32), cover, slope_y=slope)
        return Patch(x.copy(), (np.float32(-sign) * level).astype(np.float32), np.float32(sign) * v, cover, slope_y=slope)


@dataclass(frozen=True)
class SkinView(View):
    """The long surface of the bar unrolled: x to the right, round the section up the picture from (+y, z = 0) over the top.

    `ring`: corners (y, z) of the section, closed, as the solid has them.
    """

    bar: Bar
    ring: NDArray[np.float64]

    @cached_property
    def _walk(self) -> NDArray[np.float64]:
        return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(self.ring, axis=0).T))])

    @property
    def size(self) -> tuple[float, float]:
        return self.bar.length, float(self._walk[-1])

    def patch(self, a: Array, b: Array) -> Patch:
        y, z = (np.interp(b, self._walk, self.ring[:, i]).astype(np.float32) for i in (0, 1))
        x, ys = np.broadcast_arrays(a[None, :], y[:, None])
        return Patch(x.copy(), ys.copy(), np.broadcast_to(z[:, None], x.shape).copy(), np.ones(x.shape, np.float32))


@dataclass(frozen=True)
class BladeSectionView(View):
    """The blade cut across at station x (turned by `turn` degrees about its own up): right face to the right, edge down."""

    placed: Placed
    x: float
    turn: float = 0.0

    @cached_property
    def _span(self) -> tuple[float, float, float]:
        """(edge y, spine y, half width of the view) at x."""
        geometry = self.placed.geometry
        at = np.array([np.clip(self.x, 0, geometry.length)])
        reach = geometry.bar_thickness / 2 / max(0.1, abs(float(np.cos(np.deg2rad(self.turn)))))
        return float(geometry.curves.edge(at)[0]), float(geometry.curves.spine(at)[0]), 1.05 * reach

    @property
    def size(self) -> tuple[float, float]:
        low, high, half = self._span
        return 2 * half, max(high - low, 0.1) * 1.04

    @property
    def middle(self) -> float:
        """y of the view's middle in the blade's frame, mm."""
        low, high, _ = self._span
        return low - 0.02 * (high - low) + self.size[1] / 2

    def patch(self, a: Array, b: Array) -> Patch:
        geometry = self.placed.geometry
        low, _, half = self._span
        t = np.deg2rad(self.turn)
        side = (a - np.float32(half)).astype(np.float64)
        x = np.clip(self.x + side * np.sin(t), 0, geometry.length)
        z = side * np.cos(t)
        y = b.astype(np.float64) + low - 0.02 * (self._span[1] - low)
        edge, spine = geometry.curves.edge(x), geometry.curves.spine(x)
        h = y[:, None] - edge
        inside = np.clip(h, 0, np.maximum(spine - edge, 1e-6))
        faces = geometry.faces(x[None, :], inside)
        xs, zs = np.broadcast_to(x, h.shape), np.broadcast_to(z, h.shape)
        pixel = float(abs(a[1] - a[0])) if len(a) > 1 else 0.1
        cover = soft(np.minimum(np.minimum(faces.right - zs, zs - faces.left), np.minimum(h, spine - edge - h)), pixel)
        bx, by, bz = self.placed.inside_bar(xs, inside, np.clip(zs, faces.left, faces.right), faces)
        bar = self.placed.bar
        np.clip(bz, -bar.thickness / 2, bar.thickness / 2, out=bz)
        return Patch(bx.astype(np.float32), by.astype(np.float32), bz.astype(np.float32), cover.astype(np.float32))
