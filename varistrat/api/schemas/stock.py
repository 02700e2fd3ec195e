"""What goes in and out about the stock of a design."""

import datetime
from typing import Annotated

from ninja import Schema
from pydantic import Field, StringConstraints

from varistrat.core.design.document import Document
from varistrat.core.design.standing import Against
from varistrat.core.stock.ways import Give


class WayOutOut(Schema):
    """One number that gives way; `document`: the design so; `worse`: what fails or needs care then. See core WayOut."""

    give: Give
    says: str
    value: float
    document: Document
    spare: float
    mass: float
    worse: list[Against]


class WaysOut(Schema):
    """`short`: these are ways out of a bar that is too short; else ways to do with less."""

    short: bool
    ways: list[WayOutOut]


class MadeSoIn(Schema):
    """The piles are to be as long as they must be; bars: ids of those, none: all."""

    document: Document
    bars: list[str] | None = Field(None, max_length=200)


class MadeSoOut(Schema):
    """worse: what fails or needs care of the design so, and does not as it is."""

    document: Document
    worse: list[Against]


class LaidIn(Schema):
    """A bar of the rack laid out by hand: its code and the pieces in their order."""

    item: str = Field(max_length=40)
    pieces: list[str] = Field(max_length=500)


class CutsIn(Schema):
    document: Document
    laid: list[LaidIn] = Field([], max_length=500)
    kerf: float | None = None


class TimeIn(Schema):
    """first: the weekday it is begun on, Monday 0."""

    document: Document
    first: int = Field(0, ge=0, le=6)


class CalendarIn(Schema):
    """begun: the day; said: what operations are called on the screen, by id."""

    document: Document
    begun: datetime.date
    title: str = Field(min_length=1, max_length=200)
    said: dict[Annotated[str, StringConstraints(max_length=200)], Annotated[str, StringConstraints(max_length=400)]] = Field(
        default_factory=dict, max_length=2000
    )


class InSheetsIn(Schema):
    """These layers (as pieces are called) are to be piled of so many sheets each."""

    document: Document
    wanted: list[str] = Field(max_length=500)
    count: int = Field(ge=2, le=6)
    sheet: float = Field(gt=0, le=1000)
