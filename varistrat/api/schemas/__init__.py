"""What goes in and out of the API, beside the core's own models."""

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.marks import Base
from varistrat.api.schemas.shop import ShopOut
from varistrat.core.design.document import Document
from varistrat.core.design.ledger import Child, Row
from varistrat.core.design.summary import Shape, Summary
from varistrat.core.errors import Problem
from varistrat.core.findings import Finding
from varistrat.core.limits import MAX_STEPS
from varistrat.core.sums.sum import Line


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
    mark: str | None = None


class PreferencesOut(Schema):
    length: Literal["mm", "inch", "fraction", "thou"]
    temperature: Literal["C", "F"]
    weight: Literal["g", "oz"]
    theme: Literal["system", "light", "dark"]


class PasswordIn(Schema):
    """old: the one that is; password: the new one."""

    old: str = Field(max_length=128)
    password: str = Field(max_length=128)


class BrowserOut(Schema):
    """One that is signed in. held: a phone or tablet; address: it came from; here: the one that asks."""

    key: str
    held: bool
    address: str
    since: datetime | None
    here: bool


class ElsewhereOut(Schema):
    """How many sessions were ended."""

    ended: int


class PreferencesIn(Schema):
    length: Literal["mm", "inch", "fraction", "thou"] | None = None
    temperature: Literal["C", "F"] | None = None
    weight: Literal["g", "oz"] | None = None
    theme: Literal["system", "light", "dark"] | None = None


class SessionOut(Schema):
    user: str | None
    demo: bool
    preferences: PreferencesOut | None = None
    shop: ShopOut | None = None
    """Where one is at work."""
    shops: list[ShopOut] = []
    password_changed: datetime | None = None
    """Since one signed in the last time."""
    spare_codes: int | None = None
    """That still count; none where no code is asked for at one's sign-in."""
    code_needed: bool = False
    """This server wants owners to sign in with a code; until then one may look, but not do what only owners may."""


class SignIn(Schema):
    """code: of one's phone, or a spare one, where one is asked for."""

    user: str = Field(max_length=150)
    password: str = Field(max_length=200)
    code: str = Field("", max_length=60)


class SecondIn(Schema):
    """password: one's own, once more."""

    password: str = Field(max_length=200)


class SecondOut(Schema):
    """secret: for the phone, in groups; picture: the same to be read off, an SVG as an address."""

    secret: str
    picture: str


class CodeIn(Schema):
    code: str = Field(max_length=60)


class SpareOut(Schema):
    """Codes for paper, told this once; each counts once."""

    spare: list[str]


class HandIn(Schema):
    """The shop's own unevenness for a way of working, mm; both none: the indicative figures again."""

    amount: float | None = None
    wavelength: float | None = None


class HandOut(Schema):
    method: str
    amount: float
    wavelength: float
    own: bool


class StarterOut(Schema):
    key: str
    name: str
    about: str


class CatalogueOut(Schema):
    """JSON Schemas of starts, steps and blade: the screen's forms come from these."""

    starts: dict[str, Any]
    steps: dict[str, Any]
    blade: dict[str, Any]
    sizes: dict[str, Any]
    step_words: dict[str, dict[str, str]]
    starters: list[StarterOut]
    hands: dict[str, dict[str, float]]
    """What hammer, press and rolls usually leave in the layers."""


class DesignLine(Schema):
    """mark: of what is said of it on the bench."""

    id: int
    name: str
    about: str
    mark: str
    changed: datetime
    current: int
    picture: str


class DesignOut(Schema):
    id: int
    name: str
    about: str
    mark: str
    changed: datetime
    current: int
    document: Document
    problems: list["ProblemOut"] = []
    """What keeps a document saved long ago from being worked out; it is shown all the same."""


class BinLine(Schema):
    """A design that was thrown away; gone for good after `days` more."""

    id: int
    name: str
    about: str
    removed: datetime
    days: int
    picture: str


class PileIn(Schema):
    """Steels to pile, bottom first, by their shares of the height (equal when left out); clad: the hardest in the middle."""

    steels: list[str] = Field(min_length=2, max_length=6)
    shares: list[float] = Field([], max_length=6)
    clad: bool = False


class DesignIn(Schema):
    """A new design: from a starter, from steels, or from a document."""

    starter: str | None = None
    pile: PileIn | None = None
    name: str | None = Field(None, max_length=200)
    document: Document | None = None


class AboutIn(Schema):
    """base: the design's mark when it was looked at."""

    base: Base = ""
    about: str = Field(max_length=400)


class SaveIn(Schema):
    document: Document
    base: int = Field(ge=0, le=2**31 - 1)
    name: str | None = Field(None, max_length=200)
    about: str | None = Field(None, max_length=400)


class RevisionOut(Schema):
    number: int
    base: int
    stale: bool
    created: datetime
    saved_by: str
    note: str


BarId = Annotated[str, Field(max_length=24)]
"""Id of a bar of the design; empty: the whole."""


class DocumentIn(Schema):
    document: Document


class BarIn(Schema):
    document: Document
    bar: BarId = ""


class FreshStepIn(Schema):
    """A step of `kind` is to be put before step `at` of the document."""

    document: Document
    bar: BarId = ""
    at: int = Field(ge=0, le=MAX_STEPS)
    kind: str = Field(max_length=40)


class FreshStepOut(Schema):
    step: dict[str, Any]


class FreshBarIn(Schema):
    """The start of this bar is to be of another kind; `opposite`: the bar as it is, twisted the other way."""

    document: Document
    bar: BarId = ""
    kind: str = Field(max_length=40)


class FreshBarOut(Schema):
    bar: dict[str, Any]


class LedgerOut(Schema):
    """The open bar's rows and the bars that go into it; the summary is of the whole."""

    rows: list[Row]
    children: list[Child]
    summary: Summary | None
    shape: Shape | None
    problems: list[Problem]
    findings: list[Finding]


class BladeWindowIn(Schema):
    """A window ground into a face of the blade: middle (station, height above the edge), floor and depth, mm."""

    x: float
    h: float
    length: float = Field(15.0, gt=0)
    width: float = Field(8.0, gt=0)
    depth: float = Field(0.5, ge=0)


class BladePictureIn(Schema):
    """A face ground `ground` mm further, the spine or the edge, or (view section) the blade cut across at x, turned by `turn` degrees."""

    document: Document
    view: Literal["face", "section", "spine", "edge"] = "face"
    side: Literal["right", "left"]
    ground: float = Field(0.0, ge=0, le=1000)
    window: BladeWindowIn | None = None
    x: float = 0.0
    turn: float = Field(0.0, ge=-80, le=80)
    px: int = Field(ge=16, le=4000)
    margin: float = Field(4.0, ge=0, le=100)
    book: bool = True
    quality: Literal["preview", "screen", "full", "portrait"] = "screen"
    fired: bool = False
    """As the fire leaves it: carbon where it ended, the skins in its welds."""


class FacesIn(Schema):
    """Both faces at once, see BladePictureIn."""

    document: Document
    px: int = Field(ge=16, le=4000)
    margin: float = Field(4.0, ge=0, le=100)
    book: bool = True
    quality: Literal["preview", "screen"] = "preview"
    fired: bool = False


class FacesOut(Schema):
    """PNG as data addresses."""

    right: str
    left: str


class PlaneIn(Schema):
    """See core Plane: through x on the bar's middle line; degrees."""

    x: float = 0.0
    turn: float = Field(0.0, ge=-90, le=90)
    lean: float = Field(0.0, ge=-90, le=90)


class WindowIn(Schema):
    """A window ground into a long face: its middle, its flat floor and how deep that lies, mm."""

    face: Literal["top", "bottom", "front", "back"] = "top"
    x: float = 0.0
    across: float = 0.0
    length: float = Field(20.0, gt=0)
    width: float = Field(10.0, gt=0)
    depth: float = Field(1.0, ge=0)
    slope: float = Field(2.0, gt=0, le=50)


class BarPictureIn(Schema):
    document: Document
    bar: BarId = ""
    stages: int | None = Field(None, ge=0)
    view: Literal["face", "side", "end", "section", "window", "solid"]
    px: int = Field(ge=4, le=4000)
    z: float = 0.0
    plane: PlaneIn | None = None
    """Section: where it is cut; solid: what lies beyond it is taken away."""
    window: WindowIn | None = None
    yaw: float = Field(35.0, ge=-360, le=360)
    pitch: float = Field(30.0, ge=-90, le=90)
    x: float = 0.0
    x0: float = Field(0.0, ge=0)
    x1: float | None = Field(None, gt=0)
    quality: Literal["preview", "screen", "full", "portrait"] = "screen"
    fired: bool = False
    """As the fire leaves it: carbon where it ended, the skins in its welds."""


class PortraitsIn(Schema):
    document: Document
    bar: BarId = ""
    px_per_mm: float = Field(gt=0, le=40)
    max_mm: float = Field(gt=1)
    """Longer bars are shown up to here; the screen marks the break."""


class PortraitOut(Schema):
    """After one step of the open bar, or (`child`) one of the bars that go into it, finished."""

    step: str | None
    child: str | None = None
    side: str
    end: str
    """PNG as data addresses."""
    shown_mm: float


class LayersIn(Schema):
    document: Document
    x: float
    """Station from the heel and height above the edge, mm."""
    h: float


class RunOut(Schema):
    """A run of one steel, mm."""

    steel: str
    thickness: float


class LayersOut(Schema):
    """Layers met through the blade at one point, left face first; what both faces show in all."""

    x: float
    h: float
    runs: list[RunOut]
    steels: dict[str, float]
    edges: list[float]
    shares: list[float]
    thinnest: float | None


class SumsIn(Schema):
    """The sums beside one step of one bar (step none: beside its start)."""

    document: Document
    bar: BarId = ""
    step: Annotated[str, Field(max_length=24)] | None = None


class QuantityOut(Schema):
    key: str
    label: str
    unit: str
    whole: bool
    fills: str
    given: bool
    value: float | None


class SumOut(Schema):
    key: str
    title: str
    formula: str
    note: str
    unknown: str
    quantities: list[QuantityOut]


class SolveIn(Schema):
    key: str = Field(max_length=60)
    values: dict[str, float | None] = Field(max_length=20)
    unknown: str = Field(max_length=60)


class SolvedOut(Schema):
    value: float
    lines: list[Line]


class WaysIn(Schema):
    wanted: int = Field(ge=2, le=100_000)
    like_meets_like: bool = True


class DrawingIn(Schema):
    """A section of one bar after `stages` steps (none: at its end), as a drawing in mm or a 16-bit picture of its steels."""

    document: Document
    bar: BarId = ""
    stages: int | None = Field(None, ge=0)
    plane: PlaneIn
    kind: Literal["svg", "dxf", "tiff"]


class SolidIn(Schema):
    """A GLB of the blade, or (blade false) of one bar, up to x1 mm of it."""

    document: Document
    blade: bool = False
    bar: BarId = ""
    stages: int | None = Field(None, ge=0)
    x1: float | None = Field(None, gt=0)
    px: int = Field(1600, ge=64, le=4096)


class OutlinesOut(Schema):
    """Closed outlines of a drawing, largest first: corners (y, z) about their middle, mm."""

    outlines: list[list[list[float]]]


PROBLEMS = dict.fromkeys((401, 403, 404, 409, 413, 422), ProblemBody)
