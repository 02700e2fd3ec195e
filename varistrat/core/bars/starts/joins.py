"""How bars meet in an assembly: one small class for each join.

A join says how big the joined bar is and what of each bar is used (`fit`), which bar a point
lies in (`pick`), and where that point was in that bar (`enter`). Only shifts and, for a plug,
a quarter turn: no join mirrors steel. Derived in docs/physics.md#assembly.
"""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps.restack import JOINT
from varistrat.core.errors import InputError

ALIKE = 1e-6
"""Sizes this much alike (relative) count as equal."""


@dataclass(frozen=True)
class Fitted:
    """The joined bar, and the mm3 of each bar that is in it."""

    after: Bar
    volumes: tuple[float, ...]


def block(length: float, width: float, thickness: float) -> Bar:
    """A plain rectangular bar, mm."""
    return Bar(length, Section("rectangle", width, thickness))


def alike(sizes: Sequence[float]) -> bool:
    """Whether sizes are the same as far as a smith would measure."""
    return max(sizes) - min(sizes) <= ALIKE * max(sizes)


def need_alike(sizes: Sequence[float], what: str) -> None:
    """Raises InputError when bars that must fit exactly do not."""
    if not alike(sizes):
        told = ", ".join(f"{s:.5g}" for s in sizes)
        raise InputError.at("fit", f"the bars are not of one {what}: {told} mm", "make them alike, or let them be trimmed (fit: trim)")


class Join(ABC):
    """Base: a join works on bars in the joined bar's frame."""

    many = False
    """Whether more than two bars can be joined so."""

    @abstractmethod
    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        """The joined bar and what of each bar is in it. Raises InputError when they cannot be joined so."""

    def lengths(self, length: float, bars: Sequence[Bar]) -> tuple[float, ...]:
        """How long each bar must be, mm, for the joined one to be `length` long: all of them, but for one that stands upright."""
        return (length,) * len(bars)

    @abstractmethod
    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        """Which bar each point lies in; a joint belongs to the later one."""

    @abstractmethod
    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        """Carry points of that bar to its own frame, in place."""


@dataclass(frozen=True)
class Row(Join):
    """Bars on top of one another (upright) or side by side: the first lowest, or foremost."""

    upright: bool
    many = True

    def _cuts(self, bars: Sequence[Bar]) -> NDArray[np.float64]:
        sizes = [b.thickness if self.upright else b.width for b in bars]
        edges = np.concatenate([[0.0], np.cumsum(sizes)])
        return np.asarray(edges - edges[-1] / 2)

    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        across = [b.width if self.upright else b.thickness for b in bars]
        lengths = [b.length for b in bars]
        if exact:
            need_alike(across, "width" if self.upright else "thickness")
            need_alike(lengths, "length")
        piled = [b.thickness if self.upright else b.width for b in bars]
        length, meeting = min(lengths), min(across)
        after = block(length, meeting, sum(piled)) if self.upright else block(length, sum(piled), meeting)
        return Fitted(after, tuple(length * meeting * t for t in piled))

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        along, cuts = p.z if self.upright else p.y, self._cuts(bars)
        if p.wants_seams:
            for cut in cuts[1:-1]:
                p.meet(along - float(cut))
        which: NDArray[np.int16] = np.searchsorted(cuts[1:-1] - JOINT, along, side="right").astype(np.int16)
        return which

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        cuts = self._cuts(bars)
        middle = float(cuts[child] + cuts[child + 1]) / 2
        if self.upright:
            p.z -= middle
        else:
            p.y -= middle


@dataclass(frozen=True)
class Scarf(Join):
    """Two bars side by side across a plane leaning over in y: the first is wider on top.

    angle: degrees between the joint and the faces, 90 a plain butt joint. Each bar loses a wedge
    T^2 cot(angle) / 2 in section: W = W1 + W2 - T cot(angle); the joint is y = y0 + z cot(angle).
    """

    angle: float

    @property
    def _cot(self) -> float:
        return float(np.cos(np.deg2rad(self.angle)) / np.sin(np.deg2rad(self.angle))) if self.angle != 90 else 0.0

    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        if exact:
            need_alike([b.thickness for b in bars], "thickness")
            need_alike([b.length for b in bars], "length")
        length, thick = min(b.length for b in bars), min(b.thickness for b in bars)
        run = thick * self._cot
        if run > min(b.width for b in bars):
            raise InputError.at(
                "angle",
                f"a joint at {self.angle:g} degrees runs {run:.4g} mm across bars {thick:.4g} mm thick, past the narrower bar",
                f"make it steeper than {np.rad2deg(np.arctan2(thick, min(b.width for b in bars))):.3g} degrees",
            )
        after = block(length, bars[0].width + bars[1].width - run, thick)
        return Fitted(after, tuple(length * thick * (b.width - run / 2) for b in bars))

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        y0 = bars[0].width - bar.width / 2 - bar.thickness * self._cot / 2
        off = p.y - p.z * self._cot
        off -= y0
        off *= float(np.sin(np.deg2rad(self.angle)))
        p.meet(off)
        return (off >= -JOINT).astype(np.int16)

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        gap = (bar.width - bars[child].width) / 2
        p.y += gap if child == 0 else -gap


@dataclass(frozen=True)
class Slot(Join):
    """The second bar laid in a slot milled along the middle of the first one's top face."""

    depth: float
    width: float

    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        plate, inlay = bars
        if self.depth >= plate.thickness:
            raise InputError.at(
                "depth", f"a slot {self.depth:g} mm deep cuts the {plate.thickness:.4g} mm plate through", "make it shallower"
            )
        if self.width >= plate.width:
            raise InputError.at("width", f"a slot {self.width:g} mm wide is the whole {plate.width:.4g} mm plate", "make it narrower")
        length = min(plate.length, inlay.length)
        if exact:
            need_alike([plate.length, inlay.length], "length")
            need_alike([self.width, inlay.width], "width (slot, bar)")
            need_alike([self.depth, inlay.thickness], "depth (slot, bar)")
        need_enough(inlay.width, self.width, "width", "the slot's width")
        need_enough(inlay.thickness, self.depth, "depth", "the slot's depth")
        used = length * self.depth * self.width
        return Fitted(block(length, plate.width, plate.thickness), (length * plate.section.area - used, used))

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        off = np.maximum(np.abs(p.y) - self.width / 2, bar.thickness / 2 - self.depth - p.z)
        p.meet(off)
        return (off <= JOINT).astype(np.int16)

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        if child:
            p.z -= (bar.thickness - self.depth) / 2


@dataclass(frozen=True)
class Plug(Join):
    """A round bar stood upright in a hole through a plate: its end grain shows on the face.

    Its start is at the underside: as in an end slice, old x becomes z and old z becomes -x.
    """

    x: float
    y: float
    diameter: float

    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        plate, plug = bars
        r = self.diameter / 2
        if not (r <= self.x <= plate.length - r and abs(self.y) <= plate.width / 2 - r):
            raise InputError.at(
                "x",
                (
                    f"a hole {self.diameter:g} mm across at ({self.x:g}, {self.y:g}) runs off the {plate.length:.4g} x {plate.width:.4g} "
                    "mm "
                    "plate"
                ),
                "move it in or make it smaller",
            )
        if exact:
            need_alike([self.diameter, plug.width], "diameter (hole, plug)")
            need_alike([plate.thickness, plug.length], "height (plate, plug)")
        need_enough(min(plug.width, plug.thickness), self.diameter, "diameter", "the hole's diameter")
        need_enough(plug.length, plate.thickness, "diameter", "the plate's thickness (a plug stands upright)")
        used = np.pi * r * r * plate.thickness
        return Fitted(block(plate.length, plate.width, plate.thickness), (plate.volume - used, used))

    def lengths(self, length: float, bars: Sequence[Bar]) -> tuple[float, ...]:
        return length, bars[0].thickness

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        off = np.hypot(p.x - self.x, p.y - self.y)
        off -= self.diameter / 2
        p.meet(off)
        return (off <= JOINT).astype(np.int16)

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        if child:
            p.x, p.z = p.z + bar.thickness / 2, self.x - p.x
            p.y -= self.y


@dataclass(frozen=True)
class Jacket(Join):
    """The first bar inside the second, which is bored out to leave a wall all round."""

    wall: float

    def fit(self, bars: Sequence[Bar], exact: bool) -> Fitted:
        core, outer = bars
        if 2 * self.wall >= min(outer.width, outer.thickness):
            raise InputError.at(
                "wall", f"walls of {self.wall:g} mm fill the {outer.width:.4g} x {outer.thickness:.4g} mm jacket", "make the wall thinner"
            )
        length = min(core.length, outer.length)
        if exact:
            need_alike([core.length, outer.length], "length")
            need_alike([core.width, outer.width - 2 * self.wall], "width (core, bore)")
            need_alike([core.thickness, outer.thickness - 2 * self.wall], "thickness (core, bore)")
        w, t = min(core.width, outer.width - 2 * self.wall), min(core.thickness, outer.thickness - 2 * self.wall)
        after = block(length, w + 2 * self.wall, t + 2 * self.wall)
        return Fitted(after, (length * w * t, after.volume - length * w * t))

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        off = np.maximum(np.abs(p.y) - (bar.width / 2 - self.wall), np.abs(p.z) - (bar.thickness / 2 - self.wall))
        p.meet(off)
        return (off >= -JOINT).astype(np.int16)

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        """Core and jacket share their middle."""


def need_enough(has: float, wants: float, field: str, what: str) -> None:
    """Raises InputError when a bar does not fill the place made for it."""
    if has < wants * (1 - ALIKE):
        raise InputError.at(
            field, f"the bar put in has {has:.4g} mm, less than {what}, {wants:.4g} mm", "make the place smaller or the bar bigger"
        )
