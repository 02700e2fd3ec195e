"""Bars alike so far are one bar: forged as one from one pile, and cut where they part."""

from dataclasses import dataclass
from typing import Any

from varistrat.core.bars.forged import Forged
from varistrat.core.figures import Numbers
from varistrat.core.laws.numbers import KERF, REACH
from varistrat.core.stock.backwards import Address, Wanted, bad_ends
from varistrat.core.stock.need import Allowance

SAID = {"id", "note", "name"}
"""What makes no difference to the steel."""


@dataclass(frozen=True)
class Together:
    """bars: their addresses; steps: how many they share; length: of their one pile, mm."""

    bars: tuple[Address, ...]
    steps: int
    length: float


def _same(part: Any) -> str:
    return str(part.model_dump_json(exclude=SAID))


def _begins(forged: Forged) -> str:
    return str(forged.start.model_dump_json(exclude=SAID | {"length"}))


def together(wanted: list[Wanted], allowed: Allowance, numbers: Numbers) -> list[Together]:
    """Groups of two bars or more that share their pile and at least its first step, none longer at any time than the shop manages."""
    if allowed.apart:
        return []
    alike: dict[str, list[Wanted]] = {}
    for w in wanted:
        if not w.forged.children and w.forged.stages:
            alike.setdefault(_begins(w.forged) + _same(w.forged.stages[0].step), []).append(w)
    found = []
    for bars in alike.values():
        left = sorted(bars, key=lambda w: w.address)
        while len(left) > 1:
            group = _as_many(left, allowed, numbers)
            if group is None:
                # not even two fit together: the first goes alone
                left = left[1:]
                continue
            found.append(group)
            left = left[len(group.bars) :]
    return found


def _as_many(bars: list[Wanted], allowed: Allowance, numbers: Numbers) -> Together | None:
    """The most of them, from the first on, that make a bar within reach."""
    best = None
    for n in range(2, len(bars) + 1):
        one = _one(bars[:n], allowed, numbers.of(KERF), numbers.of(REACH))
        if one is None:
            break
        best = one
    return best


def _one(bars: list[Wanted], allowed: Allowance, kerf: float, reach: float) -> Together | None:
    """One bar of all these, parted as late as they are alike and it is within reach; None when it is too long from the first step on."""
    first = bars[0].forged
    shared = 0
    for stages in zip(*(w.forged.stages for w in bars), strict=False):
        if len({_same(s.step) for s in stages}) > 1:
            break
        shared += 1
    for steps in range(shared, 0, -1):
        begun = first.upto(steps)
        cut_off, ends = bad_ends(begun, allowed)
        long = sum(w.lengths[steps] - sum(ends) for w in bars) + (len(bars) - 1) * kerf + sum(ends)
        most = long
        for stage, off in zip(reversed(begun.stages), reversed(cut_off), strict=True):
            long = stage.step.length_before(long, stage.before) + off
            most = max(most, long)
        if most <= reach:
            return Together(tuple(w.address for w in bars), steps, long)
    return None
