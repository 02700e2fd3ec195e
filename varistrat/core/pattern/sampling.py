"""Sampling the pattern: the place on the axis of all piles, and how much of it a pixel sees."""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.trace import BLOCK, Trace


@dataclass
class Sampled:
    """place: on the axis of all piles; seam: signed mm of finished bar to the nearest joint, None if there are none."""

    place: Array
    seam: Array | None


def sample(trace: Trace, x: Array, y: Array, z: Array, seams: bool = True, where: Array | None = None) -> Sampled:
    """Every point's place, and how far its joints are; arrays (rows, cols), kept. Those that are not `where` (bool) stay 0."""
    if where is not None and not where.all():
        part = sample(trace, x[where], y[where], z[where], seams)
        return Sampled(_spread(part.place, where), None if part.seam is None else _spread(part.seam, where))
    flat = [np.ascontiguousarray(v).ravel() for v in (x, y, z)]
    place: Array = np.empty(flat[0].size, flat[0].dtype)
    watch = seams and trace.has_seams
    seam = np.empty_like(place) if watch else None
    for start in range(0, place.size, BLOCK):
        bx, by, bz = (v[start : start + BLOCK].copy() for v in flat)
        p = Points(bx, by, bz)
        if watch:
            p.watch_seams(trace.seam_reach)
        place[start : start + BLOCK] = trace.place(p)
        if seam is not None and p.seam is not None:
            seam[start : start + BLOCK] = p.seam
    return Sampled(place.reshape(x.shape), None if seam is None else seam.reshape(x.shape))


def _spread(values: Array, where: Array) -> Array:
    out = np.zeros(where.shape, values.dtype)
    out[where] = values
    return out


def footprint(s: Array) -> Array:
    """How much of the axis (or of a distance) one sample spans: the pixel's box along the steepest way.

    Differences to both neighbours are taken and the smaller kept, so that a joint, where s
    jumps, does not look like a thousand layers.
    """
    across, down = _least_change(s, 1), _least_change(s, 0)
    across *= across
    down *= down
    across += down
    np.sqrt(across, out=across)
    across *= np.float32(1.06)
    return across


def _least_change(s: Array, axis: int) -> Array:
    if s.shape[axis] < 2:
        return np.zeros_like(s)
    # both run along the rows of memory, whichever axis is asked for
    t, out = (s, np.empty_like(s)) if axis == 0 else (s.T, np.empty_like(s).T)
    change = np.subtract(t[1:], t[:-1], order="K")
    np.abs(change, out=change)
    out[0], out[-1] = change[0], change[-1]
    np.minimum(change[:-1], change[1:], out=out[1:-1])
    return out if axis == 0 else out.T


LINE = 0.10
"""A weld between bars shows this wide, mm of finished bar; indicative."""


def seam_cover(seam: Array) -> Array:
    """Share of each sample that a joint's line covers; at least a sample wide, so that it does not break up."""
    wide = np.maximum(footprint(seam), np.float32(1e-6))
    half = np.maximum(wide * np.float32(0.5), np.float32(LINE / 2))
    span = np.minimum(seam + 0.5 * wide, half) - np.maximum(seam - 0.5 * wide, -half)
    out: Array = np.clip(span / wide, 0, 1)
    return out


def magnification(trace: Trace, count: int = 400) -> Array:
    """Typical mm of each pile in a mm of the finished bar, square to its layers: medians, (piles,)."""
    cloud, step = trace.probes(max(count, 120 * trace.own_piles))
    centre = trace.place(Points(*(c.copy() for c in cloud)))
    place, slope = _slope(centre, step)
    pile = trace.row.pile_of(place)
    out = np.ones(len(trace.row.piles))
    for i in range(trace.own_piles):
        mine = slope[pile == i]
        if mine.size:
            out[i] = max(float(np.median(mine)) * trace.row.step[i], 1e-6)
    return out


def gradient_at(trace: Trace, x: Array, y: Array, z: Array) -> tuple[Array, Array]:
    """(place, |grad s| in mm of pile per mm) at the points (n,); one-sided differences both ways, the lesser kept."""
    cloud, step = trace.around(x, y, z)
    place, slope = _slope(trace.place(Points(*cloud)), step)
    return place, slope * trace.row.step[trace.row.pile_of(place)]


def _slope(place: Array, step: float) -> tuple[Array, Array]:
    """From the places of points and their six neighbours: those of the points, and cells a mm there."""
    s = place.reshape(7, -1)
    change = np.minimum(np.abs(s[1:4] - s[0]), np.abs(s[4:7] - s[0])) / step
    return s[0], np.sqrt((change**2).sum(axis=0))
