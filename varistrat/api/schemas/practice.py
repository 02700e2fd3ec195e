"""Practice: exercises, and how they stand."""

from datetime import datetime
from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

from varistrat.core.practice.by_eye import EyesShown
from varistrat.core.practice.core_centred import BlankShown
from varistrat.core.practice.exercise import Deed, Result
from varistrat.core.practice.find_fault import CaseShown
from varistrat.core.practice.read_face import FaceShown
from varistrat.core.practice.sums_by_hand import SumsShown

AnyShown = Annotated[BlankShown | FaceShown | CaseShown | EyesShown | SumsShown, Field(discriminator="kind")]


class ExerciseOut(Schema):
    """ended: how many times; best: of 100, with its seed; open: one that was left in the middle."""

    key: str
    title: str
    about: str
    ended: int
    best: float | None
    best_seed: int | None
    open: int | None


class PracticeIn(Schema):
    kind: str = Field(max_length=40)
    seed: int | None = None


class ActIn(Schema):
    """after: how many actions there were when this one was chosen."""

    after: int = Field(ge=0, le=1000)
    action: dict[str, Any]


class AttemptOut(Schema):
    id: int
    kind: str
    title: str
    seed: int
    done: int
    ended: bool
    minutes: float
    moves: list[Deed]
    shown: AnyShown
    result: Result | None
    begun: datetime
