"""Carbon across a pile of layers, heat after heat: a column of cells, solved by finite volumes.

One line through the layers, outer face to outer face. Carbon runs down differences of f C (its activity
counted in plain iron), so that across a joint f C is alike and C may jump. The column is squeezed, cut and
piled as the bar is; cells move with the steel. Derived and tested in docs/physics.md#column.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import floor, inf, sqrt

import numpy as np
from numpy.typing import NDArray

from varistrat.core.laws.carbon import FROM, diffusivity, reach

Floats = NDArray[np.float64]
MAX_CELLS = 6000
MAX_COLUMN_LAYERS = 1500
"""A pile of more is told by fewer, see Column.told_by_fewer: in 30 mm they are 20 um thick then, which carbon evens out within seconds."""
EACH = 12
"""Layers that every piece of a pile keeps at the least."""
MOST_LAYERS = 1e15
"""Far more than there are atoms across a bar: counting ends there."""
NOTHING = 1e-9
"""Of the height: thinner than an atom in any bar."""
CELLS = (4, 32)
"""Fewest and most cells of one layer."""
GROWS = 1.4
"""Each cell that much thicker than its neighbour towards a joint."""
GAMMA = 2 - sqrt(2)
"""Where the trapezoidal part of a TR-BDF2 step ends: the two parts then share one matrix; L-stable, second order."""
LEAST = 0.02
"""mm of a line that are never ground or burnt away: there must be something to tell of."""
SKIN = 1.3
"""Times sqrt(4 D t): where a skin ends (99 % of the carbon lies deeper than 1.8 of it, 90 % than 1.2)."""
STEPS = 24
"""Time steps in a heat, growing from its start."""


@dataclass(frozen=True)
class Column:
    """Cells from the bottom up. width: mm; carbon: weight %; factor: activity factor; layer: number of the layer each lies in.

    steels: key of the steel of each layer; origin: which layer of the first pile each was. together: layers of the bar that each of them
    stands for, on the whole; least, usual: how thick the thinnest and the middle one of those are, mm, where they are more than one.
    """

    width: Floats
    carbon: Floats
    factor: Floats
    layer: NDArray[np.intp]
    steels: tuple[str, ...]
    origin: tuple[int, ...]
    together: float = 1.0
    least: float = inf
    usual: float = 0.0

    @classmethod
    def of(
        cls, layers: Sequence[tuple[str, float]], carbon: Sequence[float], factor: Sequence[float], cells: int | None = None
    ) -> "Column":
        """From (steel, thickness mm) with the carbon and activity factor of each, bottom first."""
        n = cells or int(np.clip(MAX_CELLS // (2 * len(layers)), *CELLS))
        shape = _graded(n)
        return cls(
            np.concatenate([t * shape for _, t in layers]),
            np.repeat(np.asarray(carbon, float), n),
            np.repeat(np.asarray(factor, float), n),
            np.repeat(np.arange(len(layers)), n),
            tuple(s for s, _ in layers),
            tuple(range(len(layers))),
        )

    @property
    def height(self) -> float:
        """mm."""
        return float(self.width.sum())

    @property
    def middles(self) -> Floats:
        """Heights of the cells' middles above the bottom, mm."""
        return np.cumsum(self.width) - self.width / 2

    def amount(self) -> float:
        """Carbon in the column, % mm: kept by every heat with closed faces."""
        return float((self.width * self.carbon).sum())

    def thickness(self) -> Floats:
        """Of each layer, mm."""
        return _sums(self.layer, self.width, len(self.steels))

    def layer_carbon(self) -> Floats:
        """Mean of each layer, %."""
        return _sums(self.layer, self.width * self.carbon, len(self.steels)) / np.maximum(self.thickness(), 1e-12)

    def by_steel(self) -> dict[str, tuple[float, float, float]]:
        """(least, mean, most) carbon of each steel, %."""
        out = {}
        keys = np.array(self.steels)[self.layer]
        for key in dict.fromkeys(self.steels):
            here = keys == key
            out[key] = (
                float(self.carbon[here].min()),
                float(np.average(self.carbon[here], weights=self.width[here])),
                float(self.carbon[here].max()),
            )
        return out

    def squeezed(self, by: float) -> "Column":
        """Every layer `by` times as thick: drawn out, welded down."""
        return replace(self, width=self.width * by, least=self.least * by, usual=self.usual * by)

    def turned_over(self) -> "Column":
        """Top to bottom."""
        last = len(self.steels) - 1
        return replace(
            self,
            width=self.width[::-1],
            carbon=self.carbon[::-1],
            factor=self.factor[::-1],
            layer=(last - self.layer)[::-1],
            steels=self.steels[::-1],
            origin=self.origin[::-1],
        )

    def ground(self, bottom: float, top: float) -> "Column":
        """So many mm off the bottom and the top; never all of it (LEAST is left)."""
        whole = self.height
        most = max(0.0, (whole - LEAST) / 2)
        bottom, top = min(bottom, most), min(top, most)
        edges = np.concatenate([[0.0], np.cumsum(self.width)])
        low, high = np.maximum(edges[:-1], bottom), np.minimum(edges[1:], whole - top)
        left = high - low > 1e-12 * whole
        layer = self.layer[left]
        first, last = int(layer[0]), int(layer[-1])
        return replace(
            self,
            width=(high - low)[left],
            carbon=self.carbon[left],
            factor=self.factor[left],
            layer=layer - first,
            steels=self.steels[first : last + 1],
            origin=self.origin[first : last + 1],
        )

    def piled(self, others: Sequence["Column"]) -> "Column":
        """This one with the others on top of it, in order; a very tall pile is told by fewer layers."""
        parts = [self, *others]
        if sum(len(p.steels) for p in parts) > MAX_COLUMN_LAYERS:
            # each by itself first: hundreds alike are done once, and what is piled stays short
            fewer = {id(p): p.told_by_fewer(max(EACH, MAX_COLUMN_LAYERS // len(parts))) for p in parts}
            parts = [fewer[id(p)] for p in parts]
        counts = np.cumsum([0] + [len(p.steels) for p in parts])
        column = Column(
            np.concatenate([p.width for p in parts]),
            np.concatenate([p.carbon for p in parts]),
            np.concatenate([p.factor for p in parts]),
            np.concatenate([p.layer + c for p, c in zip(parts, counts, strict=False)]),
            tuple(s for p in parts for s in p.steels),
            tuple(o for p in parts for o in p.origin),
            sum(p.layers for p in parts) / float(counts[-1]),
            min(p.thinnest for p in parts),
            float(np.average([p.median for p in parts], weights=[p.layers for p in parts])),
        )
        return column.told_by_fewer()._coarser()

    @property
    def layers(self) -> float:
        """Of the bar, all that are told of; no more than MOST_LAYERS."""
        return min(self.together * len(self.steels), MOST_LAYERS)

    @property
    def thinnest(self) -> float:
        """The thinnest layer of the bar, mm."""
        return float(self.thickness().min()) if self.together == 1 else self.least

    @property
    def median(self) -> float:
        """Thickness of the middle one of the bar's layers by thickness, mm."""
        return float(np.median(self.thickness())) if self.together == 1 else self.usual

    def told_by_fewer(self, most: int | None = None) -> "Column":
        """`most` layers (MAX_COLUMN_LAYERS) or fewer: those of one steel that lie close together are told as one as thick as all of them.

        Height, volume and carbon of every steel are kept, and where they are to within a few layers; both outermost stay as they are
        unless they are next to nothing.
        """
        n, most = len(self.steels), most or MAX_COLUMN_LAYERS
        if n <= most:
            return self
        steels = {key: i for i, key in enumerate(dict.fromkeys(self.steels))}
        steel = np.array([steels[key] for key in self.steels])
        thickness, among = self.thickness(), 4
        first_stays, last_stays = thickness[[0, -1]] > NOTHING * self.height
        while True:
            block = (np.arange(n) - first_stays) // among
            block[-1] = n if last_stays else block[-1]
            _, first, group = np.unique(block * len(steels) + steel, return_index=True, return_inverse=True)
            # as few as there are steels, and both outermost
            if len(first) <= most or among > n:
                break
            among *= 2
        # in the order in which they first come up the pile
        order = np.argsort(first)
        group, first = np.argsort(order)[group], first[order]
        width = _sums(group, thickness)
        carbon = _sums(group, thickness * self.layer_carbon()) / width
        cells = CELLS[0]
        return Column(
            np.outer(width, _graded(cells)).ravel(),
            np.repeat(carbon, cells),
            np.repeat(self.factor[np.searchsorted(self.layer, first)], cells),
            np.repeat(np.arange(len(first)), cells),
            tuple(self.steels[i] for i in first),
            tuple(self.origin[i] for i in first),
            self.layers / len(first),
            self.thinnest,
            self.median,
        )

    def _coarser(self) -> "Column":
        """Fewer cells, the carbon of each layer kept: neighbours within a layer are joined two by two."""
        column = self
        while len(column.width) > MAX_CELLS:
            place = np.arange(len(column.width)) - np.searchsorted(column.layer, column.layer)
            size = np.bincount(column.layer)[column.layer]
            group_start = (place % 2 == 0) | (size <= CELLS[0])
            if group_start.all():
                break
            group = np.cumsum(group_start) - 1
            width = _sums(group, column.width)
            column = replace(
                column,
                width=width,
                carbon=_sums(group, column.width * column.carbon) / width,
                factor=column.factor[group_start],
                layer=column.layer[group_start],
            )
        return column

    def heated(
        self,
        celsius: float,
        minutes: float,
        heats: int = 1,
        open_bottom: float | None = None,
        open_top: float | None = None,
        deeper: float = 1.0,
    ) -> "Column":
        """After so many heats of so many minutes each at this temperature, worked out as one long one.

        open_bottom, open_top: mm of metal that scale eats off that face in each heat (0: none), its skin at no carbon; None: closed.
        deeper: by how much the skin of an open face is deeper than the bare law's (skin.depth_factor).
        """
        last = self
        for _, now in self.while_heated(celsius, minutes, heats, open_bottom, open_top, deeper):
            last = now
        return last

    def while_heated(
        self,
        celsius: float,
        minutes: float,
        heats: int = 1,
        open_bottom: float | None = None,
        open_top: float | None = None,
        deeper: float = 1.0,
    ) -> Iterator[tuple[float, "Column"]]:
        """(minutes so far, the column then), ever farther apart; nothing when it is too cold for carbon to move. See `heated`."""
        if celsius < FROM or minutes <= 0 or heats < 1:
            return
        column = self
        ends = minutes * heats * np.linspace(0, 1, STEPS + 1) ** 2
        for before, now in pairwise(ends):
            within = SKIN * reach(now, celsius) * max(deeper, 1.0) if deeper != 1.0 else 0.0
            column = column._step(celsius, 60 * (now - before), open_bottom is not None, open_top is not None, deeper, within)
            eaten = _eaten(now / minutes) - _eaten(before / minutes)
            if open_bottom or open_top:
                column = column.ground((open_bottom or 0) * eaten, (open_top or 0) * eaten)
            yield now, column

    def _step(self, celsius: float, seconds: float, bottom: bool, top: bool, deeper: float = 1.0, within: float = 0.0) -> "Column":
        """One TR-BDF2 step of d(C)/dt = d/dx (D/f d(f C)/dx), diffusivity of the carbon at its start.

        A skin `deeper` by a factor is one of a diffusivity greater by its square, `within` so many mm of an open face, fading out from
        there.
        """
        h, f = self.width * 1e-3, self.factor
        d = np.asarray(diffusivity(self.carbon, celsius))
        if within > 0 and (bottom or top):
            far = np.minimum(self.middles if bottom else np.inf, self.height - self.middles if top else np.inf)
            d = d * (1 + (deeper**2 - 1) * np.clip(2 - far / within, 0, 1))
        resist = h * f / (2 * d)
        link = np.zeros(len(h) + 1)
        link[1:-1] = 1 / (resist[1:] + resist[:-1])
        link[0], link[-1] = (1 / resist[0] if bottom else 0.0), (1 / resist[-1] if top else 0.0)
        # A u with u = f C; rows scaled by 1/h
        across, centre = link[1:-1], -(link[:-1] + link[1:])
        part = GAMMA * seconds / 2
        # symmetric and positive definite, the same for both parts: factorised once
        solve = _tridiagonal(h / f - part * centre, -part * across)
        u = self.carbon * f
        flow = centre * u
        flow[:-1] += across * u[1:]
        flow[1:] += across * u[:-1]
        middle = solve(h / f * u + part * flow)
        a = 1 / (GAMMA * (2 - GAMMA))
        b = (1 - GAMMA) ** 2 / (GAMMA * (2 - GAMMA))
        after = solve(h / f * (a * middle - b * u))
        return replace(self, carbon=np.maximum(after / f, 0.0))


def _tridiagonal(diagonal: Floats, beside: Floats) -> Callable[[Floats], Floats]:
    """Solves a symmetric positive definite tridiagonal system for any right-hand side (LAPACK pttrf, pttrs): the wrapped banded solver
    spends as long on its checks as on the work."""
    if len(diagonal) == 1:
        return lambda right: right / diagonal
    from scipy.linalg.lapack import dpttrf, dpttrs

    d, e, _ = dpttrf(diagonal, beside)

    def solve(right: Floats) -> Floats:
        out: Floats = dpttrs(d, e, right)[0]
        return out

    return solve


def _eaten(heats: float) -> float:
    """Metal gone to scale after so many heats (the last perhaps not over), in heats: as the root of time in each, afresh once it is knocked
    off."""
    whole = floor(heats + 1e-9)
    return whole + sqrt(max(0.0, heats - whole))


def _sums(group: NDArray[np.intp], value: Floats, n: int = 0) -> Floats:
    return np.bincount(group, value, n).astype(np.float64)


def _graded(n: int) -> Floats:
    """Shares of a layer's cells: thin at its faces, thick in its middle."""
    side = GROWS ** np.minimum(np.arange(n), np.arange(n)[::-1]).clip(max=8)
    return side / side.sum()
