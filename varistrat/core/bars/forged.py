"""A recipe carried out: the bar, its sizes and its ledger after every step."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.model import Start, Step
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.errors import InputError, Problem
from varistrat.core.findings import Finding
from varistrat.core.limits import MIN_MM
from varistrat.core.steels import STEELS

MAX_SIZE = 1e7
"""Bars thinner than a micron or longer than 10 km are slips of the pen, mm."""


@dataclass(frozen=True)
class Stage:
    """One step carried out: `before` is already without the scale."""

    step: Step
    before: Bar
    change: Change
    path: str

    @property
    def after(self) -> Bar:
        return self.change.after


@dataclass(frozen=True)
class Forged:
    """start and the stages after it; `bars` has one bar more than there are stages."""

    start: Start
    first: Bar
    stages: tuple[Stage, ...]
    path: str = "bar"

    @property
    def bar(self) -> Bar:
        return self.stages[-1].after if self.stages else self.first

    @property
    def bars(self) -> list[Bar]:
        return [self.first, *(s.after for s in self.stages)]

    @property
    def steels(self) -> tuple[str, ...]:
        """Every steel in it, sorted: the order that steel indices count in."""
        keys = {steel for steel, _ in self.start.layer_stack()}
        for stage in self.stages:
            keys |= stage.step.steels()
        return tuple(sorted(keys))

    @property
    def density(self) -> float:
        """Volume-weighted over the start, g/mm3."""
        stack = self.start.layer_stack()
        return sum(STEELS[s].density * t for s, t in stack) / sum(t for _, t in stack) * 1e-6

    def upto(self, stages: int) -> "Forged":
        """The bar as it was after the first `stages` steps."""
        return replace(self, stages=self.stages[:stages])

    def rows(self) -> list[dict[str, Any]]:
        """The ledger: one row for the start and one for each step, JSON-ready."""
        rows = [self._row(self.start.kind, Change(self.first), self.start.checks(self.first))]  # type: ignore[attr-defined]
        for s in self.stages:
            rows.append(self._row(s.step.kind, s.change, s.step.checks(s.before, s.after)))  # type: ignore[attr-defined]
        return rows

    def _row(self, kind: str, change: Change, findings: Iterable[Finding]) -> dict[str, Any]:
        bar = change.after
        return {
            "kind": kind,
            "form": bar.section.form,
            "length": bar.length,
            "width": bar.width,
            "thickness": bar.thickness,
            "volume": bar.volume,
            "mass": bar.volume * self.density,
            "losses": {k: v for k, v in change.losses.items() if v},
            "gains": {k: v for k, v in change.gains.items() if v},
            "estimates": {k: v for k, v in change.estimates.items() if v},
            "findings": [f.as_json() for f in findings],
        }

    def instructions(self) -> list[str]:
        """Route-card text: one for the start and one for each step."""
        return [self.start.instruction(self.first)] + [s.step.instruction(s.before, s.after) for s in self.stages]


def forge(recipe: BarRecipe, path: str = "bar") -> Forged:
    """Carry a recipe out. Raises InputError at the first step that cannot be done."""
    forged, problems = forge_as_far(recipe, path)
    if problems:
        raise InputError(problems)
    return forged


def forge_as_far(recipe: BarRecipe, path: str = "bar") -> tuple[Forged, tuple[Problem, ...]]:
    """Carry a recipe out up to the first step that cannot be done, and say what is wrong there."""
    first = recipe.start.size()
    try:
        _check_size(first)
    except InputError as e:
        raise e.under(f"{path}.start") from e
    stages: list[Stage] = []
    for i, step in enumerate(recipe.steps):
        here = f"{path}.steps[{i}]"
        bar = stages[-1].after if stages else first
        try:
            stages.append(_carry_out(step, bar, here))
        except InputError as e:
            return Forged(recipe.start, first, tuple(stages), path), e.under(here).problems
    return Forged(recipe.start, first, tuple(stages), path), ()


def _carry_out(step: Step, bar: Bar, path: str) -> Stage:
    before = bar.peeled(step.scale) if step.scale else bar
    change = step.size(before)
    if step.scale:
        change = replace(change, losses={"scale": bar.volume - before.volume, **change.losses})
    _check_size(change.after)
    if step.unevenness() and change.after.section.form != "rectangle":
        raise InputError.at(
            "uneven", f"hand work is left on a rectangular bar, this one is {change.after.form_word}", "take it out here, or square the bar"
        )
    return Stage(step, before, change, path)


def _check_size(bar: Bar) -> None:
    sizes = (bar.length, bar.width, bar.thickness)
    if not all(MIN_MM <= s <= MAX_SIZE for s in sizes):
        raise InputError.at(
            "", f"the bar becomes {bar.length:.3g} x {bar.width:.3g} x {bar.thickness:.3g} mm", "choose sizes a bar can have"
        )
