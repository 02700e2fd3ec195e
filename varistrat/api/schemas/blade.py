"""What goes in and out of the blade's routes: core line, measures, study, steering, photographs, drawings."""

from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas import StationOut
from varistrat.core.design.document import Document


class StationsIn(Schema):
    document: Document
    stations: int = Field(60, ge=2, le=400)


class BandOut(Schema):
    """See core Band: vertical mm from the edge, and the stretch of the length it is judged on."""

    low: float
    high: float
    difference: float
    start: float
    end: float


class RiskOut(Schema):
    x: float
    side: Literal["right", "left"] | None
    kind: Literal["low", "high", "apart", "none"]
    by: float


class GradeOut(Schema):
    first: bool
    reason: str
    risks: list[RiskOut]
    apart: float


class StretchOut(Schema):
    """Part of the edge with one steel in its middle."""

    start: float
    end: float
    steel: str
    name: str
    hardens: Literal["yes", "shallow", "partly", "no"]
    thinnest: float


class CoreOut(Schema):
    """The core line, where it is wanted and what that makes of the blade; no stations when the bar has no core."""

    stations: list[StationOut]
    band: BandOut
    grade: GradeOut | None
    flat: bool
    """Whether the core lies flat between clads: then errors can be studied and steered."""
    edge: list[StretchOut]


class SectionOut(Schema):
    """See core Section, mm."""

    x: float
    height: float
    h: list[float]
    right: list[float]
    left: list[float]
    core_right: list[float] | None
    core_left: list[float] | None


class BalanceOut(Schema):
    """Masses in g; the balance point in mm from the heel, + towards the tip."""

    blade: float
    tang: float
    handle: float
    whole: float
    point: float
    point_bare: float


class BehindOut(Schema):
    """Along the blade: thickness behind the edge at each of `above` mm (square to it), and the included angle, degrees."""

    x: list[float]
    above: list[float]
    thickness: list[list[float]]
    angle: list[float]


class OffcutOut(Schema):
    name: str
    length: float
    width: float
    thickness: float
    mass: float


class OffcutIn(Schema):
    document: Document
    name: str = Field(max_length=40)


class OffcutBarOut(Schema):
    document: dict[str, Any]


class BeltOut(Schema):
    belt: str
    takes: float
    top: float
    edge: float


class BevelOut(Schema):
    side: Literal["right", "left"]
    stages: list[BeltOut]
    problem: str


class ForgedOut(Schema):
    """Of a forged blade: the most its steel is drawn out, where, and how much of the bar it takes, mm."""

    stretch: float
    at: float
    heel: float
    end: float


class MeasuresIn(Schema):
    document: Document
    above: list[float] = Field([0.0, 1.0, 3.0, 6.0], max_length=12)
    belts: list[float] | None = Field(None, max_length=12)


class MeasuresOut(Schema):
    balance: BalanceOut
    behind: BehindOut
    offcuts: list[OffcutOut]
    bevels: list[BevelOut]
    forged: ForgedOut | None
    edge: list[list[float]]
    spine: list[list[float]]
    handles: list[str]
    for_use: dict[str, tuple[float, float]]
    """Usual thickness behind the edge by use, mm; indicative."""


class StudyIn(Schema):
    document: Document
    blades: int = Field(10_000, ge=100, le=50_000)
    stations: int = Field(60, ge=10, le=200)


class HelpOut(Schema):
    reading: Literal["edge_thickness", "off_middle"]
    of: Literal["share", "offset"]
    now: float
    then: float


class UnmetOut(Schema):
    x: float
    side: Literal["right", "left"]
    kind: Literal["low", "high"]
    by: float


class SteeredOut(Schema):
    """What a test etch says and what to do about it. Heights vertical mm; shares of the local thickness, offsets + right.

    lines: per side the 5, 50 and 95 % of the line at x. removal: mm at stations `plan_x`; blade: as it would then be.
    """

    x: list[float]
    share: list[float]
    share_sd: list[float]
    offset: list[float]
    offset_sd: list[float]
    thickness: list[float]
    mean_share: list[float]
    mean_offset: list[float]
    rest: dict[str, float]
    rest_sd: dict[str, float]
    misfit: float
    helps: list[HelpOut]
    lines: dict[str, list[list[float]]]
    plan_x: list[float]
    removal: dict[str, list[float]]
    before: dict[str, list[float]]
    after: dict[str, list[float]]
    wanted: list[list[float]]
    unmet: list[UnmetOut]
    edge_left: list[float]
    spine_left: list[float]
    shorten: float
    as_read: dict[str, Any]
    corrected: dict[str, Any]


class MarkIn(Schema):
    px: float
    py: float
    x: float
    y: float


class PhotoIn(Schema):
    document: Document
    marks: list[MarkIn] = Field(max_length=40)
    points: list[tuple[float, float]] = Field(max_length=200)


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
