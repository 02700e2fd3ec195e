"""The cross-section of a bar, and the map from one section form to another.

All sections share one disc. A point of any section has two coordinates that
forging from one form to another keeps: the share `u` of the area inside the
curve through it (0 at the centre, 1 on the skin), and the angle share, kept here
as an angle `a` = 2 pi (share of the area swept from the +y ray), in radians.

Between them, for a section scaled to unit area and square aspect with outline
R(t), the curve holding the share u is r^2 = u [(1-u)/pi + u R(t)^2]: a circle at
the centre, the outline at u = 1. Derived in docs/physics.md#section.
"""

import threading
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property

Form = Literal["rectangle", "diamond", "octagon", "round"]

_C = 1 / np.pi


@dataclass(frozen=True)
class _Outline:
    """A regular polygon of unit area (sides = 0: the disc). `phase` turns face 0 off the +y ray."""

    sides: int
    phase: float
    fill: float
    """Area over width x thickness."""

    @cached_property
    def sector(self) -> float:
        return 2 * np.pi / self.sides

    @cached_property
    def rho(self) -> float:
        """Square of the inradius at unit area: 1 / (n tan(pi/n))."""
        return 1 / (self.sides * np.tan(np.pi / self.sides))


_OUTLINES: dict[Form, _Outline] = {
    "rectangle": _Outline(4, 0.0, 1.0),
    "diamond": _Outline(4, np.pi / 4, 0.5),
    "octagon": _Outline(8, 0.0, 2 * (np.sqrt(2) - 1)),
    "round": _Outline(0, 0.0, np.pi / 4),
}


class _Scratch(threading.local):
    """Arrays to work in, a set for each thread: made anew for every block they cost as much as what is done in them."""

    MOST = 1 << 17
    APART = 272
    """Each begins so many places off the others' pages: arrays that lie alike in the cache push one another out."""

    def __init__(self) -> None:
        self._kept: dict[tuple[int, np.dtype[Any]], Array] = {}

    def like(self, a: Array, count: int) -> list[Array]:
        """`count` arrays of the shape and type of `a`, whatever in them; until the next call."""
        if a.ndim != 1 or a.size > self.MOST:
            return [np.empty_like(a) for _ in range(count)]
        out = []
        for i in range(count):
            held = self._kept.get((i, a.dtype))
            if held is None or held.size < a.size:
                begins = i * self.APART
                held = self._kept[(i, a.dtype)] = np.empty(a.size + begins, a.dtype)[begins:]
            out.append(held[: a.size])
        return out


_scratch = _Scratch()


@dataclass(frozen=True)
class Section:
    """Form and outer sizes in mm. Diamond: corner to corner; octagon: across flats."""

    form: Form
    width: float
    thickness: float

    @property
    def area(self) -> float:
        """mm2."""
        return _OUTLINES[self.form].fill * self.width * self.thickness

    @property
    def equal(self) -> bool:
        """Width and thickness alike (1e-6 relative): a square, a true round..."""
        return abs(self.width - self.thickness) <= 1e-6 * max(self.width, self.thickness)

    @property
    def circumradius(self) -> float:
        """Centre to the furthest point, mm."""
        half = max(self.width, self.thickness) / 2
        if self.form == "rectangle":
            return float(np.hypot(self.width, self.thickness) / 2)
        return half / float(np.cos(np.pi / 8)) if self.form == "octagon" else half

    @property
    def inradius(self) -> float:
        """Centre to the nearest face, mm."""
        if self.form == "diamond":
            return float(self.width * self.thickness / (2 * np.hypot(self.width, self.thickness)))
        return min(self.width, self.thickness) / 2

    @classmethod
    def of_area(cls, form: Form, area: float, aspect: float = 1.0) -> "Section":
        """The section of this form holding `area` mm2, `aspect` = width / thickness."""
        thickness = float(np.sqrt(area / (_OUTLINES[form].fill * aspect)))
        return cls(form, thickness * aspect, thickness)

    def peeled(self, skin: float) -> "Section":
        """`skin` mm taken off every face, square to it (round and stretched octagon: off both radii).

        The result may be empty or negative; the caller checks.
        """
        if self.form == "diamond":
            keep = 1 - skin / self.inradius
            return replace(self, width=self.width * keep, thickness=self.thickness * keep)
        return replace(self, width=self.width - 2 * skin, thickness=self.thickness - 2 * skin)

    def holds(self, y: Array, z: Array, slack: float = 0.0) -> Array:
        """Mask of the points inside or on the outline, `slack` mm generous."""
        w, t = self.width / 2 + slack, self.thickness / 2 + slack
        ay, az = np.abs(y), np.abs(z)
        if self.form == "round":
            return (y / w) ** 2 + (z / t) ** 2 <= 1
        if self.form == "diamond":
            return ay / w + az / t <= 1 + slack / self.inradius
        inside = (ay <= w) & (az <= t)
        if self.form == "octagon":
            inside &= ay / w + az / t <= np.sqrt(2) * (1 + slack / self.inradius)
        return inside

    def ring(self, round_sides: int = 48) -> Array:
        """Corners (y, z) of the outline, closed, from the +y ray over the top; a round as a polygon. (n, 2)"""
        w, t = self.width / 2, self.thickness / 2
        if self.form == "rectangle":
            return np.array([[w, 0], [w, t], [-w, t], [-w, -t], [w, -t], [w, 0]])
        if self.form == "diamond":
            return np.array([[w, 0], [0, t], [-w, 0], [0, -t], [w, 0]])
        if self.form == "octagon":
            k = np.tan(np.pi / 8)
            quarter = [(1.0, k), (k, 1.0), (-k, 1.0), (-1.0, k)]
            corners = [(1.0, 0.0), *quarter, *((-y, -z) for y, z in quarter), (1.0, 0.0)]
            return np.array(corners) * (w, t)
        angle = np.linspace(0, 2 * np.pi, round_sides + 1)
        return np.column_stack([w * np.cos(angle), t * np.sin(angle)])

    def half_width_at(self, z: Array) -> Array:
        """Centre to surface along y at height z, mm; 0 beyond top and bottom."""
        return self._reach(z, self.width, self.thickness)

    def half_thickness_at(self, y: Array) -> Array:
        """Centre to surface along z at y, mm; 0 beyond front and back."""
        return self._reach(y, self.thickness, self.width)

    def _reach(self, at: Array, along: float, across: float) -> Array:
        """Every form is alike in y and z but for its two sizes."""
        w, r = along / 2, np.minimum(np.abs(at) * (2 / across), 1)
        if self.form == "round":
            out: Array = w * np.sqrt(1 - r * r)
        elif self.form == "diamond":
            out = w * (1 - r)
        elif self.form == "octagon":
            out = w * np.minimum(1, np.sqrt(2) - r)
        else:
            out = np.full_like(at, w)
        return out

    def shares(self, y: Array, z: Array, by_y: float = 1.0, by_z: float = 1.0) -> tuple[Array, Array]:
        """(u, a) of the points (by_y y, by_z z) of this section; new arrays of the same dtype. Passes over the arrays are what it costs."""
        outline = _OUTLINES[self.form]
        unit = 1 / np.sqrt(outline.fill)
        q, pz = y * float(unit * by_y / self.width), z * float(unit * by_z / self.thickness)
        if not outline.sides:
            a = np.arctan2(pz, q)
            q *= q
            pz *= pz
            q += pz
            q *= float(np.pi)
            return np.minimum(q, 1, out=q), a
        a, t, root = _scratch.like(q, 3)
        np.arctan2(pz, q, out=a)
        q *= q
        pz *= pz
        q += pz
        _in_sector(a, outline, t)
        tan = np.tan(t, out=pz)
        # u = 2 q / (c + sqrt(c^2 + 4 q (R^2 - c))), R^2 = rho (1 + tan^2)
        np.multiply(tan, tan, out=root)
        root *= float(outline.rho)
        root += float(outline.rho - _C)
        root *= q
        root += float(_C * _C / 4)
        np.maximum(root, 0, out=root)
        np.sqrt(root, out=root)
        root += float(_C / 2)
        u = np.divide(q, root, out=q)
        np.minimum(u, 1, out=u)
        # a moves by u (2 pi rho tan t - 2 t): within its own sector
        tan *= float(2 * np.pi * outline.rho)
        tan -= t
        tan -= t
        tan *= u
        tan += a
        return u, tan

    def from_shares(self, u: Array, a: Array) -> tuple[Array, Array]:
        """The inverse of `shares`: (y, z) in mm; new arrays of the same dtype."""
        outline = _OUTLINES[self.form]
        wide, flat = float(np.sqrt(outline.fill) * self.width), float(self.thickness / self.width)
        if not outline.sides:
            r = np.sqrt(u * float(_C))
            t = a
        else:
            t, target, *work = _scratch.like(u, 8)
            r = work[0]
            _in_sector(a, outline, target)
            _solve_angle(u, target, outline, t, *work)
            np.tan(t, out=r)
            r *= r
            r *= float(outline.rho)
            r += float(outline.rho - _C)
            r *= u
            r += float(_C)
            r *= u
            np.sqrt(r, out=r)
            t -= target
            t += a
        r *= wide
        y = np.cos(t)
        y *= r
        z = np.sin(t)
        z *= r
        if flat != 1.0:
            z *= flat
        return y, z


def _in_sector(angle: Array, outline: _Outline, k: Array) -> None:
    """Angle from the middle of its face, into `k`."""
    np.multiply(angle, float(1 / outline.sector), out=k)
    if outline.phase:
        k -= float(outline.phase / outline.sector)
    np.rint(k, out=k)
    k *= float(outline.sector)
    if outline.phase:
        k += float(outline.phase)
    np.subtract(angle, k, out=k)


def _solve_angle(u: Array, target: Array, outline: _Outline, t: Array, *work: Array) -> None:
    """Into `t`: (1 - 2u) t + 2 pi u rho tan t = target, monotone in t. work: six arrays like it.

    The start follows the true slope at the face's middle and is exact at its corners, with a bend in between fitted once (0.01 rad at
    the worst); one round of Halley's method leaves 2e-7 rad, two 1e-15.
    """
    lu, straight, tan, f, rise, steep = work
    half = outline.sector / 2
    lift = float(2 * np.pi * outline.rho)
    w, bend, slope = tan, f, rise
    np.multiply(target, float(1 / half), out=w)
    w *= w
    # 1 + u w (1.388 w - 1.785)
    np.multiply(w, 1.388, out=bend)
    bend -= 1.785
    bend *= w
    bend *= u
    bend += 1
    # the slope at the middle is 1 + u (lift - 2)
    np.multiply(u, lift - 2, out=slope)
    w -= 1
    w *= bend
    w *= slope
    slope += 1
    w /= slope
    w += 1
    np.multiply(w, target, out=t)
    np.multiply(u, lift, out=lu)
    np.multiply(u, -2, out=straight)
    straight += 1
    for _ in range(1 if u.dtype == np.float32 else 2):
        np.tan(t, out=tan)
        np.multiply(straight, t, out=f)
        f += np.multiply(lu, tan, out=rise)
        f -= target
        # df/dt = straight + lu (1 + tan^2), half of its own slope: lu (1 + tan^2) tan
        np.multiply(tan, tan, out=rise)
        rise += 1
        rise *= lu
        np.add(rise, straight, out=steep)
        rise *= tan
        rise *= f
        rise /= steep
        steep -= rise
        f /= steep
        t -= f
