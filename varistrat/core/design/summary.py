"""What of a design is always in sight: sizes, mass, loss, layers, the core line."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.bar import Loss
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.geometry import Side
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.layers import MOST, layers_across
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.exposure import SCREEN, State, Station
from varistrat.core.laminate.readings import surface_of

CORE_STATIONS = 24


@dataclass(frozen=True)
class CoreStation:
    """Where the core comes out at one station of one side. Heights are square to the edge, mm: `slant` (the cosine of its angle)
    times the vertical ones of files and of the command line. edge: y of the edge; shown: (from, to) of each stretch of core.
    """

    x: float
    side: Side
    state: State
    height: float
    shown: list[tuple[float, float]]
    clad_share: float
    core_at_edge: float
    slant: float
    edge: float


@dataclass(frozen=True)
class Summary:
    """Of the whole bar and the blade cut from it; mm, g; shares 0 to 1. scale_share: what the steps count as scale, a part of
    loss_share. core: None without one."""

    length: float
    width: float
    thickness: float
    form: str
    mass: float
    start_mass: float
    loss_share: float
    scale_share: float
    layers: int
    more_layers: bool
    """Whether there are more than those: too many to be counted."""
    thinnest: float | None
    blade_mass: float | None
    core: list[CoreStation] | None


@dataclass(frozen=True)
class Shape:
    """What it takes to lay rulers along the faces, mm. surface: mark of its ground faces, which readings of a test etch carry."""

    length: float
    low: float
    high: float
    bar_thickness: float
    surface: str


def summary_of(worked: Worked) -> Summary | None:
    """None if the bar cannot begin."""
    if worked.document.recipe.bar.id not in worked.bars:
        return None
    forged = worked.forged
    bar, (put_in, mass_in) = forged.bar, forged.put_in()
    cut = worked.cut
    layers = layers_across(Trace(forged))
    return Summary(
        bar.length,
        bar.width,
        bar.thickness,
        bar.section.form,
        bar.volume * forged.density,
        mass_in,
        1 - bar.volume / put_in,
        _scale(forged) / put_in,
        layers,
        layers >= MOST,
        worked.thinnest,
        worked.blade_volume * forged.density if cut else None,
        core_line(cut, list(cut.exposure(CORE_STATIONS, SCREEN))) if cut and worked.has_core else None,
    )


def _scale(forged: Forged) -> float:
    """mm3 that its steps, and those of the bars in it, count as scale."""
    return sum(s.change.losses.get(Loss.SCALE, 0.0) for s in forged.stages) + sum(_scale(c) for c in forged.children)


def shape_of(worked: Worked) -> Shape | None:
    """None while there is no blade."""
    if worked.cut is None:
        return None
    geometry = worked.cut.placed.geometry
    low, high = geometry.curves.span()
    return Shape(geometry.length, low, high, geometry.bar_thickness, surface_of(geometry.blade))


def core_line(cut: Cut, found: Sequence[Station]) -> list[CoreStation]:
    """The core line as it is shown, both sides, from the stations where it was worked out."""
    if not found:
        return []
    curves = cut.geometry.curves
    x = np.array([s.x for s in found])
    slants, edge = np.cos(curves.edge_angle(x)), curves.edge(x)
    return [
        CoreStation(
            s.x,
            s.side,
            s.state,
            s.height * float(c),
            [(low * float(c), high * float(c)) for low, high in s.shown],
            s.clad_share,
            s.core_at_edge,
            float(c),
            float(y),
        )
        for s, c, y in zip(found, slants, edge, strict=True)
    ]
