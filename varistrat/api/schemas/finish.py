"""What goes in and out of the finish's routes: the sheet, the film, mixing, baths, tests, faults."""

import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.marks import Base
from varistrat.core.blade.areas import Areas
from varistrat.core.build.card import Card
from varistrat.core.design.document import Document
from varistrat.core.etch.bath import Bath, Tank
from varistrat.core.etch.etchants import What
from varistrat.core.etch.masks import Mask
from varistrat.core.etch.mixing import Stock
from varistrat.core.faults.inference import Found
from varistrat.core.findings import Finding
from varistrat.core.finish.balance import Unknown
from varistrat.core.finish.cycles import Cycle
from varistrat.core.finish.edge_test import EdgePlan, EdgeTest, Test
from varistrat.core.finish.grade import Grade
from varistrat.core.finish.mark import Marked
from varistrat.core.finish.sanding import Sanded

Minutes = Annotated[float, Field(gt=0, le=10_000)]


class FinishIn(Schema):
    """bath: in place of the design's own: one of the shop's, as worn as it is."""

    document: Document
    bath: int | None = None


class DepthOut(Schema):
    """A steel of the face: um after each cycle; share: of the face; rate: um/min by itself in fresh ferric 10 % at 20 C."""

    steel: str
    name: str
    share: float
    rate: float
    noble: bool
    depths: list[float]


class StageOut(Schema):
    key: str
    says: str
    minutes: float
    relief: float
    polished: bool


class AcrossOut(Schema):
    """A layer as it lies on the face: mm wide."""

    steel: str
    width: float


class SandingOut(Schema):
    grits: list[Sanded]
    minutes: float
    hardness: float
    soft: float
    rules: dict[str, str]
    stops: str


class FinishOut(Schema):
    """for_tone: nobody asked for a relief, and it is etched for tone; felt, catches: um from which a nail feels a step, and dirt stays in
    it; thinnest: mm of the finest layers on the face."""

    areas: Areas
    sanding: SandingOut
    bath: Bath
    used: float
    capacity: float
    speed: float
    used_after: float
    dissolved: dict[str, float]
    wanted: float
    for_tone: bool
    minutes: float
    cycles: list[Cycle]
    why_not: str
    steels: list[DepthOut]
    relief: float
    felt: float
    catches: float
    thinnest: float | None
    apart: float | None
    stages: list[StageOut]
    across: list[AcrossOut]
    findings: list[Finding]
    tank: Tank
    masks: list[Mask]
    mask_always: str
    order: list[str]
    never_with: list[str]
    waste: str
    bicarbonate: float
    edge: EdgePlan | None
    edge_tests: dict[Test, str]
    fit_up: list[str]
    mark: Marked | None


class FilmIn(Schema):
    document: Document
    bath: int | None = None
    side: Literal["right", "left"] = "right"
    stage: str = Field(max_length=40)
    px: int = Field(480, ge=32, le=1600)


class MixIn(Schema):
    """Either strength and litres wanted, or the volumes there are, ml."""

    what: What = "ferric"
    stock: Stock = "be"
    value: float = Field(42.0, ge=0, le=100)
    strength: float | None = Field(None, gt=0, le=100)
    litres: float | None = Field(None, gt=0, le=1000)
    stock_ml: float | None = Field(None, ge=0, le=1e6)
    solvent_ml: float | None = Field(None, ge=0, le=1e6)


class MixOut(Schema):
    """stock, solvent: ml; keeping: why it may not be kept, empty when it may."""

    stock: float
    solvent: float
    stock_grams: float
    solvent_grams: float
    stock_strength: float
    strength: float
    litres: float
    solvent_name: str
    keeping: str
    capacity: float
    bicarbonate: float
    order: list[str]
    never_with: list[str]
    waste: str


class CouponIn(Schema):
    bath: Bath
    minutes: float = Field(gt=0, le=10_000)
    step: float = Field(gt=0, le=10_000)


class CouponOut(Schema):
    """rate: the shop's own, um/min; ours."""

    rate: float
    ours: float


class EdgeTestIn(Schema):
    document: Document
    test: EdgeTest


class FittingsIn(Schema):
    """g; holes of so many mm through the tang."""

    guard: Annotated[float, Field(ge=0, le=400)] = 0.0
    pommel: Annotated[float, Field(ge=0, le=600)] = 0.0
    holes: Annotated[float, Field(ge=0, le=12)] = 0.0
    hole: Annotated[float, Field(gt=0, le=20)] = 6.0


class BalanceIn(Schema):
    """wanted: mm from the heel, + towards the tip; unknown: what is to give it; none: only where it is."""

    document: Document
    fittings: FittingsIn = FittingsIn()
    wanted: float | None = Field(None, ge=-400, le=1500)
    unknown: Unknown | None = None


class BalanceOut(Schema):
    point: float
    mass: float
    unknown: Unknown | None
    value: float | None
    unit: str


class BathIn(Schema):
    name: str = Field(min_length=1, max_length=120)
    bath: Bath
    mixed: datetime.date
    note: str = Field("", max_length=400)


class BathSayIn(Schema):
    """What is left out stays. base: the bath's mark when it was looked at."""

    base: Base = ""
    name: str | None = Field(None, min_length=1, max_length=120)
    temperature: float | None = None
    note: str | None = Field(None, max_length=400)
    gone: datetime.date | None = None


class BathUseOut(Schema):
    at: datetime.datetime
    by: str
    title: str
    minutes: float
    grams: float


class BathOut(Schema):
    """used: share of its iron; renew: it is time; dissolved: g by element."""

    id: int
    name: str
    bath: Bath
    says: str
    mixed: datetime.date
    gone: datetime.date | None
    note: str
    mark: str
    used: float
    capacity: float
    renew: bool
    uses: int
    last: datetime.datetime | None
    dissolved: dict[str, float]
    bicarbonate: float
    waste: str


class BathDetailOut(BathOut):
    history: list[BathUseOut]


class EtchedIn(Schema):
    """uid: by who writes it: the same twice is once."""

    uid: UUID
    document: Document
    minutes: list[Minutes] = Field(min_length=1, max_length=200)
    title: str = Field("", max_length=200)
    build: int | None = None


class SeenOut(Schema):
    key: str
    says: str
    look: str
    causes: list[str]


class FaultIn(Schema):
    """build: its log speaks too."""

    seen: str = Field(max_length=60)
    answers: dict[str, bool] = Field({}, max_length=100)
    document: Document | None = None
    build: int | None = None


class ChangeOut(Schema):
    """key: as a cause names it; says: on its button."""

    key: str
    says: str


class FaultOut(Schema):
    """changes: what one click does of those that the causes name."""

    found: Found
    changes: list[ChangeOut]


class ChangeIn(Schema):
    document: Document
    change: str = Field(max_length=40)


class ChangedOut(Schema):
    document: dict[str, Any]


class LoggedOut(Schema):
    """A fault that the log tells of: its key among those we know, and in the smith's own words."""

    fault: str
    text: str
    at: datetime.datetime


class PointOut(Schema):
    check: int
    key: str
    ask: str
    good: str
    bad: str
    fatal: bool
    log: list[LoggedOut]


class CardOut(Schema):
    """What goes with the blade; nothing on it that was not measured or chosen. open, failed: keys of points; own: set by the smith."""

    grade: Grade | None
    why: str
    open: list[str]
    failed: list[str]
    own: bool
    points: list[PointOut]
    card: Card
