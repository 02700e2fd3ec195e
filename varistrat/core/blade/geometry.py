"""The blade in millimetres: where its faces are, and how far its layers have moved."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade import grinds
from varistrat.core.blade.model import Along, Blade, Grind, Taper
from varistrat.core.blade.outline import Curves, curves
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding


def along(value: Along, x: Array) -> Array:
    """A number or [[x, value]] at x: linear between, held beyond."""
    if isinstance(value, float | int):
        return np.full_like(x, float(value))
    pairs = np.array(value, float)
    return np.interp(x, pairs[:, 0], pairs[:, 1]).astype(x.dtype)


def taper(value: float | Taper, x: Array, length: float) -> Array:
    if isinstance(value, float | int):
        return np.full_like(x, float(value))
    return np.interp(x, [0, length / 2, length], [value.heel, value.mid, value.tip]).astype(x.dtype)


@dataclass(frozen=True)
class Faces:
    """At points (x, h): right and left face, forged thickness t_f, layer shift m (offset + warp); mm."""

    right: Array
    left: Array
    forged: Array
    layers: Array

    @property
    def thickness(self) -> Array:
        return self.right - self.left

    @property
    def ground_middle(self) -> Array:
        return (self.right + self.left) / 2


@dataclass(frozen=True)
class Geometry:
    """A blade and the thickness of the bar it comes from (mm)."""

    blade: Blade
    bar_thickness: float

    @classmethod
    def of(cls, blade: Blade, bar_thickness: float | None = None) -> "Geometry":
        """Raises InputError when no bar thickness is known."""
        found = bar_thickness if bar_thickness is not None else blade.forging.bar_thickness
        if found is None:
            if blade.forging.share < 1:
                raise InputError.at("forging.bar_thickness", "the bar's thickness is missing", "give it in mm")
            found = max(blade.spine_thickness.heel, blade.spine_thickness.mid)
        geometry = cls(blade, found)
        geometry.curves  # noqa: B018  refuses a bad outline here, not in a worker
        return geometry

    @cached_property
    def curves(self) -> Curves:
        return curves(self.blade.outline)

    @property
    def length(self) -> float:
        return self.curves.length

    def height(self, x: Array) -> Array:
        return self.curves.spine(x) - self.curves.edge(x)

    def faces(self, x: Array, h: Array) -> Faces:
        """Faces at stations x (n,) or (n, 1) and heights h above the edge, broadcast; mm.

        z_R = t_f/2 - a (t_f - t_right), z_L = -t_f/2 + (1 - a)(t_f - t_left), both moved by
        -uneven/2; layers: m = offset t_f + dip + 4 cup r (1 - r) + tan(twist)(h - H/2), r = h/H.
        Derived in docs/physics.md#blade.
        """
        blade, errors = self.blade, self.blade.errors
        height = np.maximum(self.height(x), 1e-9)
        spine = taper(blade.spine_thickness, x, self.length)
        right = grinds.thickness(blade.grind.right, h, height, spine)
        left = right if blade.grind.left == blade.grind.right else grinds.thickness(blade.grind.left, h, height, spine)
        forged = self._forged(x, h / height, (right + left) / 2)
        share = blade.grind.share_right
        slide = along(errors.uneven, x) / 2
        r = h / height
        warp = along(errors.dip, x) + 4 * along(errors.cup, x) * r * (1 - r)
        warp = warp + np.tan(np.deg2rad(along(errors.twist, x))) * (h - height / 2)
        return Faces(
            right=forged / 2 - share * (forged - right) - slide,
            left=-forged / 2 + (1 - share) * (forged - left) - slide,
            forged=forged,
            layers=along(errors.core_offset, x) * forged + warp,
        )

    def _forged(self, x: Array, u: Array, finished: Array) -> Array:
        """t_f: the bar's thickness, the forged blank's, or the shape between them."""
        forging = self.blade.forging
        if forging.share == 0:
            return np.full_like(finished, self.bar_thickness)
        if forging.allowance is not None:
            blank = finished + 2 * forging.allowance
        else:
            assert forging.edge_thickness is not None and forging.spine_thickness is not None
            edge = taper(forging.edge_thickness, x, self.length)
            blank = edge + (taper(forging.spine_thickness, x, self.length) - edge) * u
        return (1 - forging.share) * self.bar_thickness + forging.share * blank

    def checks(self) -> list[Finding]:
        """Not enough steel, and grinds that undercut themselves."""
        x = np.linspace(0, self.length, 81)[:-1, None]
        h = np.linspace(0, 1, 41) * self.height(x)
        f = self.faces(x, h)
        warp = f.layers - along(self.blade.errors.core_offset, x) * f.forged
        spare = f.forged - 2 * self.blade.forging.skin - 2 * np.abs(warp - f.ground_middle) - f.thickness
        found = []
        if (worst := float(spare.min())) < -1e-9:
            at = float(np.broadcast_to(x, spare.shape).flat[int(spare.argmin())])
            found.append(
                Finding(
                    "not_enough_steel",
                    "stop",
                    "There is not enough steel for this blade.",
                    f"At {at:.0f} mm from the heel it is {-worst:.2f} mm too thin: {self.bar_thickness:.4g} mm of bar, less skin and "
                    "warp, against the finished thickness.",
                    "Start from a thicker bar, or finish the blade thinner.",
                    field="spine_thickness",
                    value=-worst,
                    limit=0.0,
                    unit="mm",
                )
            )
        for side, grind in (("right", self.blade.grind.right), ("left", self.blade.grind.left)):
            found += self._hollow_check(side, grind)
        return found

    def _hollow_check(self, side: str, grind: Grind) -> list[Finding]:
        if grind.kind != "hollow" or grind.wheel_radius is None:
            return []
        top = float(self.height(np.array([0.0]))[0])
        top = min(grind.height or top, top)
        need = top**2 / max(self.blade.spine_thickness.heel - grind.edge_thickness, 1e-9)
        if grind.wheel_radius >= need:
            return []
        return [
            Finding(
                "hollow_too_deep",
                "care",
                f"The {side} hollow is thinner above the edge than at it.",
                f"A bevel {top:.4g} mm high needs a wheel of {need:.0f} mm radius or more; this is {grind.wheel_radius:g} mm.",
                "Use a larger wheel or a lower bevel.",
                field=f"grind.{side}.wheel_radius",
                value=grind.wheel_radius,
                limit=need,
                unit="mm",
            )
        ]
