"""What each grind leaves: the full thickness at a height above the edge.

Each is given as if both sides were ground so; half of it is one side's profile. `top` is
the height where the bevel ends (never above the spine), above it the blade is `spine`
thick. All arrays broadcast; mm.
"""

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.model import Fuller, Grind, Sides, Swedge


def thickness(grind: Grind, h: Array, height: Array, spine: Array) -> Array:
    """Full thickness t_G at height h, where the blade is `height` high and `spine` thick.

    flat: a line from the edge thickness to the spine's at the bevel's top. Others change
    the profile below the top: see `_arc_inside`, `_arc_outside`.
    """
    top = height if grind.height is None else np.minimum(grind.height, height)
    top = np.maximum(top, 1e-9)
    edge = grind.edge_thickness
    r = np.minimum(h / top, 1.0)
    if grind.kind == "flat":
        return edge + (spine - edge) * r
    if grind.kind == "convex":
        half = _arc_inside(np.minimum(h, top), top, spine / 2, np.zeros_like(spine), edge / 2)
    elif grind.kind == "hollow":
        assert grind.wheel_radius is not None
        half = _arc_outside(np.minimum(h, top), top, spine / 2, edge / 2, grind.wheel_radius)
    else:
        assert grind.flat_edge_thickness is not None and grind.band is not None
        flat = grind.flat_edge_thickness
        slope = (spine - flat) / 2 / top
        band = np.minimum(grind.band, top)
        line = flat / 2 + slope * np.minimum(h, top)
        arc = _arc_inside(np.minimum(h, band), band, flat / 2 + slope * band, slope, edge / 2)
        half = np.where(h < band, arc, line)
    return np.where(h >= top, spine, np.maximum(2 * half, 0.0))


def _arc_inside(h: Array, at: Array, p_at: Array, slope: Array, p_edge: float) -> Array:
    """Half thickness on the arc tangent to the profile at height `at`, through p_edge at h = 0.

    With B = (at, p_at), P = (0, p_edge) and n the inward normal, R = |P-B|^2 / (2 (P-B).n),
    centre B + R n. A rounding of nothing (R infinite) is the tangent itself.
    """
    norm = np.sqrt(1 + slope**2)
    bow = (-at * slope - p_edge + p_at) / norm
    safe = np.maximum(bow, 1e-12)
    radius = (at**2 + (p_edge - p_at) ** 2) / (2 * safe)
    centre_h, centre_p = at + radius * slope / norm, p_at - radius / norm
    arc = centre_p + np.sqrt(np.maximum(radius**2 - (h - centre_h) ** 2, 0))
    return np.where(bow > 1e-9, arc, p_at + slope * (h - at))


def _arc_outside(h: Array, top: Array, p_top: Array, p_edge: float, radius: float) -> Array:
    """Half thickness where a wheel of `radius` cuts through both ends of the bevel, below its line.

    A wheel too small to touch both ends (it cannot be) is taken as the smallest that does.
    """
    rise = p_top - p_edge
    chord = np.hypot(top, rise)
    r = np.maximum(radius, chord / 2)
    out = np.sqrt(np.maximum(r**2 - chord**2 / 4, 0))
    centre_h, centre_p = top / 2 - rise / chord * out, (p_top + p_edge) / 2 + top / chord * out
    return centre_p - np.sqrt(np.maximum(r**2 - (h - centre_h) ** 2, 0))


def sweep(x: Array, ricasso: float, plunge: float) -> Array:
    """How much of the bevel is there: 0 in the ricasso, 1 past the plunge; between them a quarter circle, as a wheel's rim leaves it."""
    if plunge <= 0:
        return (x >= ricasso).astype(x.dtype)
    s = np.clip((x - ricasso) / plunge, 0, 1)
    return np.sqrt(1 - (1 - s) ** 2)


def swedge(asked: Swedge, x: Array, h: Array, height: Array, length: float, full: Array) -> Array:
    """Full thickness no more than the swedge leaves: linear from its `thickness` at the spine to `full` at its foot.

    It runs out over its own height at the end nearer the heel.
    """
    begin = np.clip((x - (length - asked.length)) / asked.height, 0, 1)
    up = np.clip((h - (height - asked.height)) / asked.height, 0, 1)
    left = full + (np.minimum(asked.thickness, full) - full) * up
    return full + begin * (left - full)


def fuller(asked: Fuller, x: Array, h: Array) -> Array:
    """mm off one face: a circle's segment `width` wide and `depth` deep; its ends run out as the wheel leaves, over half a width."""
    half = asked.width / 2
    radius = (half**2 + asked.depth**2) / (2 * asked.depth)
    out = np.maximum(np.maximum(asked.start + half - x, x - (asked.end - half)), 0)
    d = np.hypot(out, h - asked.middle)
    return np.maximum(np.sqrt(np.maximum(radius**2 - d**2, 0)) - (radius - asked.depth), 0) * (d < half)


def on(sides: Sides, side: str) -> bool:
    """Whether something meant for `sides` is on this side."""
    return sides in ("both", side)
