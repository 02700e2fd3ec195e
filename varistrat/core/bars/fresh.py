"""New steps and starts with values that suit the bar they are put on, and what each is called."""

import re
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.model import tidy
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.steps import STEPS
from varistrat.core.errors import InputError

Json = dict[str, Any]
WORDS: dict[str, dict[str, str]] = {
    part.model_fields["kind"].default: {"name": part.title, "about": part.blurb} for part in (*STARTS, *STEPS)
}


BY_HAND = ("weld", "draw", "fold")
"""Steps that are put in with the hammer's usual unevenness, so that a hand-forged bar looks it."""
HANDS: dict[str, Json] = {
    "hammer": {"amount": 0.3, "wavelength": 26.0, "seed": 1},
    "press": {"amount": 0.12, "wavelength": 45.0, "seed": 1},
    "roll": {"amount": 0.04, "wavelength": 80.0, "seed": 1},
}
"""What each way of working usually leaves in the layers, mm; indicative."""


def left_by(hand: Json, thickness: float) -> Json:
    """The usual unevenness of a bar that ends so thick: never more than a thirtieth of it."""
    return {**hand, "amount": tidy(min(hand["amount"], thickness / 30))}


def fresh_step(kind: str, bar: Bar, hands: dict[str, dict[str, float]] | None = None) -> Json:
    """A new step of this kind for this bar; `hands`: the shop's own unevenness. Raises InputError for a kind there is not."""
    for step in STEPS:
        if step.model_fields["kind"].default == kind:
            new = {"kind": kind, **step.fresh(bar)}
            if kind in BY_HAND:
                new["uneven"] = left_by((hands or HANDS)["hammer"], float(new.get("thickness", bar.thickness)))
            return new
    known = ", ".join(s.model_fields["kind"].default for s in STEPS)
    raise InputError.at("kind", f"unknown kind {kind[:40]!r}", f"use one of {known}")


def fresh_start(kind: str, bar: Json, size: Bar) -> Json:
    """What a bar (its recipe as JSON, its finished size) becomes when its start is to be of another kind.

    Joined bars begin with this bar and a second like it, its twists the other way; the others keep the size.
    """
    if kind == "assembly":
        return {"start": {"kind": "assembly", "join": "side_by_side", "bars": [bar, opposite(bar)]}, "steps": []}
    length, w, t = (round(v, 1) for v in (size.length, size.width, size.thickness))
    steel = "1084"
    starts: dict[str, Json] = {
        "solid": {"steel": steel, "length": length, "width": w, "thickness": t},
        "stack": {
            "layers": [{"steel": s, "thickness": round(t / 7, 2)} for s in ("1084", "15n20") * 3 + ("1084",)], "width": w, "length": length,
        },
        "canister": {
            "length": length, "width": w, "thickness": t, "matrix": {"steel": steel, "packing": 0.6},
            "inserts": [{"shape": "rod", "steel": "15n20", "size": max(round(min(w, t) / 6, 1), 0.1), "count": 7, "seed": 1}],
        },
    }  # fmt: skip
    if kind not in starts:
        raise InputError.at("kind", f"unknown kind {kind[:40]!r}", f"use one of assembly, {', '.join(starts)}")
    return {"start": {"kind": kind, **starts[kind]}, "steps": bar.get("steps", [])}


def opposite(bar: Json) -> Json:
    """The same bar with every twist in it the other way: what a mirrored neighbour must be forged as."""
    other = {"right": "left", "left": "right"}
    steps = []
    for step in bar.get("steps", []):
        if step["kind"] == "twist":
            step = {**step, "hand": other[step.get("hand", "right")]}
            if step.get("zones"):
                step["zones"] = [{**z, **({"hand": other[z["hand"]]} if z.get("hand") else {})} for z in step["zones"]]
        elif step["kind"] == "relief" and step.get("slant"):
            step = {**step, "slant": -step["slant"]}
        steps.append(step)
    start = bar["start"]
    if start["kind"] == "assembly":
        start = {**start, "bars": [opposite(b) for b in start["bars"]]}
    made = {**bar, "start": start, "steps": steps}
    if note := made.get("note"):
        # a bar that was called after its hand is called after the other now
        made["note"] = re.sub(
            r"\b(right|left)\b", lambda m: other[m[0]], re.sub(r"\b(Right|Left)\b", lambda m: other[m[0].lower()].capitalize(), note)
        )
    return made
