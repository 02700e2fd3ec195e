"""How much of a blade there is to sand and to etch: exact areas of its true faces, by what kind of place it is."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.points import Array
from varistrat.core.blade import grinds
from varistrat.core.blade.geometry import SIDES, Geometry, Side, taper

STATIONS, HEIGHTS = 240, 120


@dataclass(frozen=True)
class Areas:
    """mm2, both sides together; each place of a face is of one kind only. spine: the strip along the back; tang: its two faces."""

    bevel: float
    flat: float
    ricasso: float
    plunge: float
    swedge: float
    fuller: float
    spine: float
    tang: float

    @property
    def wet(self) -> float:
        """What meets a bath, mm2: both faces and the spine, the tang masked."""
        return self.faces + self.spine

    @property
    def faces(self) -> float:
        """All but spine and tang, mm2."""
        return self.bevel + self.flat + self.ricasso + self.plunge + self.swedge + self.fuller


def areas_of(geometry: Geometry) -> Areas:
    """By the midpoint rule on STATIONS x HEIGHTS cells, each as long and high as it lies: sqrt(1 + z_x^2 + z_h^2) dx dh."""
    n, length = STATIONS, geometry.length
    x = ((np.arange(n) + 0.5) * length / n)[:, None]
    height = geometry.height(x)
    u = (np.arange(HEIGHTS) + 0.5) / HEIGHTS
    h = u * height
    cell = length / n * height / HEIGHTS
    faces = geometry.faces(x, h)
    found = dict.fromkeys(("bevel", "flat", "ricasso", "plunge", "swedge", "fuller"), 0.0)
    for side in SIDES:
        z = faces.right if side == "right" else faces.left
        # u is kept while x moves on a place that does not: dz/dx = z_x|u - z_h dh/dx|u
        z_h = np.gradient(z, u, axis=1) / np.maximum(height, 1e-9)
        z_x = np.gradient(z, x[:, 0], axis=0) - z_h * u * np.gradient(height[:, 0], x[:, 0])[:, None]
        # a step (a shoulder, a swedge's start) is a line, and has no area of its own
        size = cell * np.sqrt(1 + np.minimum(z_x, 3.0) ** 2 + np.minimum(z_h, 3.0) ** 2)
        kinds = _kinds(geometry, side, x, h, height)
        for kind in found:
            found[kind] += float(size[kinds == kind].sum())
    spine = taper(geometry.blade.spine_thickness, x[:, 0], length)
    tang = geometry.blade.tang
    of_tang = 2 * tang.length * (tang.width + tang.end_width) / 2 if tang else 0.0
    return Areas(**found, spine=float(spine.sum() * length / n), tang=of_tang)


def _kinds(geometry: Geometry, side: Side, x: Array, h: Array, height: Array) -> NDArray[np.str_]:
    grind = geometry.blade.grind
    of = grind.right if side == "right" else grind.left
    kinds = np.where(h < geometry.bevel_top(of, height), "bevel", "flat").astype("<U7")
    kinds[np.broadcast_to(x < grind.ricasso + grind.plunge, kinds.shape)] = "plunge"
    kinds[np.broadcast_to(x < grind.ricasso, kinds.shape)] = "ricasso"
    if grind.swedge and grinds.on(grind.swedge.sides, side):
        full = grinds.thickness(of, h, height, taper(geometry.blade.spine_thickness, x, geometry.length))
        kinds[grinds.swedge(grind.swedge, x, h, height, geometry.length, full) < full - 1e-9] = "swedge"
    if grind.fuller and grinds.on(grind.fuller.sides, side):
        kinds[grinds.fuller(grind.fuller, x, h) > 1e-9] = "fuller"
    return kinds
