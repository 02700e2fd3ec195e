"""The bar seen from a corner, with its pattern on every face: the still picture of the 3-D view."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property
from varistrat.core.pattern.cuts import Plane
from varistrat.core.pattern.views import Patch, View

LIGHT = np.array([0.35, -0.45, 0.82]) / np.linalg.norm([0.35, -0.45, 0.82])


@dataclass(frozen=True)
class SolidView(View):
    """A stretch x0..x1 of the bar from afar, without perspective.

    yaw: degrees the eye stands round from the front (-y) towards the far end; pitch: above it. `cut`: what lies on
    the side its normal points to is taken away, so that the section shows.
    """

    bar: Bar
    yaw: float = 35.0
    pitch: float = 30.0
    cut: Plane | None = None
    x0: float = 0.0
    x1: float | None = None

    @property
    def _span(self) -> tuple[float, float]:
        return self.x0, self.bar.length if self.x1 is None else self.x1

    @cached_property
    def _eye(self) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """(right, up, into the picture), unit vectors."""
        yaw, pitch = np.deg2rad([self.yaw, self.pitch])
        into = np.array([-np.sin(yaw) * np.cos(pitch), np.cos(yaw) * np.cos(pitch), -np.sin(pitch)])
        right = np.array([np.cos(yaw), np.sin(yaw), 0.0])
        return right, np.cross(right, into), into

    @cached_property
    def _planes(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Outward normals (m, 3) and offsets (m,) of every face: inside is n . p <= c."""
        ring = self.bar.section.ring()
        edge = np.diff(ring, axis=0)
        sides = np.column_stack([np.zeros(len(edge)), edge[:, 1], -edge[:, 0]])
        sides /= np.linalg.norm(sides, axis=1)[:, None]
        start, end = self._span
        normals = [*sides, np.array([-1.0, 0, 0]), np.array([1.0, 0, 0])]
        offsets = [*(sides[:, 1:] * ring[:-1]).sum(axis=1), -start, end]
        if self.cut:
            normals.append(self.cut.axes[2])
            offsets.append(float(self.cut.axes[2] @ (self.cut.x, 0, 0)))
        return np.array(normals), np.array(offsets)

    @cached_property
    def _frame(self) -> tuple[Array, Array]:
        right, up, _ = self._eye
        ring = self.bar.section.ring()
        ends = np.array([[x, y, z] for x in self._span for y, z in ring])
        flat = ends @ np.array([right, up]).T
        return flat.min(axis=0), flat.max(axis=0)

    @property
    def size(self) -> tuple[float, float]:
        low, high = self._frame
        return float(high[0] - low[0]), float(high[1] - low[1])

    def patch(self, a: Array, b: Array) -> Patch:
        right, up, into = self._eye
        low, _ = self._frame
        u, v = np.broadcast_arrays((a + low[0])[None, :], (b + low[1])[:, None])
        start = [u * right[i] + v * up[i] for i in range(3)]
        enter, leave = np.full(u.shape, -np.inf), np.full(u.shape, np.inf)
        shade = np.zeros(u.shape)
        for n, c in zip(*self._planes, strict=True):
            ahead = float(n @ into)
            gap = c - sum(n[i] * start[i] for i in range(3))
            if abs(ahead) < 1e-12:
                leave[gap < 0] = -np.inf
                continue
            t = gap / ahead
            if ahead < 0:
                later = t > enter
                enter[later], shade[later] = t[later], max(0.0, float(n @ LIGHT))
            else:
                np.minimum(leave, t, out=leave)
        hit = enter < leave
        t = np.where(hit, enter, 0.0)
        x, y, z = ((start[i] + t * into[i]).astype(np.float32) for i in range(3))
        np.clip(x, *self._span, out=x)
        return Patch(x, y, z, hit.astype(np.float32), gloom=((1 - shade) * 0.95).astype(np.float32), glint=np.zeros(u.shape, np.float32))
