"""The bevel plan: how far up each belt may go, so that the finer ones bring the line to its height.

A belt takes off what it must to clear the scratches of the one before: so much square to the face.
On a bevel whose face leans b from the middle plane (mm per mm of height) that lifts the bevel's top
by d sqrt(1 + b^2)/b, and thins the edge by 2 d sqrt(1 + b^2). Derived in docs/physics.md#bevel-plan.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.grits import GRITS, must_take
from varistrat.core.errors import InputError


@dataclass(frozen=True)
class Belt:
    """A belt or paper, and what it takes off each face to clear the one before, mm."""

    name: str
    takes: float


ON_BELTS = ("P36", "P60", "P120", "P220")
FIRST_PAPER = "P180"
"""A grit coarser than the belts ended with: it shows what they left."""
PAPERS = ("P400", "P600", "P800", "P1000", "P1500", "P2000")


def sequence(last: str = "P800") -> tuple[Belt, ...]:
    """Belts and paper as one, each taking what clears the one before (grits.py); last: the paper to end with, or the belt.

    Raises InputError for what is no paper of the sequence.
    """
    whole = (*ON_BELTS, FIRST_PAPER, *PAPERS)
    if last not in whole:
        raise InputError.at("last", f"{last[:20]!r} is not in the sequence", f"end with one of {', '.join(whole)}")
    names = whole[: whole.index(last) + 1]
    return tuple(Belt(name, must_take(GRITS[before] if before else None)) for before, name in zip((None, *names), names, strict=False))


BELTS = sequence()
"""The first shapes the bevel; what the others take clears the scratches before them. Indicative; shops differ."""


@dataclass(frozen=True)
class BeltStop:
    """After this belt: height of the bevel's top above the edge, edge thickness whole; mm."""

    belt: str
    takes: float
    top: float
    edge: float


def bevel_plan(geometry: Geometry, side: str = "right", belts: Sequence[Belt] = BELTS, at: float | None = None) -> list[BeltStop]:
    """Where to stop with each belt on one side, at station `at` (the middle of the length if left out).

    Raises InputError when the bevel goes up to the spine or is no flat that leans.
    """
    grind = geometry.blade.grind.right if side == "right" else geometry.blade.grind.left
    x = np.array([geometry.length / 2 if at is None else at])
    height = float(geometry.height(x)[0])
    top = min(grind.height, height) if grind.height is not None else height
    faces = geometry.faces(x, np.array([0.98 * top]))
    lower = geometry.faces(x, np.array([0.90 * top]))
    rise = float((faces.right - lower.right)[0] if side == "right" else (lower.left - faces.left)[0])
    lean = rise / (0.08 * top)
    if lean <= 1e-6:
        raise InputError.at(
            f"grind.{side}", "this side's bevel does not lean just under its top, so no belt moves its line", "give it a bevel"
        )
    slant = float(np.sqrt(1 + lean * lean))
    edge = float(geometry.faces(x, np.zeros(1)).thickness[0])
    out = []
    to_come = 0.0
    for belt in reversed(belts):
        if belt.takes < 0:
            raise InputError.at("belts", f"{belt.name} takes {belt.takes:g} mm", "give 0 or more")
        out.append(BeltStop(belt.name, belt.takes, top - to_come * slant / lean, edge + 2 * to_come * slant))
        to_come += belt.takes
    return out[::-1]
