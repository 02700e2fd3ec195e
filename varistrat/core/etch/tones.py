"""From steels to what the etch leaves along the starting stack: brightness and depth.

The finished face is a function of one number at each point, the height in the starting
stack. Here that function is tabled with its integral, so that the mean over any stretch
(what one pixel sees) is two look-ups: exact averaging in linear light, no moire.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.bars.trace import Trace
from varistrat.core.steels import STEELS

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
    """Running integrals of brightness and depth (um) over the height s in the starting stack."""

    step: float
    top: float
    light: Array
    depth: Array

    @classmethod
    def of(cls, trace: Trace, magnification: float, tones: Mapping[str, float] | None = None) -> "EtchTable":
        """`magnification`: mm of starting stack in a mm of finished bar; `tones`: the shop's own."""
        tone = {key: (tones or {}).get(key, STEELS[key].tone) for key in trace.steels}
        stack = trace.forged.start.layer_stack()
        top = sum(t for _, t in stack)
        count = int(np.clip(64 * len(stack), 4096, 65536))
        step = top / count
        welded = any(stage.step.joins for stage in trace.forged.stages)
        knots, light, depth = _profile(stack, tone, magnification, welded)
        s = (np.arange(count) + 0.5) * step
        fine = [np.interp(s, knots, v) for v in (light, depth)]
        # settled steels lie beyond the top, a unit apart: see Trace.layer_at
        beyond = np.arange(int(np.ceil((len(trace.steels) + 1.5) / step))) * step
        which = np.clip(np.rint(beyond - 1), 0, len(trace.steels) - 1).astype(int)
        for i, values in enumerate(
            (
                np.array([reflectance(tone[k]) for k in trace.steels]),
                np.array([STEELS[k].etch_rate * ETCH_MINUTES for k in trace.steels]),
            )
        ):
            fine[i] = np.concatenate([fine[i], values[which]])
        running = [np.concatenate([[0.0], np.cumsum(f) * step]).astype(np.float32) for f in fine]
        return cls(step, top, running[0], running[1])

    def mean(self, s: Array, width: Array) -> tuple[Array, Array]:
        """Mean brightness and depth over s -+ width/2, float32; `width` at least a table step."""
        half = np.maximum(width, 4 * self.step)
        half *= 0.5
        low, high = s - half, s + half
        settled = s > self.top + 0.25
        if settled.any():
            low[settled], high[settled] = s[settled] - 0.2, s[settled] + 0.2
        np.clip(low, 0, None, out=low)
        np.copyto(high, np.float32(self.top), where=(high > self.top) & ~settled)
        a, b = _Spot.of(low, self.step, len(self.light)), _Spot.of(high, self.step, len(self.light))
        scale = 1 / np.maximum(high - low, self.step)
        return (b.read(self.light) - a.read(self.light)) * scale, (b.read(self.depth) - a.read(self.depth)) * scale


@dataclass
class _Spot:
    """Places in a table: whole index and the part beyond it."""

    index: Array
    part: Array

    @classmethod
    def of(cls, s: Array, step: float, size: int) -> "_Spot":
        place = s * np.float32(1 / step)
        index = place.astype(np.int32)
        np.clip(index, 0, size - 2, out=index)
        place -= index
        return cls(index, place)

    def read(self, table: Array) -> Array:
        low = table.take(self.index)
        return low + (table.take(self.index + 1) - low) * self.part


def _profile(stack: list[tuple[str, float]], tone: Mapping[str, float], magnification: float, welded: bool) -> tuple[Array, Array, Array]:
    """Knots of brightness and depth up the stack: soft boundaries, and bright skins outside where pieces were welded."""
    light = [reflectance(tone[k]) for k, _ in stack]
    depth = [STEELS[k].etch_rate * ETCH_MINUTES for k, _ in stack]
    thick = [t for _, t in stack]
    skin = min(SKIN * magnification, 0.12 * thick[0], 0.12 * thick[-1])
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
