"""The blade of a design measured: weight and balance, thickness behind the edge, bevels belt by belt, what is left of the bar."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from varistrat.core.blade.belts import Belt, BeltStop, bevel_plan, sequence
from varistrat.core.blade.geometry import SIDES, Geometry, Side
from varistrat.core.blade.measures import (
    FOR_USE,
    HANDLES,
    Handle,
    balance,
    behind_edge,
    included_angle,
    offcuts,
    stations_where_ground,
)
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError


@dataclass(frozen=True)
class BalanceSheet:
    """Masses in g; the balance point in mm from the heel, + towards the tip, with and without its handle."""

    blade: float
    tang: float
    handle: float
    whole: float
    point: float
    point_bare: float


@dataclass(frozen=True)
class BehindEdge:
    """Along the blade: thickness at each of `above` mm behind the edge (square to it), and the included angle, degrees."""

    x: list[float]
    above: list[float]
    thickness: list[list[float]]
    angle: list[float]


@dataclass(frozen=True)
class OffcutSheet:
    """mm, g; the mean density of the bar stands for its offcuts."""

    name: str
    length: float
    width: float
    thickness: float
    mass: float


@dataclass(frozen=True)
class Bevel:
    """One side, belt by belt; `problem`: why there is no plan."""

    side: Side
    stages: list[BeltStop]
    problem: str


@dataclass(frozen=True)
class DrawnOut:
    """Of a forged blade: the most its steel is drawn out, where, and how much of the bar it takes, mm."""

    stretch: float
    at: float
    heel: float
    end: float


@dataclass(frozen=True)
class MeasuresSheet:
    """edge, spine: (x, y) along them, mm; for_use: usual thickness behind the edge by use, mm, indicative."""

    balance: BalanceSheet
    behind: BehindEdge
    offcuts: list[OffcutSheet]
    bevels: list[Bevel]
    forged: DrawnOut | None
    edge: list[list[float]]
    spine: list[list[float]]
    handles: list[str]
    for_use: dict[str, tuple[float, float]]


def measures_sheet(worked: Worked, above: Sequence[float], takes: Sequence[float] | None = None) -> MeasuresSheet:
    """above: mm behind the edge to measure at; takes: mm that each belt takes, in place of the usual. Raises InputError without a blade."""
    cut, handle, last = worked.blade, worked.document.handle, worked.document.finish.last
    geometry, density = cut.geometry, cut.trace.forged.density
    held = Handle(handle.length, handle.width, handle.thickness, HANDLES[handle.material]) if handle else None
    b = balance(geometry, density, held)
    x = stations_where_ground(geometry)
    behind = BehindEdge(
        x.tolist(), list(above), [behind_edge(geometry, x, a).tolist() for a in above], included_angle(geometry, x).tolist()
    )
    curves, drawn = geometry.curves, cut.placed.forge_map
    stretch = drawn.stretch() if drawn else None
    return MeasuresSheet(
        BalanceSheet(b.blade, b.tang, b.handle, b.whole, b.point, b.point_bare),
        behind,
        [OffcutSheet(o.name, o.length, o.width, o.thickness, o.volume * density) for o in offcuts(cut.placed)],
        [_bevel(geometry, side, last, takes) for side in SIDES],
        DrawnOut(stretch[0], stretch[1], drawn.heel, drawn.end) if drawn and stretch else None,
        np.column_stack([curves.edge_x, curves.edge_y]).round(3).tolist(),
        np.column_stack([curves.spine_x, curves.spine_y]).round(3).tolist(),
        list(HANDLES),
        FOR_USE,
    )


def _bevel(geometry: Geometry, side: Side, last: str, takes: Sequence[float] | None) -> Bevel:
    usual = sequence(last)
    belts = usual if takes is None else [Belt(b.name, t) for b, t in zip(usual, takes, strict=False)]
    try:
        return Bevel(side, bevel_plan(geometry, side, belts), "")
    except InputError as e:
        return Bevel(side, [], e.problems[0].wrong)
