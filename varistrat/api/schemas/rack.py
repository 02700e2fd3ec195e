"""What goes in and out about the rack."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.marks import Base
from varistrat.core.design.document import Document
from varistrat.core.rack.item import MOST_GRAMS, RackItem
from varistrat.core.rack.typed import Unit

Code = Annotated[str, Field(min_length=1, max_length=40)]


@dataclass(frozen=True)
class ItemOut:
    """mm, g; `there`: how many (of powder: g); each, worth: in the shop's own money; offcut_of: what it was cut from, empty for what was
    bought; picture: its address, empty when it has no pattern. A plain dataclass: a rack may hold thousands."""

    id: int
    code: str
    steel: str
    steel_name: str
    form: str
    width: float | None
    thickness: float | None
    wall: float | None
    length: float | None
    size: str
    there: float
    grams_each: float
    mass: float
    each: float | None
    worth: float | None
    batch: str
    bought: date | None
    source: str
    place: str
    note: str
    low: float | None
    mark: str
    runs_low: bool
    moved: datetime | None
    offcut_of: str
    design: int | None
    picture: str


@dataclass(frozen=True)
class RackOut:
    """items: with those of which nothing is left."""

    items: list[ItemOut]
    mass: float
    worth: float


class TypedIn(Schema):
    text: str = Field(max_length=60_000)
    unit: Unit = "mm"


class TypedOut(Schema):
    """A line, what was understood of it in words, and the item; or what was not understood."""

    text: str
    says: str
    item: RackItem | None
    wrong: str
    cure: str


class AddIn(Schema):
    items: list[RackItem] = Field(min_length=1, max_length=200)
    codes: list[Code] | None = None


class MoveIn(Schema):
    """bring: so many more came; take: so many went; count: so many were counted."""

    do: Literal["bring", "take", "count"]
    amount: float = Field(ge=0, le=MOST_GRAMS)
    note: str = Field("", max_length=200)


class SayIn(Schema):
    """What may be said of an item later; what is left out stays. base: the item's mark when it was looked at."""

    base: Base = ""
    batch: str | None = Field(None, max_length=120)
    bought: date | None = None
    source: str | None = Field(None, max_length=120)
    place: str | None = Field(None, max_length=120)
    note: str | None = Field(None, max_length=400)
    low: float | None = Field(None, gt=0, le=MOST_GRAMS)
    each: float | None = Field(None, ge=0, lt=1e9)


class MovementOut(Schema):
    id: int
    kind: str
    amount: float
    at: datetime
    by: str
    for_design: str
    note: str
    act: UUID


class ActOut(Schema):
    """What undoes it."""

    act: UUID


class CsvIn(Schema):
    text: str


class ReadOut(Schema):
    new: int
    corrected: int


class KeepIn(Schema):
    """What is left of a bar that is cut goes back so long, so many of them."""

    item: int
    length: float = Field(gt=0)
    count: int = Field(1, ge=1, le=1000)


class TakeIn(Schema):
    """Items by id and how many of each are taken for a design."""

    design: int | None = None
    takes: dict[int, float] = Field(max_length=500)
    keep: list[KeepIn] = Field([], max_length=500)


class KeepOffcutIn(Schema):
    """One of the offcuts of this design's blade, to be kept for its pattern."""

    design: int
    document: Document
    name: str = Field(max_length=40)


class UseOut(Schema):
    name: str
    how: str
    count: int
    stretch: float


class OfferedOut(UseOut):
    """One offcut that would do, mm; picture: address of its pattern."""

    item: int
    code: str
    width: float
    thickness: float
    length: float
    picture: str


class FittingOut(Schema):
    """What goes on a blade, the block it is made from (mm), and the offcuts that would do for it, best first."""

    name: str
    length: float
    width: float
    thickness: float
    offered: list[OfferedOut]


class BegunOut(Schema):
    """Id of the design that was begun."""

    id: int
