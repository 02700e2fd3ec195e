"""What is read off a test-etched blade, and off which faces."""

import hashlib
import json
from typing import Annotated, Literal

from pydantic import Field

from varistrat.core.bars.model import Mm0, Model, SignedMm, shown
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.model import Blade
from varistrat.core.errors import InputError

MOST_READINGS = 200
_FACES = ("outline", "spine_thickness", "grind", "correction")
"""What of a blade makes its ground faces. Errors are not among them: they say how the same faces came out."""


class Reading(Model):
    """One height read off a test-etched blade. height: square to the edge, mm; none or spine:
    no line seen, clad to the edge or core to the spine."""

    x: Mm0
    side: Side
    height: Mm0 | None = None
    state: Literal["line", "none", "spine"] = "line"


class Ground(Model):
    """Taken off each face after a round: [[x, at the edge, at the spine]], mm."""

    right: Annotated[list[Annotated[list[Mm0], Field(min_length=3, max_length=3)]], Field(max_length=1000)] = []
    left: Annotated[list[Annotated[list[Mm0], Field(min_length=3, max_length=3)]], Field(max_length=1000)] = []


class Round(Model):
    """One test etch that is over: what was read, and what was ground off for it. Those heights were read on a surface that is gone."""

    heights: Annotated[list[Reading], Field(max_length=MOST_READINGS)] = []
    within: Annotated[float, Field(ge=0.02, le=20)] = 0.4
    ground: Ground = Ground()


class Readings(Model):
    """What was read on the blade as it is now, how well (one standard deviation, mm), and the extra readings that settle what heights alone
    cannot.

    surface: of which faces they were read, see `surface_of`; empty: not said. stations: where a reading is meant to be taken, mm from the
    heel; rounds: earlier test etches, oldest first, each followed by its grinding.

    edge_thickness: mean of the whole edge, mm; off_middle: how far the middle of the ground blade lies right of the tang's, mm.
    """

    heights: Annotated[list[Reading], Field(max_length=MOST_READINGS)] = []
    surface: Annotated[str, Field(max_length=40)] = ""
    stations: Annotated[list[Mm0], Field(max_length=MOST_READINGS)] = []
    rounds: Annotated[list[Round], Field(max_length=40)] = []
    within: Annotated[float, Field(ge=0.02, le=20)] = Field(0.4, **shown("Read to within", "mm", "one standard deviation"))
    edge_thickness: Mm0 | None = Field(None, **shown("Edge thickness measured", "mm"))
    off_middle: SignedMm | None = Field(None, **shown("Ground middle right of the tang's", "mm"))


def surface_of(blade: Blade) -> str:
    """A short mark of the blade's ground faces: another one after any grinding, real or planned."""
    data = blade.as_json()
    text = json.dumps({k: data.get(k) for k in _FACES}, sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def must_be_of(readings: Readings, blade: Blade) -> None:
    """Heights say nothing of faces they were not read on. Raises InputError."""
    if readings.heights and readings.surface and readings.surface != surface_of(blade):
        raise InputError.at(
            "readings.surface",
            "the blade's shape or grind was changed since these heights were read",
            "begin a new round if it was ground, or say that they still hold",
        )
