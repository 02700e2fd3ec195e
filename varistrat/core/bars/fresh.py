"""New steps and starts with values that suit the bar they are put on, and what each is called."""

import re
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.model import tidy
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.steps import STEPS
from varistrat.core.errors import InputError

Json = dict[str, Any]
_STARTS = {s.model_fields["kind"].default: s for s in STARTS}
_STEPS = {s.model_fields["kind"].default: s for s in STEPS}
WORDS: dict[str, dict[str, str]] = {
    part.model_fields["kind"].default: {"name": part.title, "about": part.blurb} for part in (*STARTS, *STEPS)
}


HANDS: dict[str, Json] = {
    "hammer": {"amount": 0.3, "wavelength": 26.0, "seed": 1},
    "press": {"amount": 0.12, "wavelength": 45.0, "seed": 1},
    "roll": {"amount": 0.04, "wavelength": 80.0, "seed": 1},
}
"""What each way of working usually leaves in the layers, mm; indicative."""


def left_by(hand: Json, thickness: float) -> Json:
    """The usual unevenness of a bar that ends so thick: never more than a thirtieth of it."""
    return {**hand, "amount": tidy(min(hand["amount"], thickness / 30))}


def fresh_step(kind: str, bar: Bar, hands: dict[str, dict[str, float]] | None = None, sealed: bool = False) -> Json:
    """A new step of this kind for this bar; `hands`: the shop's own unevenness; sealed: it has steels that weld only so. Raises InputError
    for a kind there is not."""
    for step in STEPS:
        if step.model_fields["kind"].default == kind:
            new = {"kind": kind, **step.fresh(bar)}
            if sealed and "atmosphere" in step.model_fields:
                new["atmosphere"] = "sealed"
            if step.by_hand:
                new["uneven"] = left_by((hands or HANDS)["hammer"], float(new.get("thickness", bar.thickness)))
            return new
    known = ", ".join(s.model_fields["kind"].default for s in STEPS)
    raise InputError.at("kind", f"unknown kind {kind[:40]!r}", f"use one of {known}")


def fresh_start(kind: str, bar: Json, size: Bar) -> Json:
    """What a bar (its recipe as JSON, its finished size) becomes when its start is to be of another kind. Raises InputError."""
    if kind not in _STARTS:
        raise InputError.at("kind", f"unknown kind {kind[:40]!r}", f"use one of {', '.join(_STARTS)}")
    return _STARTS[kind].fresh(bar, size, opposite)


def opposite(bar: Json) -> Json:
    """The same bar with every twist in it the other way: what a mirrored neighbour must be forged as."""
    start = _STARTS[bar["start"]["kind"]].opposite(bar["start"], opposite)
    made = {**bar, "start": start, "steps": [_STEPS[s["kind"]].opposite(s) for s in bar.get("steps", [])]}
    if note := made.get("note"):
        # a bar that was called after its hand is called after the other now
        other = {"right": "left", "left": "right"}
        made["note"] = re.sub(
            r"\b(right|left)\b", lambda m: other[m[0]], re.sub(r"\b(Right|Left)\b", lambda m: other[m[0].lower()].capitalize(), note)
        )
    return made
