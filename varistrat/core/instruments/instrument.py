"""The interface of every instrument: it is read, and says a value, its unit and when, or shows a picture. Services know no more of one
than this."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal, Protocol

Unit = Literal["mm", "g", "C", "HRC"]
"""In which a reading is kept, whatever the instrument shows."""


@dataclass(frozen=True)
class Taken:
    """value, in unit; at: when it was taken, where that is known."""

    value: float
    unit: Unit
    at: datetime | None = None


class Instrument(Protocol):
    """One that is held against something and read."""

    @property
    def unit(self) -> Unit:
        """Of its readings."""

    def read(self) -> Taken:
        """What it says now."""


@dataclass(frozen=True)
class Picture:
    """What a camera saw, as a JPEG; at: when it was taken, where that is known."""

    jpeg: bytes
    at: datetime | None = None


class Eye(Protocol):
    """An instrument whose reading is a picture."""

    def read(self) -> Picture:
        """What it sees now."""
