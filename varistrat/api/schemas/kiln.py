"""Kiln programs, runs and small instruments in and out of the API."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.marks import Base
from varistrat.core.design.document import Document
from varistrat.core.findings import Finding
from varistrat.core.kiln.program import Program
from varistrat.core.limits import MAX_FILE_BYTES

Keys = Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=40)]


class ProgramIn(Schema):
    """program: the one that is looked at; steels: in the kiln with it."""

    program: Program
    steels: Keys = []


class KeptProgramOut(Schema):
    id: int
    mark: str
    program: Program


class ProgramAgainIn(Program):
    """base: the mark that the kept one had when it was looked at."""

    base: Base = ""


class ProgramCheckOut(Schema):
    """corners: [minutes, C], if the kiln keeps up."""

    findings: list[Finding]
    corners: list[list[float]]
    hours: float


class ProgramCsvIn(Schema):
    text: str = Field(max_length=MAX_FILE_BYTES)
    name: str = Field("From a file", max_length=120)


class StartIn(Schema):
    design: int
    program: Program
    document: Document
    """What is in the kiln: its steels, its size."""
    speed: float = 60.0


class SpeedIn(Schema):
    speed: float


class KilnRunLineOut(Schema):
    id: int
    name: str
    started: datetime
    state: Literal["running", "held", "done", "stopped"]
    minutes: float
    alarms: int


class EventOut(Schema):
    seconds: float
    kind: str
    what: str
    alarm: str | None = None


class KilnRunOut(KilnRunLineOut):
    """record: [seconds, set point, chamber, centre, power, segment, minutes left] from row `after` on; reading: now."""

    design: int
    speed: float
    program: Program
    corners: list[list[float]]
    reading: list[float]
    blade: float
    """What a second thermocouple on the blade says, C."""
    failed: bool
    door: bool
    raised: list[str]
    rows: int
    record: list[list[float]]
    events: list[EventOut]


class TesterIn(Schema):
    """stage: as quenched, or after the tempers done so far."""

    document: Document
    stage: Literal["quenched", "tempered"]
    celsius: float = Field(200.0, ge=100, le=700)
    hours: float = Field(2.0, gt=0, le=48)
    seed: int = Field(1, ge=0, le=2**31 - 1)


class TesterOut(Schema):
    hrc: list[float]
    file: Literal["skates", "slips", "bites"]
