"""Steel that does not exist, to be ruined: exercises on the real core, each a pure step from state to state."""

from typing import Any

from varistrat.core.errors import InputError
from varistrat.core.practice.by_eye import ByEye
from varistrat.core.practice.core_centred import CoreCentred
from varistrat.core.practice.exercise import Exercise
from varistrat.core.practice.find_fault import FindFault
from varistrat.core.practice.read_face import ReadFace
from varistrat.core.practice.sums_by_hand import SumsByHand

EXERCISES: dict[str, Exercise[Any]] = {e.key: e for e in (CoreCentred(), ReadFace(), FindFault(), ByEye(), SumsByHand())}
"""A new one is a file and a line here."""


def exercise_of(key: str) -> Exercise[Any]:
    """Raises InputError for one there is not."""
    if key not in EXERCISES:
        raise InputError.at("kind", f"there is no exercise {key[:40]!r}", f"use one of {', '.join(EXERCISES)}")
    return EXERCISES[key]
