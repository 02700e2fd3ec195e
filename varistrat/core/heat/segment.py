"""A segment of a kiln's program: what a hardening plan asks for, and what a kiln is given."""

from typing import Annotated

from pydantic import Field

from varistrat.core.model import Model, shown


class Segment(Model):
    """To `celsius` at `rate` C/h (none: as fast as it can), then held; `through`: the hold counts once the load itself is at heat.

    `out`: the load is taken out into still air until it is down to `celsius`, the kiln kept as hot as it was; then held there.
    """

    celsius: Annotated[float, Field(ge=20, le=1400)] = Field(**shown("To", "C"))
    rate: Annotated[float, Field(ge=5, le=6000)] | None = Field(None, **shown("Rate", "C/h", "left empty: as fast as it can"))
    minutes: Annotated[float, Field(ge=0, le=6000)] = Field(0.0, **shown("Hold", "min"))
    through: bool = Field(False, **shown("Hold from when it is hot through"))
    out: bool = Field(False, **shown("Out, in still air until it is down to this"))
