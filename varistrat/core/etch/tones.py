"""From steels to what the etch leaves along the starting stack: brightness and depth.

The finished face is a function of one number at each point, its place on the axis of all
piles. Here that function is tabled with its integral, so that the mean over any stretch
(what one pixel sees) is two look-ups: exact averaging in linear light, no moire.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.points import Array
from varistrat.core.bars.trace import Trace

_TONE = np.array([0, 1, 1.5, 3, 4.5, 5.5, 7, 7.5, 9, 10])
_LIGHT = np.array([0.042, 0.055, 0.060, 0.105, 0.170, 0.235, 0.50, 0.60, 0.68, 0.76])
ETCH_MINUTES = 20.0
FADE = 0.045
"""A layer boundary blurs over this width in the finished bar, mm; indicative: nickel hardly moves."""
SKIN = 0.035
"""Bright line left where two faces were welded, mm; indicative."""


def reflectance(tone: float) -> float:
    """Share of light (linear) sent back by an etched steel of tone 0..10; indicative."""
    return float(np.interp(tone, _TONE, _LIGHT))


@dataclass(frozen=True)
class EtchTable:
    """Running integrals of brightness and depth (um) along the axis of all piles, a value a cell.

    ends: first and last place of each pile on the axis; owner: the pile of each cell (None: one pile only).
    """

    light: Array
    depth: Array
    ends: Array
    owner: NDArray[np.int16] | None
    mean_light: float
    mean_depth: float
    """The running sums are kept about these, or float32 would lose the fine end of a long table."""

    @classmethod
    def of(
        cls,
        trace: Trace,
        magnification: Array | float,
        tones: Mapping[str, float] | None = None,
        skin: float = SKIN,
        depths: Mapping[str, float] | None = None,
    ) -> "EtchTable":
        """`magnification`: mm of each pile in a mm of finished bar (or one for all); `tones`: in place of the steels' own; skin:
        of a weld, mm; depths: um of each steel, in place of those of ETCH_MINUTES."""
        steels = trace.forged.shop.steels
        tone = {key: (tones or {}).get(key, steels[key].shade) for key in trace.steels}
        deep = {key: (depths or {}).get(key, steels[key].etch_rate * ETCH_MINUTES) for key in trace.steels}
        row = trace.row
        grown_by = np.broadcast_to(magnification, len(row.piles))
        light, depth = np.empty(row.size), np.empty(row.size)
        for pile, base, cells, step, grown in zip(row.piles, row.base, row.cells, row.step, grown_by, strict=True):
            knots, ls, ds = _profile(pile.layers, tone, deep, float(grown), pile.welded, skin)
            s = (np.arange(cells) + 0.5) * step
            light[base : base + cells] = np.interp(s, knots, ls)
            depth[base : base + cells] = np.interp(s, knots, ds)
        running = [np.concatenate([[0.0], np.cumsum(v)]).astype(np.float32) for v in (light - light.mean(), depth - depth.mean())]
        ends = np.array([row.base, row.base + row.cells], np.float32)
        alone = len(row.piles) == 1 + len(trace.steels) and not trace.may_settle
        owner = None if alone else np.repeat(np.arange(len(row.piles), dtype=np.int16), row.cells)
        return cls(running[0], running[1], ends, owner, float(light.mean()), float(depth.mean()))

    def mean(self, place: Array, width: Array, deep: bool = True) -> tuple[Array, Array]:
        """Mean brightness and depth over place -+ width/2 cells, float32, never past the ends of the pile.

        Not `deep`: brightness only, the depth left at its mean.
        """
        half = np.maximum(width, 4)
        half *= 0.5
        low, high = place - half, place + half
        if self.owner is None:
            np.clip(low, 0, None, out=low)
            np.minimum(high, self.ends[1, 0], out=high)
        else:
            pile = self.owner.take(place.astype(np.int32), mode="clip")
            np.maximum(low, self.ends[0].take(pile), out=low)
            np.minimum(high, self.ends[1].take(pile), out=high)
        a, b = _Spot.of(low, len(self.light)), _Spot.of(high, len(self.light))
        high -= low
        scale = np.reciprocal(np.maximum(high, 1, out=high), out=high)

        def between(table: Array, mean: float) -> Array:
            out = b.read(table)
            out -= a.read(table)
            out *= scale
            out += np.float32(mean)
            return out

        light = between(self.light, self.mean_light)
        return light, between(self.depth, self.mean_depth) if deep else np.broadcast_to(np.float32(self.mean_depth), light.shape)


@dataclass
class _Spot:
    """Places in a table: whole index and the part beyond it."""

    index: Array
    part: Array

    @classmethod
    def of(cls, place: Array, size: int) -> "_Spot":
        # the machine's own integers, and `clip` below: half the time of a look-up that may fail
        index = place.astype(np.intp)
        np.clip(index, 0, size - 2, out=index)
        # in the places' own precision: float32 less int32 would be float64, and all that follows
        return cls(index, place - index.astype(place.dtype))

    def read(self, table: Array) -> Array:
        low = table.take(self.index, mode="clip")
        out = table[1:].take(self.index, mode="clip")
        out -= low
        out *= self.part
        out += low
        return out


def _profile(
    stack: Sequence[tuple[str, float]],
    tone: Mapping[str, float],
    deep: Mapping[str, float],
    magnification: float,
    welded: bool,
    weld_skin: float = SKIN,
) -> tuple[Array, Array, Array]:
    """Knots of brightness and depth up the stack: soft boundaries, and bright skins outside where pieces were welded."""
    light = [reflectance(tone[k]) for k, _ in stack]
    depth = [deep[k] for k, _ in stack]
    thick = [t for _, t in stack]
    skin = min(max(weld_skin, 1e-4) * magnification, 0.12 * thick[0], 0.12 * thick[-1])
    skin_light = [max(v, 0.5 * v + 0.16) if welded else v for v in (light[0], light[-1])]
    knots, ls, ds = [0.0, skin], [skin_light[0], light[0]], [depth[0]] * 2
    at = 0.0
    for i in range(1, len(stack)):
        at += thick[i - 1]
        fade = min(FADE * magnification, 0.2 * thick[i - 1], 0.2 * thick[i]) / 2
        knots += [at - fade, at + fade]
        ls += [light[i - 1], light[i]]
        ds += [depth[i - 1], depth[i]]
    top = at + thick[-1]
    knots += [top - skin, top]
    return np.array(knots), np.array([*ls, light[-1], skin_light[1]]), np.array([*ds, depth[-1], depth[-1]])
