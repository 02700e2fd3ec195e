"""Counting layers, and finding the thinnest one that the finished blade shows."""

import numpy as np

from varistrat.core.bars.points import Points
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.cut import Cut
from varistrat.core.pattern.sampling import gradient_at

FIRST, LAST = 2_000, 128_000


def layers_across(trace: Trace) -> int:
    """Layers crossed going up through the bar at the middle of its length, a little off its middle line.

    Like meeting like counts as one. Sampled ever finer until the count stands still; at most
    LAST samples, beyond which layers are far too thin to be layers.
    """
    bar = trace.forged.bar
    count, n = 0, FIRST
    while n <= LAST:
        z = (np.arange(n) + 0.5) / n * bar.thickness - bar.thickness / 2
        y = np.full(n, 0.013 * bar.width)
        x = np.full(n, 0.5037 * bar.length)
        steel = trace.steel_at(trace.pull(Points(x, y, z)))
        found = 1 + int((steel[1:] != steel[:-1]).sum())
        if found == count or (n > FIRST and found < n / 50 and found <= count):
            return found
        count, n = found, n * 4
    return count


def thinnest_layer(cut: Cut, count: int = 1500) -> float | None:
    """Thickness (mm) of the thinnest layers on the blade's faces, square to the layer: the finest 2 %.

    At a point of the face the layer's own thickness in the starting stack is divided by
    |grad s|, the stack passed in a mm of blade. Steel that never was in a stack is left out.
    """
    geometry = cut.placed.geometry
    rng = np.random.default_rng(5)
    x = rng.uniform(0.01, 0.97, count) * geometry.length
    h = rng.uniform(0.02, 0.98, count) * geometry.height(x)
    faces = geometry.faces(x, h)
    side = np.where(rng.random(count) < 0.5, faces.right, faces.left)
    px, py, pz = cut.placed.inside_bar(x, h, side, faces)
    inside = cut.trace.inside(px, py, pz)
    if not inside.any():
        return None
    px, py, pz = px[inside], py[inside], pz[inside]
    s = cut.trace.layer_at(cut.trace.pull(Points(px.copy(), py.copy(), pz.copy())))
    bounds = cut.trace.bounds - cut.trace.bounds[0]
    layer = np.clip(np.searchsorted(bounds, s, side="right") - 1, 0, len(bounds) - 2)
    gradient = gradient_at(cut.trace, px, py, pz)
    good = (gradient > 1e-9) & (s <= bounds[-1])
    if not good.any():
        return None
    return float(np.quantile(np.diff(bounds)[layer[good]] / gradient[good], 0.02))
