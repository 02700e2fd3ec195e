"""The scale that the fires take, counted in the steps: so that sizes, ledger and stock know what the fires reckon."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from varistrat.core.design.document import Document
from varistrat.core.design.edit import with_new_step, with_steps
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.fires.fired import Fired

FINE = 0.01
"""mm per face: nearer than that a step's scale is as reckoned."""
WITHIN = 0.15
"""Share of it that a scale counted some changes ago may be off: a bar a little smaller scales a little otherwise. It may be off by a heat
too, for counting it can save one, and then asks for it again."""
ROUNDS = 4
NEW = "newstep"

Counting = Literal["cold", "reckoned", "own", "partly", "none"]
"""There are no heats; every step with heats counts what the fires reckon; every one counts something; some count none; none does."""


@dataclass(frozen=True)
class ScaleCounted:
    """steps: how many have heats that scale; counted: how many of them count scale; takes: mm of the finished bar that the scale not
    counted would take, None where the bar cannot be made with it."""

    counting: Counting
    steps: int
    counted: int
    takes: float | None


def counted(document: Document) -> Document:
    """The document with the scale of its fires in its steps, to 0.01 mm per face.

    A document that cannot be forged, or no longer can with its scale counted, is given back as it is.
    """
    now, worked = document, Worked.of(document)
    for _ in range(ROUNDS):
        if worked.problems:
            return document
        other = {f.step: round(f.scale, 2) for f in _hot(worked) if abs(round(f.scale, 2) - _said(worked)[f.step]) > FINE / 2}
        if not other:
            break
        now = with_steps(now, {step: {"scale": scale} for step, scale in other.items()})
        worked = Worked.of(now)
    return document if worked.problems else now


def scale_counted(worked: Worked) -> ScaleCounted:
    """How much of the scale is counted. Raises InputError when the bar cannot begin."""
    hot, said = _hot(worked), _said(worked)
    left_out = [f for f in hot if not said[f.step]]
    if not left_out:
        as_reckoned = all(abs(said[f.step] - f.scale) < FINE + max(WITHIN, 1 / max(2, f.each)) * f.scale for f in hot)
        return ScaleCounted(("reckoned" if as_reckoned else "own") if hot else "cold", len(hot), len(hot), 0.0)
    so = Worked.of(with_steps(worked.document, {f.step: {"scale": round(f.scale, 2)} for f in left_out}))
    takes = None if so.problems else float(worked.forged.bar.length - so.forged.bar.length)
    return ScaleCounted("none" if len(left_out) == len(hot) else "partly", len(hot), len(hot) - len(left_out), takes)


def scale_of_new(worked: Worked, bar: str, at: int, step: Mapping[str, Any]) -> float:
    """mm per face that a step (JSON) takes when it is put into a bar (its id; empty: the whole) as its `at`-th, as the fires reckon it.

    0 in a design that counts no scale, and where the step cannot be carried out.
    """
    hot, said = _hot(worked), _said(worked)
    if hot and not any(said[f.step] for f in hot):
        return 0.0
    try:
        fired = Worked.of(with_new_step(worked.document, bar, at, {**step, "id": NEW})).fire.fired
    except InputError:
        return 0.0
    return next((round(f.scale, 2) for f in fired if f.step == NEW and f.heats), 0.0)


def _hot(worked: Worked) -> list[Fired]:
    """Steps whose heats turn to scale what a ledger would tell."""
    return [f for f in worked.fire.fired if f.heats and f.scale >= FINE / 2]


def _said(worked: Worked) -> dict[str, float]:
    return {s.id: s.scale for bar in worked.document.bars.values() for s in bar.steps}
