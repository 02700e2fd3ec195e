"""Which part of a bar is its core: the steel meant for the edge, between or beside the others."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.identity import made_alike
from varistrat.core.bars.model import JoinedStart
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.starts.assembly import Assembly
from varistrat.core.bars.starts.stack import Stack
from varistrat.core.bars.steps.restack import Restack
from varistrat.core.bars.trace import Trace

MOST_LAYERS = 9
"""A pile of more layers is a pattern, not a laminate."""
PLAIN_STEPS = ("weld", "draw", "grind", "trim", "bend")
"""Steps that leave a laminate a laminate."""
EDGE_JOINS = ("scarf", "side_by_side")


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

    Stacks: three layers, clad alike, or up to MOST_LAYERS alike about the middle, its steel found there alone, never patterned.
    Joined bars: the middle one of a pile, the one let in, the one jacketed; scarfed or side by side, the one at
    the edge, if it is of one steel.
    A hard sheet laid between two pieces of any bar, and left a laminate from there on, comes first.
    """
    if sheet := _sheet_between(forged):
        return sheet
    start = forged.start
    if isinstance(start, Stack):
        return _middle_layer(start, forged)
    if isinstance(start, Assembly):
        return _joined(start, forged, at_edge)
    return None


def _sheet_between(forged: Forged) -> Core | None:
    for i in range(len(forged.stages) - 1, -1, -1):
        step = forged.stages[i].step
        if isinstance(step, Restack):
            if (
                step.pieces != 2
                or step.along != "thickness"
                or not step.interleaf
                or not forged.shop.steels[step.interleaf.steel].hardening
            ):
                return None
            middle, half = forged.stages[i].after.thickness / 2, step.interleaf.thickness / 2
            return Core(middle - half, middle + half, None, step.interleaf.steel, i)
        if step.kind not in PLAIN_STEPS:  # type: ignore[attr-defined]
            return None
    return None


def _middle_layer(start: Stack, forged: Forged) -> Core | None:
    runs: list[tuple[str, float]] = []
    for layer in start.layers:
        if runs and runs[-1][0] == layer.steel:
            runs[-1] = (layer.steel, runs[-1][1] + layer.thickness)
        else:
            runs.append((layer.steel, layer.thickness))
    keys = [k for k, _ in runs]
    if len(runs) % 2 == 0 or len(runs) < 3 or keys != keys[::-1]:
        return None
    if len(runs) > 3 and keys.count(keys[len(runs) // 2]) > 1:
        return None  # a pattern of two steels in turn has no core
    plain = all(s.step.kind in PLAIN_STEPS for s in forged.stages)  # type: ignore[attr-defined]
    if len(runs) > 3 and (len(runs) > MOST_LAYERS or not plain):
        return None
    half = len(runs) // 2
    low = sum(t for _, t in runs[:half])
    return Core(low, low + runs[half][1], None, runs[half][0])


def _joined(start: Assembly, forged: Forged, at_edge: Callable[[], Array]) -> Core | None:
    bars = start.bars

    def alone(i: int) -> str | None:
        s = bars[i].start
        return s.steel if s.kind == "solid" else None  # type: ignore[attr-defined]

    if start.join == "stacked":
        if len(bars) % 2 == 0 or len(bars) < 3:
            return None
        i = len(bars) // 2
        below, above = bars[i - 1].start, bars[i + 1].start
        if any(made_alike(bars[i].start, b) for b in (below, above)) or not (alone(i) or (alone(i - 1) and alone(i + 1))):
            return None
        low = sum(b.thickness for b in forged.child_bars[:i])
        return Core(low, low + forged.child_bars[i].thickness, None, alone(i))
    if start.join in ("slot", "jacket"):
        i = 1 if start.join == "slot" else 0
        return Core(bar=i, steel=alone(i))
    if start.join in EDGE_JOINS:
        met = at_edge()
        i = int(np.bincount(met).argmax())
        alike = [k for k in range(len(bars)) if alone(k) == alone(i)]
        if alone(i) is None or len(alike) == len(bars):
            return None
        return Core(bar=i, steel=alone(i))
    return None
