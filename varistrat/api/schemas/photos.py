"""A photo of a blade held against its prediction."""

from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.blade import MarkIn
from varistrat.core.blade.geometry import Side
from varistrat.core.photo.fit import FittedNumber
from varistrat.core.photo.numbers import PhotoNumber

Marks = Annotated[list[MarkIn], Field(max_length=40)]
Key = Annotated[str, Field(max_length=120)]
Changes = Annotated[dict[Key, Annotated[float, Field(ge=-1e4, le=1e4)]], Field(max_length=20)]


class ToMarkOut(Schema):
    """A place to be marked on the photo: x from the heel, y above the heel's edge, mm."""

    name: str
    x: float
    y: float


class FaceToMarkOut(Schema):
    """marks: in order; width, height: of the blade, mm; numbers: what a photo of this face may tell; usual: keys of those looked for."""

    marks: list[ToMarkOut]
    width: float
    height: float
    numbers: list[PhotoNumber]
    usual: list[str]


class PhotoLaidIn(Schema):
    marks: Marks
    side: Side
    px: Annotated[int, Field(ge=64, le=2400)] = 1200
    even: bool = False


class MadeFaceIn(Schema):
    """changes: by key of a number."""

    side: Side
    changes: Changes = {}
    px: Annotated[int, Field(ge=64, le=2400)] = 1200


class FitIn(Schema):
    """numbers: keys; None: the usual ones."""

    marks: Marks
    side: Side
    numbers: list[Key] | None = Field(None, max_length=20)


class FittedOut(Schema):
    """made, made_low, made_high: what the number is by the photo, in its unit."""

    fitted: FittedNumber
    made: float
    made_low: float
    made_high: float
    words: str


class PhotoFitOut(Schema):
    numbers: list[FittedOut]
    like_planned: float
    like: float


class TakeOverIn(Schema):
    side: Side
    changes: Changes


class TakenOverOut(Schema):
    """document: the design as the photo shows it was made; why: to be written down."""

    document: dict[str, Any]
    why: str
