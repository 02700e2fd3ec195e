"""How thick an edge is left for the quench, and the skin without carbon that the heats before it leave: told alike wherever they are told.
mm."""

from collections.abc import Sequence

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.findings import Grade
from varistrat.core.heat.fires import skin
from varistrat.core.laws.numbers import EDGES, Atmosphere
from varistrat.core.laws.quench import Quench

SLIM = 250.0, 3.0, 0.3
"""A blade longer than this and thinner than this wants so much more at the edge, mm."""
CRACKS = {"water": 0.7}
TEARS = 0.5
"""Share of the least under which an edge is all but sure to crack or wave (water: 0.7); indicative."""


def edge_to_leave(quench: str, length: float, spine: float) -> tuple[float, float]:
    """(least, usual most) mm for this bath."""
    least, usual = EDGES[quench]
    long, thin, more = SLIM
    return (least + more, usual + more) if length > long and spine < thin else (least, usual)


def edge_left(bevels: str, quench: str, length: float, spine: float, finished: float) -> float:
    """How thick an edge is left for the quench, mm, where nobody says: all of it when the bevels come `after`; else the middle of what is
    usual for the bath, or the edge as it will be (`finished`, mm) where that is thicker."""
    return spine if bevels == "after" else min(max(sum(edge_to_leave(quench, length, spine)) / 2, finished), spine)


def too_thin(edge: float, quench: Quench | str, length: float, spine: float) -> Grade | None:
    """Whether so thin an edge may be quenched: None when it may."""
    least, _ = edge_to_leave(quench, length, spine)
    if edge >= least - 1e-9:
        return None
    return "stop" if edge < CRACKS.get(quench, TEARS) * least else "care"


def skin_of_heats(
    heats: Sequence[tuple[float, float]], carbon: float, atmosphere: Atmosphere, numbers: Numbers = USUAL
) -> tuple[float, float]:
    """(metal turned to scale, depth of the carbon-poor skin under it) off each side after (C, minutes) heats, mm."""
    lost = deep = 0.0
    for celsius, minutes in heats:
        lost += skin.scale_loss(celsius, minutes, atmosphere, numbers=numbers)
        deep = skin.added(
            max(0.0, deep - skin.scale_loss(celsius, minutes, atmosphere, numbers=numbers)),
            skin.decarb_depth(celsius, minutes, carbon, atmosphere, numbers=numbers),
        )
    return lost, deep
