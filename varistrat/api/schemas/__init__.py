"""What goes in and out of the API, beside the core's own models."""

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from varistrat.core.document import Document
from varistrat.core.limits import MAX_NESTING, MAX_PICTURE_PX, MAX_STEPS


class ProblemOut(Schema):
    path: str
    wrong: str
    cure: str


class ProblemBody(Schema):
    """Problem JSON (RFC 9457)."""

    type: str
    code: str
    title: str
    status: int
    problems: list[ProblemOut]
    current: int | None = None
    kept: int | None = None


class PreferencesOut(Schema):
    length: Literal["mm", "inch", "fraction", "thou"]
    temperature: Literal["C", "F"]
    theme: Literal["system", "light", "dark"]


class PreferencesIn(Schema):
    length: Literal["mm", "inch", "fraction", "thou"] | None = None
    temperature: Literal["C", "F"] | None = None
    theme: Literal["system", "light", "dark"] | None = None


class SessionOut(Schema):
    user: str | None
    demo: bool
    preferences: PreferencesOut | None


class SignIn(Schema):
    user: str = Field(max_length=150)
    password: str = Field(max_length=200)


class SteelOut(Schema):
    key: str
    name: str
    composition: dict[str, float]
    density: float
    hardens: str
    tone: float
    etch_rate: float
    why_tone: str
    grey: float
    """Linear brightness the tone is drawn with."""
    shop_tone: float | None
    sources: dict[str, str]


class ToneIn(Schema):
    tone: float | None = Field(ge=0, le=10)


class StarterOut(Schema):
    key: str
    name: str
    about: str


class CatalogueOut(Schema):
    """JSON Schemas of starts, steps and blade: the screen's forms come from these."""

    starts: dict[str, Any]
    steps: dict[str, Any]
    blade: dict[str, Any]
    step_words: dict[str, dict[str, str]]
    starters: list[StarterOut]


class DesignLine(Schema):
    id: int
    name: str
    about: str
    changed: datetime
    current: int
    picture: str


class DesignOut(Schema):
    id: int
    name: str
    about: str
    changed: datetime
    current: int
    document: Document


class DesignIn(Schema):
    """A new design: from a starter, or from a document."""

    starter: str | None = None
    name: str | None = Field(None, max_length=200)
    document: Document | None = None


class SaveIn(Schema):
    document: Document
    base: int = Field(ge=0)
    name: str | None = Field(None, max_length=200)


class RevisionOut(Schema):
    number: int
    base: int
    stale: bool
    created: datetime
    note: str


BarAddress = Annotated[list[Annotated[int, Field(ge=0)]], Field(max_length=MAX_NESTING)]
"""Which bar of the design: [] the whole, [1] its second bar, [1, 0] the first that goes into that..."""


class DocumentIn(Schema):
    document: Document


class BarIn(Schema):
    document: Document
    bar: BarAddress = []


class FreshStepIn(Schema):
    """A step of `kind` is to be put before step `at` of the document."""

    document: Document
    bar: BarAddress = []
    at: int = Field(ge=0, le=MAX_STEPS)
    kind: str = Field(max_length=40)


class FreshStepOut(Schema):
    step: dict[str, Any]


class FreshBarIn(Schema):
    """The start of this bar is to be of another kind; `opposite`: the bar as it is, twisted the other way."""

    document: Document
    bar: BarAddress = []
    kind: str = Field(max_length=40)


class FreshBarOut(Schema):
    bar: dict[str, Any]


class FindingOut(Schema):
    code: str
    grade: Literal["note", "care", "stop"]
    what: str
    why: str
    do: str
    field: str = ""
    value: float | None = None
    limit: float | None = None
    unit: str = ""


class RowOut(Schema):
    """A line of the ledger; `step`: index in the document, none for the start."""

    kind: str
    step: int | None
    form: str
    length: float
    width: float
    thickness: float
    volume: float
    mass: float
    losses: dict[str, float]
    gains: dict[str, float]
    estimates: dict[str, float]
    findings: list[FindingOut]
    instruction: str
    brief: str


class ChildOut(Schema):
    """A bar that goes into the open one; no sizes while it cannot be forged to its end."""

    label: str
    kind: str
    problem: str
    length: float | None
    width: float | None
    thickness: float | None
    form: str | None


class StationOut(Schema):
    """Heights here are square to the edge, mm; in files and on the command line they are vertical."""

    x: float
    side: Literal["right", "left"]
    state: Literal["none", "line", "strip", "spine"]
    height: float
    shown: list[list[float]]
    clad_share: float
    core_at_edge: float


class SummaryOut(Schema):
    length: float
    width: float
    thickness: float
    form: str
    mass: float
    start_mass: float
    loss_share: float
    layers: int
    thinnest: float | None
    blade_mass: float | None
    core: list[StationOut] | None


class ShapeOut(Schema):
    """What the screen needs to lay rulers along the faces, mm."""

    length: float
    low: float
    high: float
    bar_thickness: float


class LedgerOut(Schema):
    """The open bar's rows and the bars that go into it; the summary is of the whole."""

    rows: list[RowOut]
    children: list[ChildOut]
    summary: SummaryOut | None
    shape: ShapeOut | None
    problems: list[ProblemOut]
    findings: list[FindingOut]


class BladePictureIn(Schema):
    document: Document
    side: Literal["right", "left"]
    px: int = Field(ge=16, le=4000)
    margin: float = Field(4.0, ge=0, le=100)
    book: bool = True
    quality: Literal["preview", "screen", "full", "portrait"] = "screen"


class BarPictureIn(Schema):
    document: Document
    bar: BarAddress = []
    stages: int = Field(ge=0)
    view: Literal["face", "side", "end"]
    px: int = Field(ge=4, le=4000)
    z: float = 0.0
    x: float = 0.0
    x0: float = Field(0.0, ge=0)
    x1: float | None = Field(None, gt=0)
    quality: Literal["preview", "screen", "full", "portrait"] = "screen"


class PortraitsIn(Schema):
    document: Document
    bar: BarAddress = []
    px_per_mm: float = Field(gt=0, le=40)
    max_mm: float = Field(gt=1)
    """Longer bars are shown up to here; the screen marks the break."""


class PortraitOut(Schema):
    """After one step of the open bar, or (`child`) one of the bars that go into it, finished."""

    step: int | None
    child: int | None = None
    side: str
    end: str
    """PNG as data addresses."""
    shown_mm: float


class PrintIn(Schema):
    design: int
    side: Literal["right", "left"]
    width_px: int = Field(ge=200, le=MAX_PICTURE_PX)


class PrintJobOut(Schema):
    id: int
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    progress: float
    problem: str
    side: str
    width_px: int


PROBLEMS = dict.fromkeys((401, 403, 404, 409, 413, 422), ProblemBody)
