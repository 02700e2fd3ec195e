"""A sheath of leather folded over the spine: its piece, welt and stitches, from the blade's own outline."""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.design.worked import Worked

PITCH = 4.5
"""mm from stitch to stitch."""
MOUTH = 12.0
"""mm that the throat stands out over the heel, on the handle."""
FINE = 0.5


@dataclass(frozen=True)
class Sheath:
    """All in mm, x from the heel towards the tip, y from the fold down towards the edge. half: outline of one half, (N, 2) from the mouth
    round the tip to the fold; stitch: places of the stitches, (M, 2); welt: inner border of the welt, (K, 2): the blade's edge as it lies
    there. length, width: of the whole piece, unfolded; stitches: how many."""

    half: Array
    stitch: Array
    welt: Array
    length: float
    width: float

    @property
    def stitches(self) -> int:
        """How many."""
        return len(self.stitch)


def lower(x: Array, px: Array, py: Array, reach: float) -> Array:
    """How far down a border lies that keeps `reach` from a curve everywhere: max over its points of y + sqrt(reach^2 - (x - px)^2).

    x: (N,); px, py: (M,) points of the curve, y down, closer together than a tenth of the reach. (N,), -inf where no point reaches.
    """
    away = reach**2 - (x[:, None] - px[None, :]) ** 2
    down = np.where(away >= 0, py[None, :] + np.sqrt(np.maximum(away, 0)), -np.inf)
    return np.asarray(down.max(axis=1), float)


def sheath_of(worked: Worked) -> Sheath:
    """The fold lies along the highest of the spine, half the blade's thickness and the leather's turn above it.

    Raises InputError when there is no blade.
    """
    geometry, plan = worked.blade.geometry, worked.document.finish.fit_up
    curves = geometry.curves
    x = np.arange(0.0, geometry.length + FINE, FINE).clip(max=geometry.length)
    edge, spine = curves.edge(x), curves.spine(x)
    turn = float(geometry.blade.spine_thickness.most) / 2 + plan.leather / 2
    fold = float(np.max(spine)) + turn
    depth = fold - edge
    # the tip's point belongs to the edge as well
    px, py = np.append(x, geometry.length), np.append(depth, fold - float(curves.spine(np.array([geometry.length]))[0]))
    outer, middle = plan.welt + plan.seam, plan.welt + plan.seam / 2
    half = _border(px, py, outer, geometry.length)
    path = _border(px, py, middle, geometry.length)
    run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(path, axis=0).T))])
    at = np.arange(PITCH, run[-1] - PITCH / 2, PITCH)
    stitch = np.column_stack([np.interp(at, run, path[:, 0]), np.interp(at, run, path[:, 1])])
    stitch = stitch[stitch[:, 1] > plan.seam / 2]
    length = MOUTH + geometry.length + outer
    return Sheath(half, stitch, np.column_stack([px, py]), length, 2 * float(half[:, 1].max()))


def _border(px: Array, py: Array, reach: float, length: float) -> Array:
    """From the mouth along the edge and round the tip to the fold."""
    # close where it turns round the tip
    turn = length + reach * np.sin(np.linspace(0, np.pi / 2, 60))
    xs = np.concatenate([[-MOUTH], np.arange(0.0, length, FINE), turn])
    ys = lower(np.maximum(xs, 0.0), px, py, reach)
    keep = np.isfinite(ys)
    xs, ys = xs[keep], ys[keep]
    return np.column_stack([np.append(xs, xs[-1]), np.append(np.maximum(ys, 0.0), 0.0)])
