"""What goes in and out about the stock of a design."""

from ninja import Schema

from varistrat.core.design.document import Document
from varistrat.core.stock.ways import Give


class WayOutOut(Schema):
    """One number that gives way; `document`: the design so. See core WayOut."""

    give: Give
    says: str
    value: float
    document: Document
    spare: float
    mass: float


class WaysOut(Schema):
    """`short`: these are ways out of a bar that is too short; else ways to do with less."""

    short: bool
    ways: list[WayOutOut]
