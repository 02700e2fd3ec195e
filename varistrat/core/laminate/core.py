"""Which part of a bar is its core: the steel meant for the edge, between or beside the others."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.model import JoinedStart
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.trace import Trace


@dataclass(frozen=True)
class Core:
    """The core: a run of layers of the first pile (heights above its underside, mm), one of the joined bars, or a sheet put between
    two pieces: heights are then above the underside of the bar as `stage` left it."""

    low: float = 0.0
    high: float = 0.0
    bar: int | None = None
    steel: str | None = None
    stage: int | None = None

    def bar_of(self, forged: Forged) -> Bar:
        """The bar whose underside its heights are counted from."""
        return forged.first if self.stage is None else forged.stages[self.stage].after

    def height(self, trace: Trace, p: Points) -> Array:
        """Heights of points of the finished bar above the underside of `bar_of`, mm; steel that a step brought in later lies far
        above. The points are used up."""
        p = trace.begun(p, self.stage)
        out = p.z + self.bar_of(trace.forged).thickness / 2
        return out if p.settled is None else np.where(p.settled >= 0, 1e6, out)

    def depth(self, trace: Trace, p: Points) -> Array:
        """How far inside the core points of the finished bar lie, mm of the start: negative outside. For a joined bar only the sign
        means anything. The points are used up."""
        f = trace.forged
        if self.bar is None:
            s = self.height(trace, p)
            return np.minimum(s - self.low, self.high - s)
        p = trace.begun(p)
        assert isinstance(f.start, JoinedStart)
        out = np.where(f.start.pick(p, f.first, f.child_bars) == self.bar, 1.0, -1.0)
        return out if p.settled is None else np.where(p.settled >= 0, -1e6, out)


def find_core(forged: Forged, at_edge: Callable[[], Array]) -> Core | None:
    """The core, or None when the bar is no laminate. `at_edge`: which of the joined bars is met along the blade's edge.

    The start says which of its parts it is. A hard sheet laid between two pieces of any bar, and left a laminate from there on, comes
    first.
    """
    if sheet := _sheet_between(forged):
        return sheet
    plain = all(s.step.plain for s in forged.stages)
    part = forged.start.core_part(forged.child_bars, plain, at_edge)
    return Core(part.low, part.high, part.bar, part.steel) if part else None


def _sheet_between(forged: Forged) -> Core | None:
    for i, stage in reversed(list(enumerate(forged.stages))):
        if sheet := stage.step.sheet_between():
            steel, thickness = sheet
            if not forged.shop.steels[steel].hardening:
                return None
            middle = stage.after.thickness / 2
            return Core(middle - thickness / 2, middle + thickness / 2, None, steel, i)
        if not stage.step.plain:
            return None
    return None
