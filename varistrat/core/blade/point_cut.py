"""A bar's end cut to a point: how wide it still is near its end, and how much steel lies beyond.

Sawn straight the width would have a corner where the cut begins, and every layer a kink there. A hammer
leaves none: over a ROUND of the cut's length to either side the slope runs out evenly, an arc of radius
2 ROUND p^2 / W to the eye. Derived in docs/physics.md#forging-map.
"""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array

ROUND = 1 / 6
"""Half the length of the rounded corner, as a share of the cut's: a radius of p^2 / (3 W), 0.3 to 0.75 bar widths for cuts
of 1 to 1.5; indicative."""
ROUNDS = 40


@dataclass(frozen=True)
class PointCut:
    """A cut `length` mm long (0: square end). Distances d from the very end, mm; widths as a share of the bar's."""

    length: float

    @property
    def whole(self) -> float:
        """From here on the bar has its full width, mm from the end."""
        return self.length * (1 + ROUND)

    @property
    def lost(self) -> float:
        """How much shorter a square bar of as much steel is, mm: p (1/2 + ROUND^2 / 6)."""
        return self.length * (0.5 + ROUND**2 / 6)

    def width(self, d: Array) -> Array:
        """d/p to the corner; then (p - b + 2b (s - s^2/2))/p with s from 0 to 1 over the 2b of the rounding; then 1."""
        d = np.maximum(d, 0.0)
        if not self.length:
            return (d > 0).astype(float)
        s = np.clip((d / self.length - (1 - ROUND)) / (2 * ROUND), 0, 1)
        straight = np.minimum(d / self.length, 1 - ROUND)
        out: Array = straight + 2 * ROUND * (s - s * s / 2)
        return out

    def filled(self, d: Array) -> Array:
        """The integral of `width` from the end, mm of full bar."""
        d = np.maximum(d, 0.0)
        if not self.length:
            return d
        p, b = self.length, ROUND
        s = np.clip((d / p - (1 - b)) / (2 * b), 0, 1)
        straight = np.minimum(d / p, 1 - b)
        corner = 2 * b * ((1 - b) * s + 2 * b * (s * s / 2 - s**3 / 6))
        out: Array = p * (straight**2 / 2 + corner) + np.maximum(d - self.whole, 0.0)
        return out

    def reach(self, filled: Array) -> Array:
        """d with so much filled: the inverse of `filled`. In the rounding, where it is a cubic, by halving."""
        filled = np.maximum(filled, 0.0)
        if not self.length:
            return filled
        p, b = self.length, ROUND
        low, high = np.full_like(filled, p * (1 - b)), np.full_like(filled, self.whole)
        for _ in range(ROUNDS):
            middle = (low + high) / 2
            less = self.filled(middle) < filled
            low, high = np.where(less, middle, low), np.where(less, high, middle)
        pointed = np.sqrt(2 * p * filled)
        out: Array = np.where(
            pointed <= p * (1 - b), pointed, np.where(filled >= self.whole - self.lost, filled + self.lost, (low + high) / 2)
        )
        return out
