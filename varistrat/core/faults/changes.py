"""How a plan changes so that a fault does not come again: each one edit of the document, worked out from the design itself."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from varistrat.core.bars.starts.stack import OUTER_LAYER_MIN
from varistrat.core.bars.steps.twist import SHEAR_CARE
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.cycles import etch_plan
from varistrat.core.finish.purpose import edge_angle, suggested_for
from varistrat.core.heat.hardening.edge import edge_left

Json = dict[str, Any]
LONGER, LIGHTER = 1.5, 0.7
"""Times the relief, the minutes at heat."""
HARDER = 1.5
"""HRC that the temper is moved by."""
WIDER = 4.0
"""Degrees, both sides together."""
MOST_RELIEF, LEAST_RELIEF = 25.0, 3.0
"""um: dirt stays beyond; less is flush."""
ROOM = 0.95
"""Of the shear from which a twist is warned of."""


@dataclass(frozen=True)
class Change:
    """says: on its button; edit: changes the document's JSON in place; False when there is nothing to change."""

    says: str
    edit: Callable[[Worked, Json], bool]


def _bars(document: Json) -> Iterator[Json]:
    def walk(bar: Json) -> Iterator[Json]:
        yield bar
        for child in bar["start"].get("bars", ()):
            yield from walk(child)

    return walk(document["recipe"]["bar"])


def _steps(document: Json) -> Mapping[str, tuple[Json, int]]:
    """By id: the bar and its place in it."""
    return {s["id"]: (bar, i) for bar in _bars(document) for i, s in enumerate(bar["steps"])}


def _weld_middle(w: Worked, document: Json) -> bool:
    """The middle of what suits the steels."""
    return document.get("fire", {}).pop("weld", None) is not None


def _soak_longer(w: Worked, document: Json) -> bool:
    fire = document.setdefault("fire", {})
    said = {s["step"]: s for s in fire.get("steps", [])}
    welds = [f for f in w.fire.fired if any(s.step.id == f.step and s.step.fire == "weld" for b in w.bars.values() for s in b.stages)]
    for f in welds:
        said.setdefault(f.step, {"step": f.step})["minutes"] = round(LONGER * f.minutes, 1)
    fire["steps"] = list(said.values())
    return bool(welds)


def _outer_thicker(w: Worked, document: Json) -> bool:
    done = False
    for bar in _bars(document):
        layers = bar["start"].get("layers") or []
        for layer in {id(end): end for end in (layers[:1] + layers[-1:])}.values() if len(layers) > 1 else ():
            if layer["thickness"] < OUTER_LAYER_MIN:
                layer["thickness"], done = OUTER_LAYER_MIN, True
    return done


def _grind_deeper(w: Worked, document: Json) -> bool:
    """Below the skin that the fires before left, wherever a step grinds faces before it welds them."""
    steps, done = _steps(document), False
    for f in w.fire.fired:
        bar, at = steps[f.step]
        before = bar["steps"][at - 1] if at else None
        for step in (bar["steps"][at], before):
            if step is not None and "grind" in step and 0 <= step["grind"] < f.left:
                step["grind"], done = round(f.left + 0.05, 2), True
    return done


def _twists(w: Worked) -> Iterator[tuple[str, float, bool]]:
    """(id, shear, whether its bar is still square) of each step that turns the skin."""
    for bar in w.bars.values():
        for s in bar.stages:
            shear = s.step.heat_demand(s.before, s.after).shear
            if shear > 0:
                yield s.step.id, shear, s.before.section.form in ("rectangle", "diamond")


def _round_corners(w: Worked, document: Json) -> bool:
    done = False
    for step, _, square in _twists(w):
        if square:
            bar, at = _steps(document)[step]
            bar["steps"].insert(at, {"kind": "section", "form": "octagon"})
            done = True
    return done


def _fewer_turns(w: Worked, document: Json) -> bool:
    done = False
    for step, shear, _ in _twists(w):
        bar, at = _steps(document)[step]
        if shear > SHEAR_CARE and bar["steps"][at].get("turns"):
            bar["steps"][at]["turns"] = round(bar["steps"][at]["turns"] * ROOM * SHEAR_CARE / shear, 2)
            done = True
    return done


def _relief(times: float) -> Callable[[Worked, Json], bool]:
    def edit(w: Worked, document: Json) -> bool:
        now = etch_plan(w).wanted
        then = min(MOST_RELIEF, max(LEAST_RELIEF, round(times * now, 1)))
        document.setdefault("finish", {})["relief"] = then
        return (then > now) if times > 1 else (then < now)

    return edit


def _edge_thicker(w: Worked, document: Json) -> bool:
    b = w.hardening.blade
    usual = edge_left("before", w.hardening.quench, b.length, b.spine, b.finished)
    document.setdefault("hardening", {})["edge"] = usual
    return w.hardening.edge < usual - 1e-9


def _quench_of_steel(w: Worked, document: Json) -> bool:
    return document.get("hardening", {}).pop("quench", None) is not None


def _temper(by: float) -> Callable[[Worked, Json], bool]:
    def edit(w: Worked, document: Json) -> bool:
        now = w.document.hardening.wanted
        document.setdefault("hardening", {})["wanted"] = then = min(67.0, max(40.0, now + by))
        return then != now

    return edit


def _edge_wider(w: Worked, document: Json) -> bool:
    most = suggested_for(w.document.finish.use).angle[1]
    now = edge_angle(w.document.finish)
    document.setdefault("finish", {})["angle"] = then = min(70.0, max(now + WIDER, most))
    return then > now


CHANGES: dict[str, Change] = {
    "weld_middle": Change("Weld at the middle of what suits the steels", _weld_middle),
    "soak_longer": Change("Keep the welds half as long again at heat", _soak_longer),
    "outer_thicker": Change("Make the outer layers thick enough", _outer_thicker),
    "grind_deeper": Change("Grind the faces below their skin", _grind_deeper),
    "round_corners": Change("Knock the corners back before the twist", _round_corners),
    "fewer_turns": Change("Fewer turns, so that the skin stands it", _fewer_turns),
    "etch_longer": Change("Plan half as much relief again", _relief(LONGER)),
    "etch_lighter": Change("Plan less relief", _relief(LIGHTER)),
    "edge_thicker": Change("Leave the edge as thick as this bath asks for", _edge_thicker),
    "quench_of_steel": Change("Quench as the steels at the edge ask for", _quench_of_steel),
    "temper_cooler": Change("Want it a little harder", _temper(HARDER)),
    "temper_hotter": Change("Want it a little softer", _temper(-HARDER)),
    "edge_wider": Change("A wider edge angle", _edge_wider),
}
"""By the name a cause has it under."""


def changed_by(worked: Worked, change: str) -> Document:
    """The design with this change. Raises InputError for one there is not, where it would change nothing, or could no longer be made."""
    found = CHANGES.get(change)
    if found is None:
        raise InputError.at("change", f"there is no change {change[:40]!r}", f"use one of {', '.join(CHANGES)}")
    document = worked.document.as_json()
    if not found.edit(worked, document):
        raise InputError.at("change", "the plan is so already", "look at the other causes")
    after = read_document(document, worked.shop)
    again = Worked.of(after)
    if len(again.problems) > len(worked.problems):
        raise InputError(again.problems)
    return after
