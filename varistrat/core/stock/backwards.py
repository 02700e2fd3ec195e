"""The whole tree solved in one walk, from the length of the finished bar to every pile; and forwards again, to see where steel goes.

Sections are known: no length changes them. So each step gives the length before it in closed form (`Step.length_before`), each start that
of the bars in it (`Start.lengths`). Bad ends travel the other way: each weld that closes a pile leaves some, they are drawn out with the
bar, and come off where it is next cut, or joined. docs/physics.md#stock.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged, Stage
from varistrat.core.bars.model import Ends, Step
from varistrat.core.errors import InputError
from varistrat.core.stock.need import MOST_NEED, Allowance

Address = tuple[int, ...]
WELD_ENDS = "weld_ends"
"""The cause of bad ends, beside those of the steps (`Loss`)."""


@dataclass(frozen=True)
class Wanted:
    """One bar of the tree as it must be. steps: where more than lengths must change (more tiles); lengths: mm as begun and after every
    step, one more than there are steps; cut_off: mm of bad ends that come off before each step; ends: mm at the two ends that are left
    at its end."""

    address: Address
    forged: Forged
    steps: tuple[Step, ...]
    lengths: tuple[float, ...]
    cut_off: tuple[float, ...]
    ends: float

    @property
    def begun(self) -> float:
        """Length it begins with, mm."""
        return self.lengths[0]

    @property
    def finished(self) -> float:
        """Length it ends with, mm, bad ends and all."""
        return self.lengths[-1]


def bad_ends(forged: Forged, allowed: Allowance) -> tuple[tuple[float, ...], Ends]:
    """(mm cut off before each step, mm left at the start and the end of the finished bar)."""
    bad: Ends = (0.0, 0.0)
    joints = forged.start.joints()
    cut_off = []
    fires = [s.step.fire for s in forged.stages] + [""]
    for stage, (left, _), follows in zip(forged.stages, forged.open_joints, fires[1:], strict=True):
        cut_off.append(sum(bad) if stage.step.cuts else 0.0)
        bad = stage.step.ends(bad, stage.before, stage.after)
        fire = stage.step.fire
        # pieces laid together are welded by the weld that follows; where none does, in the same heat
        if (fire == "weld" and (joints or joints.bare)) or (fire == "join" and follows != "weld"):
            new = max(allowed.ends * stage.after.thickness, allowed.least)
            bad = bad[0] + new, bad[1] + new
        joints = left
    return tuple(cut_off), bad


def solve(forged: Forged, length: float, allowed: Allowance) -> list[Wanted]:
    """Every bar of the tree, the whole first, for the finished one to be `length` mm long, its own bad ends within that.

    Raises InputError with the path of the step that no length suits.
    """
    return list(_solve(forged, length, allowed, ()))


def _solve(forged: Forged, length: float, allowed: Allowance, address: Address) -> Iterator[Wanted]:
    cut_off, ends = bad_ends(forged, allowed)
    lengths, steps = [length], []
    for stage, off in zip(reversed(forged.stages), reversed(cut_off), strict=True):
        step = stage.step.reaching(lengths[-1], stage.before)
        steps.append(step)
        lengths.append(_before(step, stage, _as_long(step, stage, lengths[-1])) + off)
    lengths.reverse()
    steps.reverse()
    yield Wanted(address, forged, tuple(steps), tuple(lengths), cut_off, sum(ends))
    if not forged.children:
        return
    asked = forged.start.lengths(lengths[0], forged.child_bars)
    for i, (child, one) in enumerate(zip(forged.children, asked, strict=True)):
        # what is joined is cut to good steel first
        left = sum(bad_ends(child, allowed)[1])
        yield from _solve(child, one + left, allowed, (*address, i))


def _as_long(step: Step, stage: Stage, length: float) -> float:
    """mm after a step done otherwise, whose bar has another section, for as much steel as `length` mm of the planned one."""
    if step is stage.step:
        return length
    return length * stage.after.section.area / step.size(Bar(MOST_NEED, stage.before.section)).after.section.area


def _before(step: Step, stage: Stage, length: float) -> float:
    try:
        return step.length_before(length, stage.before)
    except InputError as e:
        raise InputError(e.under(stage.path).problems) from None


def losses(wanted: Sequence[Wanted]) -> dict[str, float]:
    """mm3 that go at each cause between the piles and the finished bar, in the order of the work, all bars together, as they must be."""
    found: dict[str, float] = {}
    by_address = {w.address: w for w in wanted}
    for w in reversed(wanted):
        bars = [by_address[(*w.address, i)] for i in range(len(w.forged.children))]
        for lost in (join_losses(w, bars), *stage_losses(w)):
            for cause, volume in lost.items():
                found[cause] = found.get(cause, 0.0) + volume
    return found


def join_losses(w: Wanted, bars: list[Wanted]) -> dict[str, float]:
    """mm3 by cause where its bars are joined; `bars`: those, as they must be."""
    if not bars:
        return {}
    joined = w.forged.start.size([Bar(b.finished - b.ends, b.forged.bar.section) for b in bars])
    ends = sum(b.ends * b.forged.bar.section.area for b in bars)
    return _told({WELD_ENDS: ends, **{str(cause): volume for cause, volume in joined.losses.items()}})


def stage_losses(w: Wanted) -> list[dict[str, float]]:
    """mm3 by cause at each of its steps; what a step brings in counts against it."""
    out = []
    now = Bar(w.begun, w.forged.first.section)
    for stage, step, off, after in zip(w.forged.stages, w.steps, w.cut_off, w.lengths[1:], strict=True):
        area = stage.before.section.area
        change = step.size(Bar(now.length - off, stage.before.section))
        lost = {str(cause): volume for cause, volume in change.losses.items()}
        lost["brought_in"] = -sum(change.gains.values())
        lost[WELD_ENDS] = off * area
        if step.scale:
            lost["scale"] = now.volume - now.length * area
        # more than was wanted: tiles come in whole ones
        if (more := change.after.volume - after * stage.after.section.area) > 1e-9 * change.after.volume:
            lost["offcut"] = lost.get("offcut", 0.0) + more
        out.append(_told(lost))
        now = Bar(after, stage.after.section)
    return out


def _told(lost: Mapping[str, float]) -> dict[str, float]:
    return {str(cause): float(volume) for cause, volume in lost.items() if volume}
