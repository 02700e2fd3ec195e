"""Sampling the pattern: the height in the starting stack, and how much of it a pixel sees."""

import numpy as np

from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.trace import BLOCK, Trace


def layer_map(trace: Trace, x: Array, y: Array, z: Array) -> Array:
    """Height in the starting stack (mm from its bottom) of every point; arrays (rows, cols), kept."""
    flat = [np.ascontiguousarray(v).ravel() for v in (x, y, z)]
    out = np.empty(flat[0].size, flat[0].dtype)
    for start in range(0, out.size, BLOCK):
        bx, by, bz = (v[start : start + BLOCK].copy() for v in flat)
        out[start : start + BLOCK] = trace.layer_at(trace.pull(Points(bx, by, bz)))
    return out.reshape(x.shape)


def footprint(s: Array) -> Array:
    """How much of the stack one sample spans, mm: the pixel's box along the steepest way.

    Differences to both neighbours are taken and the smaller kept, so that a joint, where s
    jumps, does not look like a thousand layers.
    """
    return np.hypot(_least_change(s, 1), _least_change(s, 0)) * np.float32(1.06)


def _least_change(s: Array, axis: int) -> Array:
    if s.shape[axis] < 2:
        return np.zeros_like(s)
    change = np.abs(np.diff(s, axis=axis))
    first = [slice(None)] * 2
    last = [slice(None)] * 2
    first[axis], last[axis] = slice(0, 1), slice(-1, None)
    out = np.concatenate([change[tuple(first)], change], axis=axis)
    inner = [slice(None)] * 2
    inner[axis] = slice(0, -1)
    np.minimum(out[tuple(inner)], change, out=out[tuple(inner)])
    return out


def magnification(trace: Trace, count: int = 400) -> float:
    """Typical mm of starting stack in a mm of the finished bar, square to the layers: the median."""
    gradient = layer_gradient(trace, count)
    return float(np.median(gradient)) if gradient.size else 1.0


def layer_gradient(trace: Trace, count: int) -> Array:
    """|grad s| at points spread evenly through the finished bar (joints left out)."""
    bar = trace.forged.bar
    rng = np.random.default_rng(11)
    spread = rng.uniform(-0.48, 0.48, (3, count))
    keep = bar.section.holds(spread[1] * bar.width, spread[2] * bar.thickness)
    centre = np.array([(spread[0] + 0.5) * bar.length, spread[1] * bar.width, spread[2] * bar.thickness])[:, keep]
    return gradient_at(trace, *centre)


def gradient_at(trace: Trace, x: Array, y: Array, z: Array) -> Array:
    """|grad s| (mm of stack per mm) at the points (n,), by one-sided differences both ways, the lesser kept."""
    step = 1e-5 * min(trace.forged.bar.thickness, trace.forged.bar.width)
    points = np.array([x, y, z], float)
    shifts = np.vstack([np.zeros(3), np.eye(3), -np.eye(3)]) * step
    cloud = points[:, None, :] + shifts.T[:, :, None]
    cx, cy, cz = (c.ravel() for c in cloud)
    s = trace.layer_at(trace.pull(Points(cx, cy, cz))).reshape(7, -1)
    change = np.minimum(np.abs(s[1:4] - s[0]), np.abs(s[4:7] - s[0])) / step
    return np.sqrt((change**2).sum(axis=0))
