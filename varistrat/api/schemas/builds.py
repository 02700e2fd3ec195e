"""What goes in and out about builds and orders."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.marks import Base
from varistrat.api.schemas.rack import KeepIn
from varistrat.api.schemas.stock import WayOutOut
from varistrat.core.build.entry import AnyEntry
from varistrat.core.build.summary import BuildSummary
from varistrat.core.design.document import Document
from varistrat.core.finish import purpose
from varistrat.core.finish.ordered import HIGHEST, LONGEST, LOWEST, SHORTEST

State = Literal["planned", "in work", "resting", "done", "given up"]
Purpose = Literal[""] | purpose.Purpose
OrderState = Literal["open", "delivered", "withdrawn"]
Who = Annotated[str, Field(max_length=120)]
Title = Annotated[str, Field(min_length=1, max_length=200)]
Why = Annotated[str, Field(min_length=1, max_length=2000)]
AT_ONCE = 500
"""Entries in one request."""


@dataclass(frozen=True)
class BuildOut:
    """design, order: ids; laid_aside: steel was taken for it from the rack; plan: number of the one that counts;
    mark: alike while nothing that may be said of it is changed. A plain dataclass: a book may hold thousands."""

    id: int
    uid: UUID
    title: str
    who: str
    due: date | None
    state: State
    made: datetime
    by: str
    design: int | None
    design_name: str
    order: int | None
    order_title: str
    laid_aside: bool
    plan: int
    mark: str
    picture: str
    summary: BuildSummary


@dataclass(frozen=True)
class BookOut:
    builds: list[BuildOut]


class BeginIn(Schema):
    """uid: made by who begins it, so that the same twice is once; document: the design as it is frozen; takes: items of the rack by id and
    how many of each; knowing: codes of findings that say that it fails, with which it is begun all the same; laid: acts in which steel was
    taken for the design before (see laid-aside); besides: takes are besides what is laid aside."""

    uid: UUID
    design: int | None = None
    document: Document
    title: Title
    who: Who = ""
    due: date | None = None
    order: int | None = None
    takes: dict[int, float] = Field(default_factory=dict, max_length=500)
    keep: list[KeepIn] = Field([], max_length=500)
    knowing: list[Annotated[str, Field(max_length=60)]] = Field([], max_length=100)
    laid: list[UUID] = Field([], max_length=20)
    besides: bool = False


class BuildSayIn(Schema):
    """What is left out stays. base: the build's mark when it was looked at."""

    base: Base = ""
    title: Title | None = None
    who: Who | None = None
    due: date | None = None
    order: int | None = None
    state: State | None = None


class OddIn(Schema):
    """kind: of operation."""

    kind: str = Field(max_length=40)
    kept: bool


class EntriesIn(Schema):
    """Each is checked by itself, so that one that is wrong keeps no other back: see core/build/entry.py."""

    entries: list[dict[str, Any]] = Field(max_length=AT_ONCE)


class RefusedOut(Schema):
    id: str
    wrong: str
    cure: str


class KeptPhotoOut(Schema):
    """px of the larger one that is kept."""

    uid: UUID
    width: int
    height: int


class KeptOut(Schema):
    """kept: ids of all that are in the log now."""

    kept: list[str]
    refused: list[RefusedOut]


@dataclass(frozen=True)
class RecordOut:
    """row: told back to ask for what came after it."""

    row: int
    by: str
    came: datetime
    entry: AnyEntry


class AmendIn(Schema):
    """id, at: of the entry that says so in the log, made by who asks; base: number of the plan that was looked at."""

    base: int | None = Field(None, ge=1, lt=2**31)
    id: UUID
    at: datetime
    document: Document
    why: Why


class MadeOut(Schema):
    """planned: as it was frozen last; made: with all that was measured."""

    planned: Document
    made: Document


class BuildWaysOut(Schema):
    ways: list[WayOutOut]


class OrderSaid(Schema):
    """length, height: of the blade, mm; steels: keys of those it is to be of."""

    who: Annotated[str, Field(min_length=1, max_length=120)]
    title: Title
    purpose: Purpose = ""
    promised: date | None = None
    price: float | None = Field(None, ge=0, lt=1e9)
    must: str = Field("", max_length=1000)
    length: Annotated[float, Field(ge=SHORTEST, le=LONGEST)] | None = None
    height: Annotated[float, Field(ge=LOWEST, le=HIGHEST)] | None = None
    steels: list[Annotated[str, Field(max_length=40)]] = Field([], max_length=6)
    state: OrderState = "open"


class OrderIn(OrderSaid):
    """base: its mark when it was looked at."""

    base: Base = ""


class OrderOut(OrderSaid):
    """builds: ids of those that answer it; design: that was begun for it."""

    design: int | None
    mark: str
    id: int
    made: datetime
    builds: list[int]


class SuitsIn(Schema):
    document: Document
    purpose: purpose.Purpose
