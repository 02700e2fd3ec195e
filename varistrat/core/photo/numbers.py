"""What a photo of an etched face can tell of how a blade was made: a few numbers, each a change of what was planned.

A step says itself what of it may be off (bars/off_plan.py); what concerns the blade in its bar is a class here.
"""

from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any, ClassVar

from varistrat.core.bars.model import Step
from varistrat.core.bars.off_plan import OffPlan
from varistrat.core.bars.recipe import BarRecipe, all_bars
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.model import Along, Blade
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.stock.told import ids_of

MOST_NUMBERS = 10


@dataclass(frozen=True, kw_only=True)
class PhotoNumber(OffPlan):
    """key: what it changes: the name, and of a step its bar and itself."""

    key: str

    @classmethod
    def of(cls, off: OffPlan, key: str, title: str = "") -> "PhotoNumber":
        """One of a step, or of the blade, under its key."""
        return cls(**asdict(off) | {"key": key, "title": title or off.title})


@dataclass(frozen=True)
class Draft:
    """A design while it is tried: its bars and its blade."""

    bar: BarRecipe
    blade: Blade


class NumberKind(ABC):
    """name: its key."""

    name: ClassVar[str]

    @abstractmethod
    def of(self, worked: Worked, side: Side) -> OffPlan | None:
        """It, where this design has it."""

    @abstractmethod
    def put(self, draft: Draft, worked: Worked, side: Side, change: float) -> Draft:
        """The design changed by that much."""


def _shifted(value: Along, by: float) -> Along:
    return value + by if isinstance(value, float | int) else [[x, v + by] for x, v in value]


class GroundDeeper(NumberKind):
    """This face lies deeper in the bar than planned, the blade as thick as planned: so much more off this side, as much less off the
    other. What one face shows is only where it lies; how thick the blade is calipers say."""

    name = "ground"

    def of(self, worked: Worked, side: Side) -> OffPlan:
        most = min(0.8, 0.25 * worked.blade.placed.bar.thickness)
        words = "ground {much} deeper than planned", "ground {much} less deep than planned"
        return OffPlan("ground", f"Ground deeper on the {side}", "mm", 0.0, -most, most, "ground", *words)

    def put(self, draft: Draft, worked: Worked, side: Side, change: float) -> Draft:
        errors = draft.blade.errors
        uneven = _shifted(errors.uneven, 2 * change * (1 if side == "right" else -1))
        return Draft(draft.bar, draft.blade.model_copy(update={"errors": errors.model_copy(update={"uneven": uneven})}))


class ShiftedAlong(NumberKind):
    """The blade lies so much further towards the far end of its bar."""

    name = "along"

    def of(self, worked: Worked, side: Side) -> OffPlan | None:
        placed = worked.blade.placed
        if placed.forge_map is not None:
            # a blade forged to shape takes the bar as it comes: it has no place of its own on it
            return None
        long, sign = placed.geometry.length, placed.signs[0]
        low, high = sorted((placed.x, placed.x + sign * long))
        least, most = min(max(-12.0, -low), 0.0), max(min(12.0, placed.bar.length - high), 0.0)
        words = "lies {much} further along the bar than planned", "lies {much} nearer the start of the bar than planned"
        found = OffPlan("along", "Lies further along the bar", "mm", 0.0, least, most, "figure", *words)
        return found if most - least > 1.0 else None

    def put(self, draft: Draft, worked: Worked, side: Side, change: float) -> Draft:
        place = draft.blade.place.model_copy(update={"x": worked.blade.placed.x + change})
        return Draft(draft.bar, draft.blade.model_copy(update={"place": place}))


class Stretched(NumberKind):
    """The finished bar was drawn longer than planned: no steel is made or lost, so it is as much less in section."""

    name = "stretch"

    def of(self, worked: Worked, side: Side) -> OffPlan | None:
        words = "drawn out {much} longer than planned", "drawn out {much} less than planned"
        found = OffPlan("stretch", "Drawn out longer", "%", 100.0, -0.06, 0.06, "figure", *words, share=True)
        return found if _last_sized(worked) is not None else None

    def put(self, draft: Draft, worked: Worked, side: Side, change: float) -> Draft:
        at = _last_sized(worked)
        assert at is not None
        forged = worked.forged
        planned, step = forged.stages[at].after, forged.stages[at].step
        less = (1 + change) ** -0.5
        done = step.as_done(forged.bars[at].peeled(step.scale), planned.width * less, planned.thickness * less)
        return Draft(_with_step(draft.bar, draft.bar.id, done), draft.blade)


KINDS: tuple[NumberKind, ...] = (GroundDeeper(), ShiftedAlong(), Stretched())
_BY_NAME = {k.name: k for k in KINDS}


def numbers_of(worked: Worked, side: Side) -> list[PhotoNumber]:
    """All that a photo of this face may tell. Raises InputError when there is no blade."""
    of_blade = [PhotoNumber.of(found, kind.name) for kind in KINDS if (found := kind.of(worked, side))]
    return (of_blade[:1] + list(_of_steps(worked)) + of_blade[1:])[:MOST_NUMBERS]


def _of_steps(worked: Worked) -> Iterator[PhotoNumber]:
    steps = [(bar.id, step) for bar in all_bars(worked.document.carried_out().bar) for step in bar.steps if step.off_plan()]
    named = {bar: ".".join(str(i + 1) for i in address) for address, bar in ids_of(worked).items()}
    for bar, step in steps:
        of = f" of bar {named[bar]}" if named[bar] else " of the whole bar"
        for off in step.off_plan():
            yield PhotoNumber.of(off, f"{off.name}:{bar}:{step.id}", off.title + (of if len(steps) > 1 else ""))


def usual_of(numbers: Sequence[PhotoNumber]) -> list[str]:
    """Keys of those that do not say the same thing twice: along a twist a shift is a turn; what was drawn longer is mostly what was ground
    deeper."""
    twisted = any(n.group == "winding" for n in numbers)
    return [n.key for n in numbers if n.key != "stretch" and not (twisted and n.key == "along")]


def changed(worked: Worked, side: Side, changes: Mapping[str, float]) -> Draft:
    """The design of `worked` with these changes, by key of what it has, tried but not yet checked."""
    draft = Draft(worked.document.carried_out().bar, worked.blade.geometry.blade)
    for key, change in changes.items():
        name, *of = key.split(":")
        if of:
            step = _step(draft.bar, *of)
            off = next(o for o in step.off_plan() if o.name == name)
            step = step.made_off_plan(off, change, _middle(worked))
            draft = Draft(_with_step(draft.bar, of[0], step), draft.blade)
        else:
            draft = _BY_NAME[name].put(draft, worked, side, change)
    return draft


def taken_over(worked: Worked, side: Side, changes: Mapping[str, float]) -> Document:
    """The design as the photo shows it was made. Raises InputError for what no photo tells, and where it can no longer be carried out."""
    offered = {n.key: n for n in numbers_of(worked, side)}
    for key, change in changes.items():
        n = offered.get(key)
        if n is None:
            wrong = f"{key[:40]!r} is nothing that a photo of this blade tells"
            raise InputError.at("changes", wrong, "choose from those that are offered")
        if not n.least <= change <= n.most:
            wrong = f"{n.title}: off by {change:.4g} is more than is looked for"
            raise InputError.at("changes", wrong, f"keep it in {n.least:.3g} to {n.most:.3g}")
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
            new = steps[said["id"]].model_dump(mode="json", by_alias=True, exclude_defaults=True)
            bar["steps"][i] = new | {"kind": said["kind"], "id": said["id"]}
    for child in bar["start"].get("bars", ()):
        _replace(child, steps)


def _middle(worked: Worked) -> float:
    """The middle of the blade as a share of the finished bar's length; a bar within lies nearly as the whole does."""
    placed = worked.blade.placed
    return (placed.x + placed.signs[0] * placed.geometry.length / 2) / placed.bar.length


def _last_sized(worked: Worked) -> int | None:
    stages = worked.forged.stages
    return next((i for i in reversed(range(len(stages))) if stages[i].step.sized and stages[i].after.section.form == "rectangle"), None)


def _step(bar: BarRecipe, name: str, step: str) -> Step:
    return next(s for b in all_bars(bar) if b.id == name for s in b.steps if s.id == step)


def _with_step(bar: BarRecipe, name: str, step: Step) -> BarRecipe:
    if bar.id == name:
        return bar.model_copy(update={"steps": [step if s.id == step.id else s for s in bar.steps]})
    children = bar.start.children()
    if not children:
        return bar
    start = bar.start.model_copy(update={"bars": [_with_step(b, name, step) for b in children]})
    return bar.model_copy(update={"start": start})
