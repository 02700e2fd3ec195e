"""What is added to a design's blade when its stock is reckoned, where the design says other than the shop."""

from typing import Annotated

from pydantic import Field

from varistrat.core.bars.model import Mm, Mm0, Model, shown

Share = Annotated[float, Field(ge=0, le=10)]


class StockPlan(Model):
    """None: as the shop has it. short: a chance of coming up short instead of the reserve; apart: bars that are alike so far are
    not forged as one."""

    need: Mm | None = Field(None, **shown("The finished bar must be", "mm", "left empty, the blade says it"))
    hold: Mm0 | None = Field(None, **shown("Stub to hold it by", "mm", "cut off at the end"))
    ends: Share | None = Field(None, **shown("Bad ends of a weld", "", "times its thickness, at each end"))
    reserve: Share | None = Field(None, **shown("Reserve", "share", "of all the rest"))
    short: Annotated[float, Field(ge=0.001, le=0.99)] | None = Field(None, **shown("Chance of coming up short", "share"))
    apart: bool = Field(False, **shown("Forge bars that are alike each by itself"))
