"""What a photo of an etched face can tell of how a blade was made: a few numbers, each a change of what was planned.

A kind of number is a class: which of them a design has, how far it may reasonably be off, and what it changes in the design.
"""

from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from varistrat.core.bars.model import Step
from varistrat.core.bars.recipe import BarRecipe, all_bars
from varistrat.core.bars.steps.relief import Relief
from varistrat.core.bars.steps.twist import Twist
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.model import Along, Blade
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.stock.told import ids_of

MOST_NUMBERS = 10
LEAST_TURNS = 0.25
"""A twist of less shows no turn of its own on a blade."""


@dataclass(frozen=True)
class PhotoNumber:
    """key: what it changes, kind and names; planned: as the design has it, in `unit`; least, most: how far it may be off, in the unit of
    change: `unit` itself, or a share of what is planned."""

    key: str
    title: str
    unit: str
    planned: float
    least: float
    most: float
    share: bool = False

    def made(self, change: float) -> float:
        """What it is when it is off by that."""
        return self.planned * (1 + change) if self.share else self.planned + change


@dataclass(frozen=True)
class Draft:
    """A design while it is tried: its bars and its blade."""

    bar: BarRecipe
    blade: Blade


class NumberKind(ABC):
    """name: the first part of its keys."""

    name: ClassVar[str]

    @abstractmethod
    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        """Those this design has."""

    @abstractmethod
    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        """The design changed by that much; names: the rest of the key."""


def _shifted(value: Along, by: float) -> Along:
    return value + by if isinstance(value, float | int) else [[x, v + by] for x, v in value]


class GroundDeeper(NumberKind):
    """This face lies deeper in the bar than planned, the blade as thick as planned: so much more off this side, as much less off the
    other. What one face shows is only where it lies; how thick the blade is calipers say."""

    name = "ground"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        most = min(0.8, 0.25 * worked.blade.placed.bar.thickness)
        yield PhotoNumber("ground", f"Ground deeper on the {side}", "mm", 0.0, -most, most)

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        errors = draft.blade.errors
        uneven = _shifted(errors.uneven, 2 * change * (1 if side == "right" else -1))
        return Draft(draft.bar, draft.blade.model_copy(update={"errors": errors.model_copy(update={"uneven": uneven})}))


class ShiftedAlong(NumberKind):
    """The blade lies so much further towards the far end of its bar."""

    name = "along"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        placed = worked.blade.placed
        if placed.forge_map is not None:
            # a blade forged to shape takes the bar as it comes: it has no place of its own on it
            return
        long, sign = placed.geometry.length, placed.signs[0]
        low, high = sorted((placed.x, placed.x + sign * long))
        least, most = max(-12.0, -low), min(12.0, placed.bar.length - high)
        if most - least > 1.0:
            yield PhotoNumber("along", "Lies further along the bar", "mm", 0.0, min(least, 0.0), max(most, 0.0))

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        place = draft.blade.place.model_copy(update={"x": worked.blade.placed.x + change})
        return Draft(draft.bar, draft.blade.model_copy(update={"place": place}))


class Stretched(NumberKind):
    """The finished bar was drawn longer than planned: no steel is made or lost, so it is as much less in section."""

    name = "stretch"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        if _last_sized(worked) is not None:
            yield PhotoNumber("stretch", "Drawn out longer", "%", 100.0, -0.06, 0.06, share=True)

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        at = _last_sized(worked)
        assert at is not None
        forged = worked.forged
        planned = forged.stages[at].after
        less = (1 + change) ** -0.5
        step = forged.stages[at].step
        done = step.as_done(forged.bars[at].peeled(step.scale), planned.width * less, planned.thickness * less)
        return Draft(_with_step(draft.bar, draft.bar.id, done), draft.blade)


class TwistTurns(NumberKind):
    """A twist has more turns than planned; turned about the middle of the blade, so that it says nothing of how it lies there."""

    name = "turns"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        for bar, step, title in _twists(worked):
            turns = step.turns or 0.0
            # more than a turn off, over the whole bar, is another twist
            reach = min(0.12, 1.0 / turns)
            yield PhotoNumber(f"turns:{bar}:{step.id}", f"Turns{title}", "turns", turns, -reach, reach, share=True)

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        bar, step = names
        twist = _step(draft.bar, bar, step)
        assert isinstance(twist, Twist) and twist.turns is not None
        more = twist.turns * change
        turned = 360 * more * _middle(worked) * (1 if twist.hand == "right" else -1)
        changed = twist.model_copy(update={"turns": twist.turns + more, "phase": _around(twist.phase - turned)})
        return Draft(_with_step(draft.bar, bar, changed), draft.blade)


class TwistPhase(NumberKind):
    """A twisted bar lies turned about its length: it was dressed with another corner up."""

    name = "phase"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        for bar, step, title in _twists(worked):
            # the layers of a pile look alike from above and from below: half a turn is the same picture
            yield PhotoNumber(f"phase:{bar}:{step.id}", f"Turned{title}", "deg", 0.0, -90.0, 90.0)

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        bar, step = names
        twist = _step(draft.bar, bar, step)
        assert isinstance(twist, Twist)
        return Draft(_with_step(draft.bar, bar, twist.model_copy(update={"phase": _around(twist.phase + change)})), draft.blade)


class ReliefDepth(NumberKind):
    """Grooves or dimples are deeper than planned."""

    name = "relief"

    def of(self, worked: Worked, side: Side) -> Iterator[PhotoNumber]:
        for bar in all_bars(worked.document.carried_out().bar):
            for step in bar.steps:
                if isinstance(step, Relief):
                    yield PhotoNumber(f"relief:{bar.id}:{step.id}", "Grooves deeper", "mm", step.depth, -0.3, 0.3, share=True)

    def put(self, draft: Draft, worked: Worked, side: Side, names: Sequence[str], change: float) -> Draft:
        bar, step = names
        relief = _step(draft.bar, bar, step)
        assert isinstance(relief, Relief)
        return Draft(_with_step(draft.bar, bar, relief.model_copy(update={"depth": relief.depth * (1 + change)})), draft.blade)


KINDS: tuple[NumberKind, ...] = (GroundDeeper(), TwistTurns(), TwistPhase(), ReliefDepth(), ShiftedAlong(), Stretched())
_BY_NAME = {k.name: k for k in KINDS}


def numbers_of(worked: Worked, side: Side) -> list[PhotoNumber]:
    """All that a photo of this face may tell. Raises InputError when there is no blade."""
    return [n for kind in KINDS for n in kind.of(worked, side)][:MOST_NUMBERS]


def usual_of(numbers: Sequence[PhotoNumber]) -> list[str]:
    """Keys of those that do not say the same thing twice: along a twist a shift is a turn; what was drawn longer is mostly what was ground
    deeper."""
    twisted = any(n.key.startswith("turns:") for n in numbers)
    return [n.key for n in numbers if n.key != "stretch" and not (twisted and n.key == "along")]


def changed(worked: Worked, side: Side, changes: Mapping[str, float]) -> Draft:
    """The design of `worked` with these changes, by key, tried but not yet checked."""
    blade = worked.blade.geometry.blade
    draft = Draft(worked.document.carried_out().bar, blade)
    for key, change in changes.items():
        kind, *names = key.split(":")
        draft = _BY_NAME[kind].put(draft, worked, side, names, change)
    return draft


def taken_over(worked: Worked, side: Side, changes: Mapping[str, float]) -> Document:
    """The design as the photo shows it was made. Raises InputError for what no photo tells, and where it can no longer be carried out."""
    offered = {n.key: n for n in numbers_of(worked, side)}
    for key, change in changes.items():
        n = offered.get(key)
        if n is None:
            raise InputError.at(
                "changes", f"{key[:40]!r} is nothing that a photo of this blade tells", "choose from those that are offered"
            )
        if not n.least <= change <= n.most:
            raise InputError.at(
                "changes", f"{n.title}: off by {change:.4g} is more than is looked for", f"keep it in {n.least:.3g} to {n.most:.3g}"
            )
    draft = changed(worked, side, changes)
    data: dict[str, Any] = worked.document.as_json()
    made = {s.id: s for bar in all_bars(draft.bar) for s in bar.steps}
    planned = {s.id: s for bar in worked.document.bars.values() for s in bar.steps}
    _replace(data["recipe"]["bar"], {i: s for i, s in made.items() if s != planned.get(i)})
    data["blade"] = draft.blade.as_json()
    document = read_document(data, worked.shop)
    again = Worked.of(document)
    if len(again.problems) > len(worked.problems):
        raise InputError(again.problems)
    return document


def _replace(bar: dict[str, Any], steps: Mapping[str, Step]) -> None:
    for i, said in enumerate(bar["steps"]):
        if said["id"] in steps:
            step = steps[said["id"]]
            new = step.model_dump(mode="json", by_alias=True, exclude_defaults=True)
            bar["steps"][i] = new | {"kind": said["kind"], "id": said["id"]}
    for child in bar["start"].get("bars", ()):
        _replace(child, steps)


def _twists(worked: Worked) -> Iterator[tuple[str, Twist, str]]:
    found = [
        (bar, step)
        for bar in all_bars(worked.document.carried_out().bar)
        for step in bar.steps
        if isinstance(step, Twist) and (step.turns or 0.0) >= LEAST_TURNS
    ]
    named = {bar: ".".join(str(i + 1) for i in address) for address, bar in ids_of(worked).items()}
    for bar, step in found:
        of = f"bar {named[bar.id]}" if named[bar.id] else "the whole bar"
        yield bar.id, step, f" of {of}" if len(found) > 1 else ""


def _middle(worked: Worked) -> float:
    """The middle of the blade as a share of the finished bar's length; a twist further back lies nearly as its bar does."""
    placed = worked.blade.placed
    return (placed.x + placed.signs[0] * placed.geometry.length / 2) / placed.bar.length


def _last_sized(worked: Worked) -> int | None:
    stages = worked.forged.stages
    return next((i for i in reversed(range(len(stages))) if stages[i].step.sized and stages[i].after.section.form == "rectangle"), None)


def _step(bar: BarRecipe, name: str, step: str) -> Step:
    found = [s for b in all_bars(bar) if b.id == name for s in b.steps if s.id == step]
    if not found:
        raise InputError.at("numbers", "this step is not in the design", "choose from those that are offered")
    return found[0]


def _with_step(bar: BarRecipe, name: str, step: Step) -> BarRecipe:
    if bar.id == name:
        return bar.model_copy(update={"steps": [step if s.id == step.id else s for s in bar.steps]})
    children = bar.start.children()
    if not children:
        return bar
    start = bar.start.model_copy(update={"bars": [_with_step(b, name, step) for b in children]})
    return bar.model_copy(update={"start": start})


def _around(degrees: float) -> float:
    return (degrees + 180.0) % 360.0 - 180.0
