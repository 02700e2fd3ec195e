"""A bar forged to a blade's outline: which steel of the bar comes to lie where in the blade.

Matching volumes: from the tip back, the blade at x has used up as much steel as the bar from its own
tip back to X; across, the blade up to u has used the share F of the section, so Y lies F of the
way across the bar. Each point's neighbourhood keeps its volume, for any outline. Derived in
docs/physics.md#forging-map.

The bar is reckoned from its heel end: xi from 0 to its length towards the tip, eta from 0 to its width
away from the side where the edge lies.
"""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.point_cut import PointCut
from varistrat.core.limits import MIN_MM

STATIONS, ACROSS = 400, 128
"""Cells of the table along the blade (finer towards the tip) and across it."""


@dataclass(frozen=True)
class Stock:
    """The piece of bar a blade is forged from, mm. `heel`: where the blade's heel would lie if nothing were forged (xi);
    `low`: y of the bar's edge side in the blade's frame if nothing were forged."""

    length: float
    width: float
    thickness: float
    heel: float
    low: float
    fixed_heel: bool
    """The heel stays at `heel` and the bar is cut off where the volume is used up; else the bar's own end becomes the tip."""

    def ends(self, blade: Geometry, xi: Array, end: float) -> tuple[Array, Array]:
        """(eta where the bar begins, width left) at xi, for a bar that ends at `end` with its point cut."""
        cut = point_cut(blade)
        if not cut.length:
            return np.zeros_like(xi), np.full_like(xi, self.width)
        wide = self.width * cut.width(end - xi)
        on_spine = blade.blade.forging.point_cut.side == "spine"
        return (np.zeros_like(xi) if on_spine else self.width - wide), wide


def point_cut(blade: Geometry) -> PointCut:
    """How long the cut at the point was, mm; 0 when the point is only drawn out."""
    said = blade.blade.forging.point_cut
    return PointCut(0.0 if said.side == "none" else said.length)


class ForgeMap:
    """Tables of X and F over the blank; see `bar_point`."""

    def __init__(self, geometry: Geometry, stock: Stock):
        self.geometry, self.stock = geometry, stock
        self.share = geometry.blade.forging.share
        behind = _tang_volume(geometry)
        self.end = stock.length
        if stock.fixed_heel and stock.heel < stock.length:
            self.end = self._cut_off()
        self._lay_out(self.end)
        need = float(self.volume[0]) + behind
        have = self._stock_volume(np.array([0.0 if not stock.fixed_heel else max(stock.heel - self._tang_reach(behind), 0.0)]))[0]
        self.reach = float(point_cut(geometry).reach(np.array(need / (stock.width * stock.thickness))))
        """mm of bar, from its end, that blade and tang use up as forged."""
        self.short = need - have
        """mm3 the bar is short of; negative: what is left over."""
        # too little steel still gives a picture: the blade takes what there is, and a finding says so
        spread = min(1.0, max(have - behind, 1e-6) / float(self.volume[0]))
        self.xi = self._station_of(self.volume * spread)
        self.heel = float(self.xi[0])
        """xi where the blade's heel comes from."""

    def _tang_reach(self, volume: float) -> float:
        return volume / (self.stock.width * self.stock.thickness)

    def _lay_out(self, end: float) -> None:
        """The blank for a bar that ends at `end`: its outline, sections and volumes at the stations."""
        s, stock, geometry = self.share, self.stock, self.geometry
        self.tip = (1 - s) * (end - stock.heel) + s * geometry.length
        v = np.linspace(0, 1, STATIONS + 1)
        q = 1 - (1 - v) ** 2  # finer towards the tip
        self.x = q * self.tip
        begin, wide = stock.ends(geometry, stock.heel + q * (end - stock.heel), end)
        curves, along = geometry.curves, q * geometry.length
        low, high = curves.edge(along), curves.spine(along)
        self.low = (1 - s) * (stock.low + begin) + s * low
        self.tall = np.maximum((1 - s) * wide + s * (high - low), 0)
        u = np.linspace(0, 1, ACROSS + 1)
        thick = self._thickness(self.x[:, None], self.low[:, None] + u * self.tall[:, None])
        steps = (thick[:, 1:] + thick[:, :-1]) / (2 * ACROSS)
        filled = np.concatenate([np.zeros((len(q), 1)), np.cumsum(steps, axis=1)], axis=1)
        self.mean = filled[:, -1]
        self.filled = filled / np.maximum(self.mean, 1e-12)[:, None]
        area = self.tall * self.mean
        # Simpson over each cell of v: dx = 2 (1 - v) tip dv keeps the tip smooth
        weight = area * 2 * (1 - v) * self.tip
        middle = self._area_between(v)
        cells = (weight[:-1] + 4 * middle + weight[1:]) / (6 * STATIONS)
        self.volume = np.concatenate([np.cumsum(cells[::-1])[::-1], [0.0]])

    def _area_between(self, v: Array) -> Array:
        """Area times dx/dv half-way between stations."""
        half = (v[1:] + v[:-1]) / 2
        q = 1 - (1 - half) ** 2
        s, stock, geometry = self.share, self.stock, self.geometry
        begin, wide = stock.ends(geometry, stock.heel + q * (self.end - stock.heel), self.end)
        along = q * geometry.length
        low, high = geometry.curves.edge(along), geometry.curves.spine(along)
        tall = np.maximum((1 - s) * wide + s * (high - low), 0)
        u = (np.arange(ACROSS) + 0.5) / ACROSS
        y = ((1 - s) * (stock.low + begin) + s * low)[:, None] + u * tall[:, None]
        mean = self._thickness((q * self.tip)[:, None], y).mean(axis=1)
        out: Array = tall * mean * 2 * (1 - half) * self.tip
        return out

    def _thickness(self, x: Array, y: Array) -> Array:
        """t_s of the blank at blade points, mm; beyond the blade's own outline as at its rim."""
        geometry = self.geometry
        at = np.clip(x, 0, geometry.length)
        height = np.maximum(geometry.height(at), 1e-9)
        h = np.clip(y - geometry.curves.edge(at), 0, height)
        return np.maximum(geometry.faces(at, h).forged, MIN_MM)

    def _cut_off(self) -> float:
        """xi where the bar must be cut so that the blade's heel comes from `heel`: its steel and the blade's are alike there."""
        low, high = self.stock.heel + 1e-6, self.stock.length
        for _ in range(48):
            middle = (low + high) / 2
            self.end = middle
            self._lay_out(middle)
            if self._stock_volume(np.array([self.stock.heel]))[0] < self.volume[0]:
                low = middle
            else:
                high = middle
        return high

    def _stock_volume(self, xi: Array) -> Array:
        """V_b: the bar's volume from xi to its end, mm3."""
        stock = self.stock
        return stock.thickness * stock.width * point_cut(self.geometry).filled(self.end - xi)

    def _station_of(self, volume: Array) -> Array:
        """xi with that much of the bar beyond it: the inverse of `_stock_volume`."""
        return self.end - point_cut(self.geometry).reach(volume / (self.stock.thickness * self.stock.width))

    def bar_point(self, x: Array, y: Array) -> tuple[Array, Array]:
        """(xi, eta) of blade points; x and y broadcast."""
        v = 1 - np.sqrt(np.clip(1 - x / self.tip, 0, 1))
        cell = v * STATIONS
        i = np.minimum(cell.astype(np.intp), STATIONS - 1)
        f = (cell - i).astype(np.float64)
        low, tall = _mix(self.low, i, f), _mix(self.tall, i, f)
        xi = _mix(self.xi, i, f)
        u = np.clip((y - low) / np.maximum(tall, 1e-9), 0, 1)
        across = u * ACROSS
        j = np.minimum(across.astype(np.intp), ACROSS - 1)
        g = across - j
        i, f = np.broadcast_arrays(i, f)
        table = self.filled
        share = (1 - f) * ((1 - g) * table[i, j] + g * table[i, j + 1]) + f * ((1 - g) * table[i + 1, j] + g * table[i + 1, j + 1])
        begin, wide = self.stock.ends(self.geometry, xi, self.end)
        return xi.astype(x.dtype), (begin + wide * share).astype(y.dtype)

    def outside(self, x: Array, y: Array) -> Array:
        """How far blade points lie off the forged blank, mm; 0 or less: on it."""
        low, high = np.interp(x, self.x, self.low), np.interp(x, self.x, self.low + self.tall)
        out: Array = np.maximum(low - y, y - high)
        return out

    def stretch(self) -> tuple[float, float]:
        """(most a line drawn on the bar is stretched, x in the blade where): the forward map's greatest principal stretch
        in the plane, at half the height, leaving out 1 % of the length at either end."""
        x = np.linspace(0.01, 0.99, 300) * self.geometry.length
        curves = self.geometry.curves
        y = (curves.edge(x) + curves.spine(x)) / 2
        d = 1e-3
        cols = []
        for dx, dy in ((d, 0.0), (0.0, d)):
            a, b = self.bar_point(x + dx, y + dy), self.bar_point(x - dx, y - dy)
            cols.append(np.stack([(a[k] - b[k]) / (2 * d) for k in range(2)], axis=-1))
        pull = np.stack(cols, axis=-1)
        least = np.linalg.svd(pull, compute_uv=False)[:, -1]
        least[self.outside(x, y) > 0] = np.inf
        at = int(np.argmin(least))
        return float(1 / max(float(least[at]), 1e-9)), float(x[at])


def _mix(table: Array, i: Array, f: Array) -> Array:
    out: Array = (1 - f) * table[i] + f * table[i + 1]
    return out


def _tang_volume(geometry: Geometry) -> float:
    tang = geometry.blade.tang
    if not tang:
        return 0.0
    blade = geometry.blade
    spine = blade.spine_thickness.heel
    t = float(geometry.forged(np.array([0.0]), np.array([1.0]), np.array([spine]))[0])
    return t * tang.length * (tang.width + tang.end_width) / 2
