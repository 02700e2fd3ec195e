"""Points on their way back through the steps.

Frame (mm), right-handed: x along the bar from 0 to its length, y across from the
middle, z up from the middle. Written once here; every pull uses it.
"""

from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from varistrat.core.bars.section import Section

Array = NDArray[Any]
FAR = 1e6
"""No joint anywhere near, mm."""


class Points:
    """A block of points, changed in place by each pull.

    x, y, z: arrays of one shape (n,), one dtype (float32 or float64).
    steels: the keys of every steel in the recipe, which `settled` counts into.
    settled: the steel of points that ended inside a step (an interleaf), -1 for those
    still on their way; None while there are none.

    Steps that re-section a bar leave its points as shares of the section (section.py), and
    the next such step takes them up as they are: y and z are only worked out when a step
    asks for them. A twist between two re-sectionings so costs one subtraction. Plain scaling (`scale`) likewise waits until
    somebody looks: what many draws do to a bar is one pass over the points, and none at all along x when only the pile counts.

    seam: signed distance to the nearest joint between bars or pieces in mm of the *finished* bar,
    kept when `watch_seams` was called. reach: mm of finished bar in a mm of the frame where each
    maker of joints works (nan: not watched); maker: the one at work.
    """

    __slots__ = ("_by", "_shares", "_x", "_y", "_z", "maker", "reach", "seam", "settled", "steels")

    def __init__(self, x: Array, y: Array, z: Array, steels: tuple[str, ...] = ()):
        self._x, self._y, self._z, self.steels = x, y, z, steels
        self._by = [1.0, 1.0, 1.0]
        self.settled: NDArray[np.int16] | None = None
        self._shares: tuple[Section, Array, Array] | None = None
        self.seam: Array | None = None
        self.reach: NDArray[np.float64] | None = None
        self.maker = -1

    def watch_seams(self, reach: NDArray[np.float64]) -> None:
        """From here on keep how near each point comes to a seam, mm; `reach` (3,): how far a pixel is seen along x, y, z."""
        self.reach = reach
        self.seam = np.full(self._x.shape, FAR, self._x.dtype)

    @property
    def wants_seams(self) -> bool:
        """Whether the one at work should say where its joints are."""
        return self.reach is not None and self.maker >= 0 and bool(np.isfinite(self.reach[self.maker]))

    def meet(self, distance: Array) -> None:
        """A joint lies this far away (signed, mm of the frame at work); the nearest one is kept."""
        if self.seam is None or self.reach is None or not self.wants_seams:
            return
        distance = distance * float(self.reach[self.maker])
        np.copyto(self.seam, distance, where=np.abs(distance) < np.abs(self.seam))

    def take(self, index: Array) -> "Points":
        """These points alone, copied: for going on in one of several bars."""
        part = Points(self.x[index], self.y[index], self.z[index], self.steels)
        if self.seam is not None:
            part.seam, part.reach = self.seam[index], self.reach
        return part

    def scale(self, x: float, y: float = 1.0, z: float = 1.0) -> None:
        """Everything so many times as far from the origin, along each axis."""
        self._by[0] *= x
        if y != 1.0 or z != 1.0:
            self._place()
            self._by[1] *= y
            self._by[2] *= z

    @property
    def x(self) -> Array:
        """Along the bar, mm; what was put off is done first."""
        if self._by[0] != 1.0:
            self._x *= self._by[0]
            self._by[0] = 1.0
        return self._x

    @x.setter
    def x(self, value: Array) -> None:
        self._x, self._by[0] = value, 1.0

    @property
    def y(self) -> Array:
        """Across the bar, mm; what was put off is done first."""
        self._place()
        if self._by[1] != 1.0:
            self._y *= self._by[1]
            self._by[1] = 1.0
        return self._y

    @y.setter
    def y(self, value: Array) -> None:
        self._place()
        self._y, self._by[1] = value, 1.0

    @property
    def z(self) -> Array:
        """Up from the middle, mm; what was put off is done first."""
        self._place()
        if self._by[2] != 1.0:
            self._z *= self._by[2]
            self._by[2] = 1.0
        return self._z

    @z.setter
    def z(self, value: Array) -> None:
        self._place()
        self._z, self._by[2] = value, 1.0

    def _place(self) -> None:
        if self._shares is not None:
            section, u, a = self._shares
            self._shares = None
            self._y, self._z = section.from_shares(u, a)
            self._by[1:] = 1.0, 1.0

    def shares(self, section: "Section") -> tuple[Array, Array]:
        """(u, a) in this section, as they were left or worked out anew."""
        if self._shares is not None and self._shares[0] == section:
            return self._shares[1:]
        self._place()
        return section.shares(self._y, self._z, self._by[1], self._by[2])

    def put_shares(self, section: "Section", u: Array, a: Array) -> None:
        """Put every point where it has these shares of `section`."""
        self._shares = (section, u, a)

    def has_shares(self, section: "Section") -> bool:
        """Whether the points stand as shares of this section already."""
        return self._shares is not None and self._shares[0] == section

    def settle(self, mask: Array, steel: str) -> None:
        """End the journey of the masked points in `steel`; the step that claims them first wins."""
        if self.settled is None:
            self.settled = np.full(self._x.shape, -1, np.int16)
        self.settled[mask & (self.settled < 0)] = self.steels.index(steel)

    def clamp(self, length: float, width: float, thickness: float) -> None:
        """Push points that rounding or hand work moved out back to the bar's faces."""
        np.clip(self.x, 0, length, out=self.x)
        np.clip(self.y, -width / 2, width / 2, out=self._y)
        np.clip(self.z, -thickness / 2, thickness / 2, out=self._z)
