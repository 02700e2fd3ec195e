"""What goes in and out of the blade's routes: core line, measures, study, steering, photographs, drawings."""

from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from varistrat.core.design.document import Document
from varistrat.core.laminate.photo import FARTHEST


class StationsIn(Schema):
    document: Document
    stations: int = Field(60, ge=2, le=400)


class OffcutIn(Schema):
    document: Document
    name: str = Field(max_length=40)


class OffcutBarOut(Schema):
    document: dict[str, Any]


class MeasuresIn(Schema):
    document: Document
    above: list[float] = Field([0.0, 1.0, 3.0, 6.0], max_length=12)
    belts: list[float] | None = Field(None, max_length=12)


class StudyIn(Schema):
    document: Document
    blades: int = Field(10_000, ge=100, le=50_000)
    stations: int = Field(60, ge=10, le=200)


Px = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST)]
"""Also mm, where they are of a blade."""


class MarkIn(Schema):
    px: Px
    py: Px
    x: Px
    y: Px


class PhotoIn(Schema):
    document: Document
    marks: list[MarkIn] = Field(max_length=40)
    points: list[tuple[Px, Px]] = Field(max_length=200)


class PickedOut(Schema):
    """Station and height square to the edge, mm; `inside`: whether it lies on the blade."""

    x: float
    height: float
    inside: bool


class PhotoOut(Schema):
    worst: float
    points: list[PickedOut]
    rim: list[list[float]]
    """The blade's outline as the picture would show it: to check the marks by."""


class BladeOutlineOut(Schema):
    outline: dict[str, Any]
    length: float
    height: float
    notes: list[str]


class OutlineFileIn(Schema):
    document: Document
    kind: Literal["svg", "dxf"]
