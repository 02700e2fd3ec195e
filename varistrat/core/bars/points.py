"""Points on their way back through the steps.

Frame (mm), right-handed: x along the bar from 0 to its length, y across from the
middle, z up from the middle. Written once here; every pull uses it.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]


@dataclass
class Points:
    """A block of points, changed in place by each pull.

    x, y, z: arrays of one shape (n,), one dtype (float32 or float64).
    steels: the keys of every steel in the recipe, which `settled` counts into.
    settled: the steel of points that ended inside a step (an interleaf), -1 for those
    still on their way; None while there are none.
    """

    x: Array
    y: Array
    z: Array
    steels: tuple[str, ...] = ()
    settled: NDArray[np.int16] | None = None

    def settle(self, mask: Array, steel: str) -> None:
        """End the journey of the masked points in `steel`; the step that claims them first wins."""
        if self.settled is None:
            self.settled = np.full(self.x.shape, -1, np.int16)
        self.settled[mask & (self.settled < 0)] = self.steels.index(steel)

    def clamp(self, length: float, width: float, thickness: float) -> None:
        """Push points that rounding or hand work moved out back to the bar's faces."""
        np.clip(self.x, 0, length, out=self.x)
        np.clip(self.y, -width / 2, width / 2, out=self.y)
        np.clip(self.z, -thickness / 2, thickness / 2, out=self.z)
