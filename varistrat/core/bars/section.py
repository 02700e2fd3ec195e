"""The cross-section of a bar, and the map from one section form to another.

All sections share one disc. A point of any section has two coordinates that
forging from one form to another keeps: the share `u` of the area inside the
curve through it (0 at the heart, 1 on the skin), and the angle share, kept here
as an angle `a` = 2 pi (share of the area swept from the +y ray), in radians.

Between them, for a section scaled to unit area and square aspect with outline
R(t), the curve holding the share u is r^2 = u [(1-u)/pi + u R(t)^2]: a circle at
the heart, the outline at u = 1. Derived in docs/physics.md#section.
"""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np

from varistrat.core.bars.points import Array

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


@dataclass(frozen=True)
class Section:
    """Form and outer sizes in mm. Diamond: corner to corner; octagon: across flats."""

    form: Form
    width: float
    thickness: float

    @property
    def area(self) -> float:
        return _OUTLINES[self.form].fill * self.width * self.thickness

    @property
    def equal(self) -> bool:
        """Width and thickness alike (1e-6 relative): a square, a true round..."""
        return abs(self.width - self.thickness) <= 1e-6 * max(self.width, self.thickness)

    @property
    def circumradius(self) -> float:
        """Heart to the furthest point, mm."""
        half = max(self.width, self.thickness) / 2
        if self.form == "rectangle":
            return float(np.hypot(self.width, self.thickness) / 2)
        return half / float(np.cos(np.pi / 8)) if self.form == "octagon" else half

    @property
    def inradius(self) -> float:
        """Heart to the nearest face, mm."""
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
        """Heart to surface along y at height z, mm; 0 beyond top and bottom."""
        return self._reach(z, self.width, self.thickness)

    def half_thickness_at(self, y: Array) -> Array:
        """Heart to surface along z at y, mm; 0 beyond front and back."""
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

    def shares(self, y: Array, z: Array) -> tuple[Array, Array]:
        """(u, a) of points of this section; new arrays of the same dtype."""
        outline = _OUTLINES[self.form]
        unit = 1 / np.sqrt(outline.fill)
        py, pz = y * float(unit / self.width), z * float(unit / self.thickness)
        q = py * py
        q += pz * pz
        a = np.arctan2(pz, py)
        if not outline.sides:
            q *= float(np.pi)
            return np.minimum(q, 1, out=q), a
        local, k = _to_sector(a, outline)
        tan = np.tan(local)
        excess = tan * tan  # R^2 - c, with R^2 = rho (1 + tan^2)
        excess *= float(outline.rho)
        excess += float(outline.rho - _C)
        root = excess * q
        root *= 4
        root += float(_C * _C)
        np.maximum(root, 0, out=root)
        np.sqrt(root, out=root)
        root += float(_C)
        q *= 2
        u = np.divide(q, root, out=q)
        np.minimum(u, 1, out=u)
        # a = (1 - 2u) t + 2 pi u rho tan t, inside one sector
        tan *= float(2 * np.pi * outline.rho)
        tan -= 2 * local
        tan *= u
        tan += local
        tan += k
        return u, tan

    def from_shares(self, u: Array, a: Array) -> tuple[Array, Array]:
        """The inverse of `shares`: (y, z) in mm; new arrays of the same dtype."""
        outline = _OUTLINES[self.form]
        unit = float(np.sqrt(outline.fill))
        if not outline.sides:
            r = np.sqrt(u * float(_C))
            t = a
        else:
            target, k = _to_sector(a, outline)
            t = _solve_angle(u, target, outline)
            r = np.tan(t)
            r *= r
            r += 1
            r *= float(outline.rho)
            r -= float(_C)
            r *= u
            r += float(_C)
            r *= u
            np.sqrt(r, out=r)
            t += k
        y = np.cos(t)
        y *= r
        y *= unit * self.width
        z = np.sin(t)
        z *= r
        z *= unit * self.thickness
        return y, z


def _to_sector(angle: Array, outline: _Outline) -> tuple[Array, Array]:
    """(angle from the middle of its face, angle of that face's middle)."""
    k = angle - float(outline.phase)
    k *= float(1 / outline.sector)
    np.rint(k, out=k)
    k *= float(outline.sector)
    k += float(outline.phase)
    return angle - k, k


def _solve_angle(u: Array, target: Array, outline: _Outline) -> Array:
    """t with (1 - 2u) t + 2 pi u rho tan t = target: Newton, monotone in t.

    The start follows the true slope at the face's middle and is exact at its corners,
    with a bend in between fitted once; two rounds leave 7e-7 rad, four float64.
    """
    half = outline.sector / 2
    lift = float(2 * np.pi * outline.rho)
    w = target * float(1 / half)
    w *= w
    slope = u * (lift - 2)  # the slope at the middle is 1 + slope
    bend = u * -0.7
    bend -= 0.3
    bend *= w
    bend += 1
    w -= 1
    w *= bend
    w *= slope
    slope += 1
    w /= slope
    w += 1
    t = np.multiply(w, target, out=w)
    lu = lift * u
    straight = 1 - 2 * u
    for _ in range(2 if u.dtype == np.float32 else 4):
        tan = np.tan(t)
        f = straight * t
        f += lu * tan
        f -= target
        tan *= tan
        tan += 1
        tan *= lu
        tan += straight
        f /= tan
        t -= f
    return t
