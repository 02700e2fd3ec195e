"""A recipe carried out: the bar, its sizes and its ledger after every step."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.model import Start, Step, kind_of
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError, Problem
from varistrat.core.findings import Finding
from varistrat.core.limits import MIN_MM
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels import Steel

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
        """The bar as the step leaves it."""
        return self.change.after

    def gained_mass(self, steels: Mapping[str, Steel]) -> float:
        """g of the steel it brought in, each of its steels alike."""
        keys = self.step.steels()
        return sum(self.change.gains.values()) * sum(steels[k].density for k in keys) / len(keys) * 1e-6 if keys else 0.0


@dataclass(frozen=True)
class Forged:
    """A start (with the finished bars that went into it) and the stages after it.

    `bars` has one bar more than there are stages.
    """

    start: Start
    begun: Change
    stages: tuple[Stage, ...]
    path: str = "bar"
    children: tuple["Forged", ...] = ()
    id: str = ""
    shop: ShopData = AS_SHIPS
    """Whose steels and numbers it was forged with."""

    @property
    def first(self) -> Bar:
        """The bar its start makes, before any step."""
        return self.begun.after

    @property
    def bar(self) -> Bar:
        """The bar after its last step."""
        return self.stages[-1].after if self.stages else self.first

    @property
    def bars(self) -> list[Bar]:
        """The bar as begun and after every step."""
        return [self.first, *(s.after for s in self.stages)]

    @property
    def child_bars(self) -> list[Bar]:
        """The finished bars that go into it."""
        return [c.bar for c in self.children]

    @cached_property
    def steels(self) -> tuple[str, ...]:
        """Every steel in it, sorted: the order that steel indices count in."""
        keys = {steel for layers in self.start.piles() for steel, _ in layers}
        for stage in self.stages:
            keys |= stage.step.steels()
        return tuple(sorted(keys.union(*(c.steels for c in self.children))))

    @cached_property
    def most_of(self) -> str:
        """The steel that its piles have most of, layer by layer as thick as they are begun."""
        thick: dict[str, float] = {}

        def add(forged: "Forged") -> None:
            for layers in forged.start.piles():
                for steel, mm in layers:
                    thick[steel] = thick.get(steel, 0.0) + mm
            for child in forged.children:
                add(child)

        add(self)
        return max(thick, key=lambda k: (thick[k], k)) if thick else self.steels[0]

    @cached_property
    def densities(self) -> tuple[float, ...]:
        """Volume-weighted, g/mm3: of the start, and after each step with the steel it brought in. What is lost goes evenly."""
        out = [self.start.density(self.shop.steels, self.child_bars, [c.density * 1e6 for c in self.children]) * 1e-6]
        for s in self.stages:
            gained = sum(s.change.gains.values())
            own = (s.after.volume - gained) * out[-1]
            out.append((own + s.gained_mass(self.shop.steels)) / s.after.volume if gained else out[-1])
        return tuple(out)

    @property
    def density(self) -> float:
        """Of the finished bar, g/mm3."""
        return self.densities[-1]

    def put_in(self) -> tuple[float, float]:
        """(mm3, g) of steel that went in, with what the steps and the bars before it brought."""
        gained = sum(sum(s.change.gains.values()) for s in self.stages)
        brought = sum(s.gained_mass(self.shop.steels) for s in self.stages)
        if not self.children:
            return self.first.volume + gained, self.first.volume * self.densities[0] + brought
        volumes, masses = zip(*(c.put_in() for c in self.children), strict=True)
        return sum(volumes) + gained, sum(masses) + brought

    def upto(self, stages: int) -> "Forged":
        """The bar as it was after the first `stages` steps."""
        return replace(self, stages=self.stages[:stages])

    def findings(self) -> list[list[Finding]]:
        """What to be careful of: at the start, and at each step."""
        steps = [joined + s.step.checks(s.before, s.after) for s, (_, joined) in zip(self.stages, self.open_joints, strict=True)]
        return [self.start.checks(self.first, self.child_bars), *steps]

    def rows(self) -> list[dict[str, Any]]:
        """The ledger: one row for the start and one for each step, JSON-ready."""
        kinds = [kind_of(self.start), *(kind_of(s.step) for s in self.stages)]
        changes = [self.begun, *(s.change for s in self.stages)]
        rows = [self._row(*row) for row in zip(kinds, changes, self.densities, self.findings(), strict=True)]
        if self.children:
            rows[0]["bars"] = [c.rows() for c in self.children]
        return rows

    @cached_property
    def open_joints(self) -> list[tuple[Joints, list[Finding]]]:
        """After each step: the joints still open, and what the step did to them."""
        now, out = self.start.joints(), []
        for s in self.stages:
            now, found = s.step.upon(now, s.before, s.after)
            out.append((now, found))
        return out

    @cached_property
    def in_can(self) -> int:
        """How many of its steps are done with a can about it: until it is pressed solid where the can peels, else until a step opens it."""
        if not self.start.canned:
            return 0
        solid = next((i + 1 for i, (joints, _) in enumerate(self.open_joints) if not joints.can), len(self.stages))
        opened = next((i for i, s in enumerate(self.stages) if s.step.opens_can), len(self.stages))
        return min(solid, opened) if self.start.peels else opened

    @property
    def joints(self) -> Joints:
        """The joints still open at its end."""
        return self.open_joints[-1][0] if self.stages else self.start.joints()

    def _row(self, kind: str, change: Change, density: float, findings: Iterable[Finding]) -> dict[str, Any]:
        bar = change.after
        return {
            "kind": kind,
            "form": bar.section.form,
            "length": bar.length,
            "width": bar.width,
            "thickness": bar.thickness,
            "volume": bar.volume,
            "mass": bar.volume * density,
            "losses": {k: v for k, v in change.losses.items() if v},
            "gains": {k: v for k, v in change.gains.items() if v},
            "estimates": {k: v for k, v in change.estimates.items() if v},
            "findings": [f.as_json() for f in findings],
        }

    def instructions(self) -> list[str]:
        """Route-card text: one for the start and one for each step."""
        return [self.start.instruction(self.first)] + [s.step.instruction(s.before, s.after) for s in self.stages]


Address = tuple[int, ...]
"""Which bar of a recipe: () the whole, (1,) its second bar, (1, 0) the first of that one's..."""


@dataclass(frozen=True)
class Attempt:
    """Every bar of a recipe carried out as far as it goes, and all that is wrong.

    A bar is missing when it cannot even begin: one that goes into it fails, or they do not fit.
    """

    bars: dict[Address, Forged]
    problems: tuple[Problem, ...]


def forge(recipe: BarRecipe, path: str = "bar", shop: ShopData = AS_SHIPS) -> Forged:
    """Carry a recipe out. Raises InputError with everything that cannot be done."""
    tried = attempt(recipe, path, shop=shop)
    if tried.problems:
        raise InputError(tried.problems)
    return tried.bars[()]


def attempt(recipe: BarRecipe, path: str = "bar", off: Collection[str] = (), address: Address = (), shop: ShopData = AS_SHIPS) -> Attempt:
    """Carry every bar of a recipe out up to its first step that cannot be done, and say what is wrong there. `off`:
    ids of steps passed over."""
    bars: dict[Address, Forged] = {}
    problems: list[Problem] = []
    for i, child in enumerate(recipe.start.children()):
        below = attempt(child, f"{path}.start.bars[{i}]", off, (*address, i), shop)
        bars |= below.bars
        problems += below.problems
    if problems:
        return Attempt(bars, tuple(problems))
    children = tuple(bars[(*address, i)] for i in range(len(recipe.start.children())))
    try:
        begun = recipe.start.size([c.bar for c in children])
        _check_size(begun.after)
    except InputError as e:
        return Attempt(bars, e.under(f"{path}.start").problems)
    stages: list[Stage] = []
    for i, step in enumerate(recipe.steps):
        if step.id and step.id in off:
            continue
        here = f"{path}.steps[{i}]"
        try:
            stages.append(_carry_out(step, stages[-1].after if stages else begun.after, here))
        except InputError as e:
            problems += e.under(here).problems
            break
    bars[address] = Forged(recipe.start, begun, tuple(stages), path, children, recipe.id, shop)
    return Attempt(bars, tuple(problems))


def _carry_out(step: Step, bar: Bar, path: str) -> Stage:
    before = bar.peeled(step.scale) if step.scale else bar
    change = step.size(before)
    if step.scale:
        change = replace(change, losses={Loss.SCALE: bar.volume - before.volume, **change.losses})
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
