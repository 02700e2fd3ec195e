"""Where a blade lies in its bar: turning points of the blade into points of the bar.

Sides: `tip_end` end = the tip points to the bar's +x, `edge_side` front = the edge to its -y,
`right_face` top = the right face to its +z. Steel is turned, never mirrored, so any two
decide the third; one left out follows from the others (edge front, right face top if both are
free). x, y: where the blade's origin (heel, y = 0) lies in the bar's frame; left out, the heel
is flush with the bar's end and the blade lies midway across. angle: about the bar's +z.
"""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Faces, Geometry
from varistrat.core.blade.model import Place
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding
from varistrat.core.limits import MIN_MM


@dataclass(frozen=True)
class Placed:
    """A blade laid on its bar."""

    geometry: Geometry
    bar: Bar
    signs: tuple[int, int, int]
    x: float
    y: float
    angle: float

    @classmethod
    def of(cls, geometry: Geometry, bar: Bar) -> "Placed":
        place = geometry.blade.place
        if bar.section.form != "rectangle":
            raise InputError.at(
                "recipe", f"a blade is cut from a rectangular bar, this one ends {bar.form_word}", "square or draw it flat at the end"
            )
        sx, sy, sz = _signs(place)
        low, high = geometry.curves.span()
        x = place.x if place.x is not None else (0.0 if sx > 0 else bar.length)
        y = place.y if place.y is not None else -sy * (low + high) / 2
        return cls(geometry, bar, (sx, sy, sz), x, y, float(np.deg2rad(place.angle)))

    def to_bar(self, x: Array, y: Array, z: Array) -> tuple[Array, Array, Array]:
        """Blade points (z already relative to the bar's own middle) as bar points."""
        sx, sy, sz = self.signs
        cos, sin = float(np.cos(self.angle)), float(np.sin(self.angle))
        bx, by = x * sx, y * sy
        return self.x + bx * cos - by * sin, self.y + bx * sin + by * cos, z * sz

    def inside_bar(self, x: Array, h: Array, z: Array, faces: Faces) -> tuple[Array, Array, Array]:
        """Blade points at station x, height h above the edge and side z, as points of the bar.

        The layers have moved by faces.layers and the forged blade is faces.forged thick where the
        bar is T: Z = T (z - m) / t_f.
        """
        bz = (z - faces.layers) * (self.bar.thickness / np.maximum(faces.forged, MIN_MM))
        return self.to_bar(*np.broadcast_arrays(x, self.geometry.curves.edge(x) + h, bz))

    def checks(self) -> list[Finding]:
        x = np.linspace(0, self.geometry.length, 121)
        worst, name = 0.0, ""
        for y in (self.geometry.curves.edge(x), self.geometry.curves.spine(x)):
            bx, by, _ = self.to_bar(x, y, np.zeros_like(x))
            over = {
                "start": float((-bx).max()), "far end": float((bx - self.bar.length).max()),
                "front": float((-by).max() - self.bar.width / 2), "back": float(by.max() - self.bar.width / 2),
            }  # fmt: skip
            side = max(over, key=lambda k: over[k])
            if over[side] > worst:
                worst, name = over[side], side
        if worst <= 1e-6:
            return []
        return [
            Finding(
                "blade_off_bar",
                "stop",
                f"The blade runs off the {name} of its bar by {worst:.1f} mm.",
                f"The bar is {self.bar.length:.0f} x {self.bar.width:.4g} mm; the blade {self.geometry.length:.4g} mm long and "
                f"{np.ptp(self.geometry.curves.span()):.4g} mm high.",
                "Start with more steel, draw it wider or longer, or make the blade smaller.",
                field="outline",
                value=worst,
                limit=0.0,
                unit="mm",
            )
        ]


def _signs(place: Place) -> tuple[int, int, int]:
    sx = {"end": 1, "start": -1, None: 0}[place.tip_end]
    sy = {"front": 1, "back": -1, None: 0}[place.edge_side]
    sz = {"top": 1, "bottom": -1, None: 0}[place.right_face]
    if not sx:
        sy, sz = sy or 1, sz or 1
        sx = sy * sz
    elif not sy:
        sz = sz or 1
        sy = sx * sz
    elif not sz:
        sz = sx * sy
    if sx * sy * sz != 1:
        raise InputError.at(
            "place.right_face",
            "edge, tip and right face so placed would mirror the steel",
            "leave one of the three out; it follows from the others",
        )
    return sx, sy, sz
