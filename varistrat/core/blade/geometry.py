"""The blade in millimetres: where its faces are, and how far its layers have moved."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade import grinds
from varistrat.core.blade.model import Along, Blade, Grind, Taper
from varistrat.core.blade.outline import Curves, curves
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

Side = Literal["right", "left"]
SIDES: tuple[Side, Side] = ("right", "left")


GROUND_THROUGH = Code("ground_through", "grind", ("stop",), "The two faces meet {at:.0f} mm from the heel: nothing is left there.")
HOLLOW_TOO_DEEP = Code("hollow_too_deep", "grind", ("care",), "The {side} hollow is thinner above the edge than at it.")
NOT_ENOUGH_STEEL = Code("not_enough_steel", "grind", ("stop",), "There is not enough steel for this blade.")


def along(value: Along, x: Array) -> Array:
    """A number or [[x, value]] at x: linear between, held beyond."""
    if isinstance(value, float | int):
        return np.full_like(x, float(value))
    pairs = np.array(value, float)
    return np.interp(x, pairs[:, 0], pairs[:, 1]).astype(x.dtype)


def taper(value: float | Taper, x: Array, length: float) -> Array:
    """A measure at stations x (mm), straight between heel, middle and tip."""
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
        """Steel between the faces, mm."""
        return self.right - self.left

    @property
    def ground_middle(self) -> Array:
        """Half way between the faces, mm from the blade's middle plane, + right."""
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
        """The outline as ground."""
        return curves(self.blade.outline)

    @property
    def length(self) -> float:
        """Heel to tip, mm."""
        return self.curves.length

    def height(self, x: Array) -> Array:
        """Edge to spine at stations x, mm."""
        return self.curves.spine(x) - self.curves.edge(x)

    def tang(self) -> Array | None:
        """Corners (x, y) of the tang, from the heel's edge side round to its spine side, mm; None without one."""
        tang = self.blade.tang
        if tang is None:
            return None
        at = np.array([0.0])
        middle = float(self.curves.edge(at)[0] + self.curves.spine(at)[0]) / 2
        return np.array(
            [
                [0, middle - tang.width / 2],
                [-tang.length, middle - tang.end_width / 2],
                [-tang.length, middle + tang.end_width / 2],
                [0, middle + tang.width / 2],
            ]
        )

    def faces(self, x: Array, h: Array) -> Faces:
        """Faces at stations x (n,) or (n, 1) and heights h above the edge, broadcast; mm.

        z_R = t_f/2 - a (t_f - t_right), z_L = -t_f/2 + (1 - a)(t_f - t_left), both moved by
        -uneven/2, then fuller and correction off each; layers: m = offset t_f + w (see `warp`).
        Derived in docs/physics.md#blade.
        """
        blade, errors, grind = self.blade, self.blade.errors, self.blade.grind
        height = np.maximum(self.height(x), 1e-9)
        spine = taper(blade.spine_thickness, x, self.length)
        right = self._full("right", x, h, height, spine)
        left = right if self._alike else self._full("left", x, h, height, spine)
        forged = self.forged(x, h / height, (right + left) / 2)
        if errors.edge != 0:
            thicker = along(errors.edge, x)
            right = right + thicker * (1 - np.minimum(h / self.bevel_top(grind.right, height), 1))
            left = left + thicker * (1 - np.minimum(h / self.bevel_top(grind.left, height), 1))
        share = grind.share_right
        slide = along(errors.uneven, x) / 2
        faces = [forged / 2 - share * (forged - right) - slide, forged / 2 - (1 - share) * (forged - left) + slide]
        if grind.fuller or blade.correction.right or blade.correction.left:
            for i, side in enumerate(SIDES):
                faces[i] = faces[i] - self._taken(side, x, h, height)
        return Faces(faces[0], -faces[1], forged, along(errors.core_offset, x) * forged + self.warp(x, h, height))

    @property
    def _alike(self) -> bool:
        grind = self.blade.grind
        return grind.left == grind.right and (grind.swedge is None or grind.swedge.sides == "both")

    def bevel_top(self, grind: Grind, height: Array) -> Array:
        """Height where the bevel ends, mm: never above the spine."""
        return height if grind.height is None else np.maximum(np.minimum(grind.height, height), 1e-9)

    def _full(self, side: Side, x: Array, h: Array, height: Array, spine: Array) -> Array:
        """Full thickness as if both sides were ground like this one: bevel, ricasso and plunge, swedge."""
        grind = self.blade.grind
        full = grinds.thickness(grind.right if side == "right" else grind.left, h, height, spine)
        if grind.ricasso or grind.plunge:
            full = spine - grinds.sweep(x, grind.ricasso, grind.plunge) * (spine - full)
        if grind.swedge and grinds.on(grind.swedge.sides, side):
            full = grinds.swedge(grind.swedge, x, h, height, self.length, full)
        return full

    def _taken(self, side: Side, x: Array, h: Array, height: Array) -> Array:
        """mm off one face beyond its grind: fuller and correction."""
        out = np.zeros(np.broadcast_shapes(x.shape, h.shape), h.dtype)
        cut = self.blade.grind.fuller
        if cut and grinds.on(cut.sides, side):
            out = out + grinds.fuller(cut, x, h)
        rows = getattr(self.blade.correction, side)
        if rows:
            r = h / height
            edge, spine = along([row[:2] for row in rows], x), along([[row[0], row[2]] for row in rows], x)
            out = out + edge * (1 - r) + spine * r
        return out

    def warp(self, x: Array, h: Array, height: Array) -> Array:
        """w: how far the layers stand to the right when ground, mm: dip + bow + 4 cup r (1 - r) + tan(twist)(h - H/2)."""
        errors = self.blade.errors
        r, q = h / height, np.clip(x / self.length, 0, 1)
        warp = along(errors.dip, x) + errors.bow * 4 * q * (1 - q) + 4 * along(errors.cup, x) * r * (1 - r)
        out: Array = warp + np.tan(np.deg2rad(along(errors.twist, x))) * (h - height / 2)
        return out

    def core_share(self, planned: float | Array, x: Array, forged: Array) -> Array:
        """kappa where the blade is forged to `forged`: planned share and its error, times (t_f/T)^-flow; kept within 1 to 98 %."""
        out = planned + along(self.blade.errors.core_share, x)
        if self.blade.errors.flow:
            out = out * np.maximum(forged / self.bar_thickness, 1e-3) ** -self.blade.errors.flow
        return np.clip(out, 0.01, 0.98)

    def forged(self, x: Array, u: Array, finished: Array) -> Array:
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
        warp = self.warp(x, h, self.height(x))
        spare = f.forged - 2 * self.blade.forging.skin - 2 * np.abs(warp - f.ground_middle) - f.thickness
        found = self._nothing_left(x, f.thickness)
        if (worst := float(spare.min())) < -1e-9:
            at = float(np.broadcast_to(x, spare.shape).flat[int(spare.argmin())])
            found.append(
                NOT_ENOUGH_STEEL.found(
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

    def _nothing_left(self, x: Array, thickness: Array) -> list[Finding]:
        """Faces that pass through one another."""
        least = float(thickness.min())
        if least >= -1e-9:
            return []
        at = float(np.broadcast_to(x, thickness.shape).flat[int(thickness.argmin())])
        return [
            GROUND_THROUGH.found(
                f"What is taken off is {-least:.2f} mm more than there is.",
                "Take less off: a shallower fuller or correction, a thicker edge.",
                at=at,
                field="grind",
                value=-least,
                limit=0.0,
                unit="mm",
            )
        ]

    def _hollow_check(self, side: str, grind: Grind) -> list[Finding]:
        if grind.kind != "hollow" or grind.wheel_radius is None:
            return []
        top = float(self.height(np.array([0.0]))[0])
        top = min(grind.height or top, top)
        need = top**2 / max(self.blade.spine_thickness.heel - grind.edge_thickness, 1e-9)
        if grind.wheel_radius >= need:
            return []
        return [
            HOLLOW_TOO_DEEP.found(
                f"A bevel {top:.4g} mm high needs a wheel of {need:.0f} mm radius or more; this is {grind.wheel_radius:g} mm.",
                "Use a larger wheel or a lower bevel.",
                side=side,
                field=f"grind.{side}.wheel_radius",
                value=grind.wheel_radius,
                limit=need,
                unit="mm",
            )
        ]
