"""What is written down while a design is carried out: append-only entries, made where they happen, in whatever order they arrive."""

from datetime import UTC, datetime, timedelta
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, BeforeValidator, Field, TypeAdapter

from varistrat.core.errors import InputError
from varistrat.core.finish.edge_test import EdgeTest
from varistrat.core.finish.grade import Grade
from varistrat.core.model import Model
from varistrat.core.route.operation import Quantity

MOST_TEXT = 2_000
SHORT = 120
MOST_ANSWERS = 40
EARLIEST = datetime(2000, 1, 1, tzinfo=UTC)
AHEAD = timedelta(days=1)
"""A clock may be wrong by so much ahead of the server's; further on it is nonsense."""


def _uuid(value: object) -> object:
    if not isinstance(value, str):
        return value
    try:
        return str(UUID(value))
    except ValueError as e:
        raise ValueError(f"{value[:40]!r} is no UUID; the one who writes an entry makes its id") from e


def _time(value: object) -> object:
    if not isinstance(value, str):
        return value
    try:
        return datetime.fromisoformat(value)
    except ValueError as e:
        raise ValueError(f"{value[:40]!r} is no time; write it like 2031-05-17T14:05:00+02:00") from e


EntryId = Annotated[str, BeforeValidator(_uuid)]
Text = Annotated[str, Field(max_length=MOST_TEXT)]
Short = Annotated[str, Field(max_length=SHORT)]


class _Entry(Model):
    """id: made by who writes it, so that the same twice is once; op: id of the operation, empty for the build as a whole; at: by the
    clock of who writes it, with its zone."""

    id: EntryId
    op: Annotated[str, Field(max_length=300)] = ""
    at: Annotated[AwareDatetime, BeforeValidator(_time)]


class MeasuredEntry(_Entry):
    """A size or reading as it is, in the unit of its quantity; place: where on it, mm from the heel or the start of the bar; spots: each
    of several readings that `value` is the mean of."""

    kind: Literal["measured"]
    quantity: Quantity
    value: Annotated[float, Field(ge=0, le=1e6)]
    typed: Short = ""
    instrument: Short = ""
    place: float | None = None
    spots: Annotated[list[Annotated[float, Field(ge=0, le=1e6)]], Field(max_length=20)] = []


class DoneEntry(_Entry):
    """minutes: how long it took, where somebody says so."""

    kind: Literal["done"]
    minutes: Annotated[float, Field(ge=0, le=1e5)] | None = None


class SkippedEntry(_Entry):
    """It is not done, and why."""

    kind: Literal["skipped"]
    why: Annotated[str, Field(min_length=1, max_length=MOST_TEXT)]


class RedoneEntry(_Entry):
    """It is to be done once more."""

    kind: Literal["redone"]
    why: Text = ""


class CheckedEntry(_Entry):
    """The answer to a check, by its place among those of the operation."""

    kind: Literal["checked"]
    check: Annotated[int, Field(ge=0, le=50)]
    good: bool


class NoteEntry(_Entry):
    """In the smith's own words."""

    kind: Literal["note"]
    text: Annotated[str, Field(min_length=1, max_length=MOST_TEXT)]


class PhotoEntry(_Entry):
    """photo: what the shop's store calls it."""

    kind: Literal["photo"]
    photo: EntryId
    caption: Text = ""


class FaultEntry(_Entry):
    """fault: its key among those we know, empty for one of the shop's own words; answers: to the looks taken so far, by cause."""

    kind: Literal["fault"]
    fault: Short = ""
    text: Text = ""
    answers: Annotated[dict[Short, bool], Field(max_length=MOST_ANSWERS)] = {}


class TestedEntry(_Entry):
    """The edge was tested: what was done, and what was seen."""

    kind: Literal["tested"]
    tested: EdgeTest


class TimerEntry(_Entry):
    """A timer of the operation begun or ended, by its place among them."""

    kind: Literal["timer"]
    timer: Annotated[int, Field(ge=0, le=50)]
    running: bool


class AmendedEntry(_Entry):
    """The plan was changed on the way: revision of the build's own copy of the design, and why."""

    kind: Literal["amended"]
    revision: Annotated[int, Field(ge=1)]
    why: Annotated[str, Field(min_length=1, max_length=MOST_TEXT)]


class GradedEntry(_Entry):
    """The smith's own grade of the blade, and why."""

    kind: Literal["graded"]
    grade: Grade
    why: Annotated[str, Field(min_length=1, max_length=MOST_TEXT)]


class VoidedEntry(_Entry):
    """Another entry does not count: nothing is overwritten."""

    kind: Literal["voided"]
    entry: EntryId
    why: Text = ""


Entry = (
    MeasuredEntry
    | DoneEntry
    | SkippedEntry
    | RedoneEntry
    | CheckedEntry
    | NoteEntry
    | PhotoEntry
    | FaultEntry
    | TestedEntry
    | TimerEntry
    | AmendedEntry
    | GradedEntry
    | VoidedEntry
)
AnyEntry = Annotated[Entry, Field(discriminator="kind")]
ENTRY: TypeAdapter[Entry] = TypeAdapter(AnyEntry)


def check_time(entry: Entry, now: datetime) -> None:
    """Raises InputError for a time of which no clock that is only a little wrong can tell."""
    if not EARLIEST <= entry.at <= now + AHEAD:
        raise InputError.at(
            "at", f"{entry.at.isoformat()} is {'in the future' if entry.at > now else 'long ago'}", "set the clock of this device right"
        )
