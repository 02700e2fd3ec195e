"""The core line of a design, where it is wanted, and what that makes of the blade."""

from dataclasses import dataclass

from varistrat.core.cutting.edge import stretches
from varistrat.core.design.summary import CoreStation, core_line
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.aim import Band, Grade, grade
from varistrat.core.laminate.exposure import SCREEN
from varistrat.core.steels.model import Hardens


@dataclass(frozen=True)
class EdgeStretch:
    """Part of the edge with one steel in its middle, mm; thinnest: how thick it is at the least."""

    start: float
    end: float
    steel: str
    name: str
    hardens: Hardens
    thinnest: float


@dataclass(frozen=True)
class CoreSheet:
    """No stations when the bar has no core. flat: whether it lies flat between clads, so that errors can be studied and steered."""

    stations: list[CoreStation]
    band: Band
    grade: Grade | None
    flat: bool
    edge: list[EdgeStretch]


def core_sheet(worked: Worked, n: int) -> CoreSheet:
    """At n stations. Raises InputError without a blade."""
    cut = worked.blade
    band = Band.of(worked.document.aim, cut.geometry)
    has_core = bool(cut.geometry.blade.laminate or cut.part)
    steels = worked.shop.steels
    found = list(cut.exposure(n, SCREEN)) if has_core else []
    edge = [EdgeStretch(s.start, s.end, s.steel, steels[s.steel].name, steels[s.steel].hardens, s.thinnest) for s in stretches(worked.edge)]
    return CoreSheet(
        core_line(cut, found),
        band,
        grade(found, band) if has_core else None,
        bool(cut.geometry.blade.laminate) or cut.flat_core is not None,
        edge,
    )
