"""What a picture looks at: each view turns places on the picture into points of the bar.

A view's own frame: a to the right, b up, mm, from its lower left corner.
"""

from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.place import Placed


@dataclass
class Patch:
    """Part of a view, laid out: bar points, where there is steel, and how the face leans.

    x, y, z: (rows, cols); cover: share of the sample's square that is steel; slope_y: tilt
    of the face up the picture, radians; glint, gloom: 0..1, light caught and lost at the rims.
    """

    x: Array
    y: Array
    z: Array
    cover: Array
    slope_y: Array | None = None
    glint: Array | None = None
    gloom: Array | None = None


class View(Protocol):
    """What is looked at: its size, and where in the bar each of its pixels lies."""

    @property
    def size(self) -> tuple[float, float]:
        """Width and height of the view, mm."""

    def patch(self, a: Array, b: Array) -> Patch:
        """Points at columns a (n,) and rows b (m,), float32, as (m, n)."""

    @property
    def mark(self) -> str | None:
        """Text that is alike for views of which every patch is alike, so that it may be kept; None where that is not worth while."""
        return None


@dataclass(frozen=True)
class FaceView(View):
    """The bar from +z, ground flat to height z; beyond the flat its own surface still stands lower.

    x to the right, y up. `x0`..`x1`: the stretch shown.
    """

    bar: Bar
    z: float
    x0: float = 0.0
    x1: float | None = None

    @property
    def size(self) -> tuple[float, float]:
        return (self.bar.length if self.x1 is None else self.x1) - self.x0, self.bar.width

    def patch(self, a: Array, b: Array) -> Patch:
        across = b - np.float32(self.bar.width / 2)
        top = self.bar.section.half_thickness_at(across)
        z = np.minimum(top, np.float32(self.z))
        # steel is left at y only while its underside is lower than the grinding
        steel = (-top <= self.z) & (np.abs(across) <= self.bar.width / 2 + 1e-4)
        x, y = np.broadcast_arrays(a[None, :] + np.float32(self.x0), across[:, None])
        cover = (steel[:, None] & (x <= self.bar.length + 1e-3)).astype(np.float32)
        lean = np.gradient(z, across) if len(b) > 1 else np.zeros_like(z)
        slope = np.broadcast_to(np.clip(0.5 * lean, -0.7, 0.7).astype(np.float32)[:, None], x.shape)
        return Patch(x.copy(), y.copy(), np.broadcast_to(z[:, None], x.shape).copy(), cover, slope_y=slope)


@dataclass(frozen=True)
class SideView(View):
    """The bar's own surface seen from -y: x to the right, z up. `x1`: where the stretch shown ends."""

    bar: Bar
    x1: float | None = None

    @property
    def size(self) -> tuple[float, float]:
        return (self.bar.length if self.x1 is None else self.x1), self.bar.thickness

    def patch(self, a: Array, b: Array) -> Patch:
        height = b - np.float32(self.bar.thickness / 2)
        reach = self.bar.section.half_width_at(height)
        x, z = np.broadcast_arrays(a[None, :], height[:, None])
        y = np.broadcast_to(-reach[:, None], x.shape)
        pixel = float(abs(b[1] - b[0])) if len(b) > 1 else 1.0
        cover = np.broadcast_to(soft(np.float32(self.bar.thickness / 2) - np.abs(height), pixel)[:, None], x.shape)
        lean = np.gradient(reach, height) if len(b) > 1 else np.zeros_like(height)
        slope = np.broadcast_to(np.clip(0.5 * lean, -0.7, 0.7)[:, None], x.shape)
        return Patch(x.copy(), y.copy(), z.copy(), cover.copy(), slope_y=slope.astype(np.float32))


@dataclass(frozen=True)
class EndView(View):
    """End grain of the bar cut across at x, seen from its far end: y to the right, z up."""

    bar: Bar
    x: float

    @property
    def size(self) -> tuple[float, float]:
        return self.bar.width, self.bar.thickness

    def patch(self, a: Array, b: Array) -> Patch:
        y, z = np.broadcast_arrays(a[None, :] - np.float32(self.bar.width / 2), b[:, None] - np.float32(self.bar.thickness / 2))
        return Patch(np.full_like(y, self.x), y.copy(), z.copy(), self.bar.section.holds(y, z, 1e-4).astype(np.float32))


@dataclass(frozen=True)
class BladeWindow:
    """A window ground into a blade's face: its middle (station, height above the edge), its flat floor and how deep that lies
    under the finished face; slope: mm out for each mm down. mm."""

    x: float
    h: float
    length: float
    width: float
    depth: float
    slope: float = 4.0

    def off(self, x: Array, h: Array) -> Array:
        """mm taken off at these places."""
        out = np.maximum(np.abs(x - np.float32(self.x)) - self.length / 2, np.abs(h - np.float32(self.h)) - self.width / 2)
        depth: Array = np.maximum(np.float32(self.depth) - np.maximum(out, 0) / np.float32(self.slope), 0)
        return depth


@dataclass(frozen=True)
class BladeView(View):
    """One face of a blade, square on. Right: tip right; left: tip left; edge down in both.

    `book`: the left face turned half about on the page (tip right, edge up), so that both
    faces read heel to tip together, spine against spine. The page turns, steel is not mirrored.
    `ground`: mm taken off each face beyond the finished one: what further grinding would show.
    """

    placed: Placed
    side: Side
    margin: float = 0.0
    book: bool = False
    ground: float = 0.0
    window: BladeWindow | None = None

    @property
    def size(self) -> tuple[float, float]:
        low, high = self.placed.geometry.curves.span()
        return self.placed.geometry.length + 2 * self.margin, high - low + 2 * self.margin

    @property
    def mark(self) -> str | None:
        """While the bar's steps move, the blade mostly stays as it lies in it."""
        return f"{self.placed.mark}|{(self.side, self.margin, self.book, self.ground, self.window)}"

    def patch(self, a: Array, b: Array) -> Patch:
        geometry = self.placed.geometry
        low, high = geometry.curves.span()
        mirror = self.side == "left" and not self.book
        upside = self.side == "left" and self.book
        x = a - np.float32(self.margin)
        y = b - np.float32(self.margin)
        x = np.float32(geometry.length) - x if mirror else x
        y = np.float32(high) - y if upside else y + np.float32(low)
        edge, spine = geometry.curves.edge(x), geometry.curves.spine(x)
        h = y[:, None] - edge
        height = np.maximum(spine - edge, 1e-6)
        pixel = float(abs(a[1] - a[0])) if len(a) > 1 else 1.0
        below = height - h
        cover = soft(np.minimum(h, below), pixel)
        cover *= soft(np.minimum(x, np.float32(geometry.length) - x), pixel)
        inside = np.clip(h, 0, height)
        faces = geometry.faces(x[None, :], inside)
        face = faces.right if self.side == "right" else faces.left
        if self.ground or self.window:
            off = np.full_like(inside, self.ground)
            if self.window:
                np.maximum(off, self.window.off(np.broadcast_to(x[None, :], inside.shape), inside), out=off)
            off = np.minimum(off, faces.thickness / 2)
            face = face - off if self.side == "right" else face + off
        bx, by, bz = self.placed.inside_bar(x[None, :], inside, face, faces)
        bar = self.placed.bar
        slack = max(1e-3, pixel)
        cover *= (bx >= -slack) & (bx <= bar.length + slack) & (np.abs(by) <= bar.width / 2 + slack)
        np.clip(bz, -bar.thickness / 2, bar.thickness / 2, out=bz)
        out = face if self.side == "right" else -face
        slope = np.gradient(out, axis=0) / (b[1] - b[0]) if len(b) > 1 else np.zeros_like(h)
        crown = inside * (0.22 / height) - np.float32(0.099)
        slope += crown if upside else -crown
        return Patch(
            bx,
            by,
            bz,
            cover,
            slope_y=np.clip(slope, -0.5, 0.5, out=slope),
            glint=np.clip(1.5 - h * np.float32(1 / max(pixel, 0.09)), 0, 1),
            gloom=np.clip(1 - below * np.float32(1 / max(2 * pixel, 0.3)), 0, 1),
        )


def soft(distance: Array, pixel: float) -> Array:
    """Share of a pixel inside an edge `distance` mm away: 0 outside, 1 inside, linear over it."""
    out = distance * np.float32(1 / pixel)
    out += np.float32(0.5)
    return np.clip(out, 0, 1, out=out)


@dataclass(frozen=True)
class RimView(View):
    """The blade seen square on its spine (left face up) or its edge (right face up), tip right."""

    placed: Placed
    rim: Literal["spine", "edge"]
    margin: float = 0.0

    @property
    def size(self) -> tuple[float, float]:
        geometry = self.placed.geometry
        return geometry.length + 2 * self.margin, 1.1 * geometry.bar_thickness + 2 * self.margin

    def patch(self, a: Array, b: Array) -> Patch:
        geometry = self.placed.geometry
        x = (a - np.float32(self.margin))[None, :]
        z = (b - np.float32(self.size[1] / 2))[:, None] * np.float32(-1 if self.rim == "spine" else 1)
        at = np.clip(x, 0, np.float32(geometry.length))
        h = geometry.height(at) if self.rim == "spine" else np.zeros_like(at)
        faces = geometry.faces(at, h)
        pixel = float(abs(a[1] - a[0])) if len(a) > 1 else 1.0
        cover = soft(np.minimum(faces.right - z, z - faces.left), pixel) * soft(np.minimum(x, np.float32(geometry.length) - x), pixel)
        xs, hs, zs = np.broadcast_arrays(at, h, np.clip(z, faces.left, faces.right))
        bx, by, bz = self.placed.inside_bar(xs, hs, zs, geometry.faces(xs, hs))
        half = self.placed.bar.thickness / 2
        return Patch(bx.astype(np.float32), by.astype(np.float32), np.clip(bz, -half, half).astype(np.float32), cover.astype(np.float32))
