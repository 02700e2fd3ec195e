"""How a design's blade is finished: the paper it ends with, its bath and the relief wanted, tone, mark, edge, fit-up."""

from typing import Annotated, Literal

from pydantic import Field, field_validator

from varistrat.core.blade.belts import PAPERS
from varistrat.core.etch.bath import Bath
from varistrat.core.model import Model, shown

RELIEFS: dict[str, float] = {"flush": 3.0, "light": 6.0, "felt": 12.0, "deep": 25.0}
"""um between the deepest and the shallowest, as smiths ask for it."""
MOST_CYCLE = 240.0
"""Minutes that a blade is left in the bath without a look."""
Use = Literal["slicing", "general", "chopping", "sword"]


class Mark(Model):
    """The maker's mark, by stencil and current. area: of what the stencil leaves bare, mm2; amperes; depth wanted, um."""

    area: Annotated[float, Field(gt=0, le=2000)] = Field(40.0, **shown("Area the stencil leaves bare", "mm2"))
    amperes: Annotated[float, Field(gt=0, le=50)] = Field(1.0, **shown("Current", "A"))
    depth: Annotated[float, Field(gt=0, le=500)] = Field(25.0, **shown("Depth of the mark", "um"))


class FitUpPlan(Model):
    """What is fitted: pins; the oxide colour of the fittings; coats on the handle and of what; a sheath: its leather, mm thick, and the
    seam beyond the welt, mm."""

    pins: Literal["none", "glued", "peened"] = Field("none", **shown("Pins"))
    colour: Literal["none", "straw", "brown", "purple", "blue"] = Field("none", **shown("Heat colour of the fittings"))
    coat: Literal["oil", "lacquer", "wax"] = Field("oil", **shown("Coat of the handle"))
    coats: Annotated[int, Field(ge=0, le=12)] = Field(0, **shown("Coats", "", "0: none"))
    sheath: Literal["none", "leather"] = Field("none", **shown("Sheath"))
    leather: Annotated[float, Field(ge=0.8, le=6)] = Field(3.0, **shown("Leather is thick", "mm"))
    seam: Annotated[float, Field(ge=3, le=20)] = Field(6.0, **shown("Seam beyond the welt", "mm"))
    welt: Annotated[float, Field(ge=0, le=15)] = Field(4.0, **shown("Welt", "mm"))


class FinishPlan(Model):
    """last: paper it ends with; relief: um wanted, None: a light one, or tone alone where the steels hardly part; cycle: minutes of each
    after the first, None: as the bath asks; polish: tops polished every so many cycles, 0 never; tone: a last bath for colour; angle: of
    the edge, both sides, degrees, None: the middle of what its use wants."""

    last: str = Field("P800", **shown("Sanded to"))
    bath: Bath = Bath()
    relief: Annotated[float, Field(ge=0.5, le=200)] | None = Field(None, **shown("Relief wanted", "um", "left empty: as its steels part"))
    cycle: Annotated[float, Field(ge=0.5, le=MOST_CYCLE)] | None = Field(None, **shown("A cycle", "min", "left empty: as the bath asks"))
    polish: Annotated[int, Field(ge=0, le=20)] = Field(2, **shown("Tops polished every", "cycles", "0: never"))
    moved: bool = Field(False, **shown("The bath is kept moving"))
    tone: Literal["none", "coffee", "muriatic"] = Field("none", **shown("For tone, last"))
    mark: Mark | None = None
    fit_up: FitUpPlan = FitUpPlan()
    use: Use = Field("general", **shown("The edge is for"))
    angle: Annotated[float, Field(ge=8, le=70)] | None = Field(None, **shown("Edge angle, both sides", "deg", "left empty: by its use"))

    @field_validator("last")
    @classmethod
    def _known(cls, value: str) -> str:
        if value not in PAPERS:
            raise ValueError(f"{value[:20]!r} is no paper to end with; choose one of {', '.join(PAPERS)}")
        return value
