"""The grade of a blade: every point met is a first; what is usable but not perfect a second; what is not safe is not for sale.

The reason is always said. The smith may set it otherwise, with a reason.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Grade = Literal["first", "second", "not for sale"]


@dataclass(frozen=True)
class Point:
    """key; ask, good, bad: as a check; fatal: not met, it is not for sale; flaw: as it is told with the blade."""

    key: str
    ask: str
    good: str
    bad: str
    fatal: bool
    flaw: str


POINTS: tuple[Point, ...] = (
    Point(
        "crack", "Oil on, wiped dry, dusted with chalk: is it free of cracks?", "No line comes through the chalk.",
        "Not for sale: a crack goes on.", True, "a crack",
    ),
    Point(
        "weld", "A needle drawn across them: are all welds on the blade closed?", "It catches nowhere.",
        "Not for sale while a weld is open on the blade.", True, "an open weld",
    ),
    Point(
        "hardens", "Does a file skate along all of the edge?", "It skates everywhere.",
        "Not for sale as a knife: an edge that is soft is none.", True, "an edge that is soft in places",
    ),
    Point(
        "core", "Is the core line in its band, left and right?", "In the band along all its length, on both sides.",
        "A second: say where it wanders.", False, "a core line that wanders",
    ),
    Point("straight", "Along the back, and on a flat: is it straight?", "Within half a millimetre.", "A second: say by how much.", False,
          "not quite straight"),
    Point("hardness", "Is the hardness read within two points of what was wanted?", "Every spot.", "A second: say what it is.", False,
          "a hardness other than planned"),
    Point("pits", "Is it free of pits and inclusions?", "None is seen at arm's length.", "A second: say where.", False,
          "a pit in the face"),
    Point("edge", "Did the edge pass its test?", "Neither rolled nor chipped.", "Not before it does.", False,
          "an edge that did not pass its test"),
)  # fmt: skip

OF_FAULT = {
    "dark_gap": "weld", "outer_layer_lifts": "weld", "black_line": "weld", "blister": "weld", "edges_part": "weld", "cold_shut": "weld",
    "crack_normalising": "crack", "crack_quench": "crack", "crack_late": "crack", "tear_forging": "crack",
    "soft_spots": "hardens", "wont_harden": "hardens",
    "warped_normalising": "straight", "warped_quench": "straight", "warped_temper": "straight", "too_hard": "hardness",
    "core_wandering": "core", "no_core_at_edge": "core", "edge_rolls": "edge", "edge_chips": "edge",
}  # fmt: skip
"""The point of the list that a fault of the log (core/faults) puts in question. What else goes wrong is seen in the last look."""


EDGE = next(i for i, p in enumerate(POINTS) if p.key == "edge")


def with_test(answers: Mapping[int, bool], stood: bool | None) -> dict[int, bool]:
    """stood: in the last test of the edge, None when none was written down. One that failed counts whatever the list says; one that
    stood answers the point where nobody did."""
    if stood is None:
        return dict(answers)
    return {EDGE: True, **answers} if stood else {**answers, EDGE: False}


@dataclass(frozen=True)
class Graded:
    """grade: None while points are open; why: always said; open: keys of points not yet looked at; failed: keys of those not met; own: set
    by the smith."""

    grade: Grade | None
    why: str
    open: tuple[str, ...]
    failed: tuple[str, ...]
    own: bool = False


def points_for(core: bool) -> tuple[tuple[int, Point], ...]:
    """The list for a blade, each point with its place in POINTS: of one without a core nobody asks for its line."""
    return tuple((i, p) for i, p in enumerate(POINTS) if core or p.key != "core")


def graded(answers: Mapping[int, bool], own: tuple[Grade, str] | None = None, core: bool = True) -> Graded:
    """answers: to the points, by their place in POINTS; own: what the smith set it to, and why; core: whether it has one."""
    points = points_for(core)
    left = tuple(p.key for i, p in points if i not in answers)
    bad = tuple(p for i, p in points if answers.get(i) is False)
    failed = tuple(p.key for p in bad)
    if own:
        return Graded(own[0], own[1], left, failed, True)
    if fatal := [p for p in bad if p.fatal]:
        return Graded("not for sale", f"It has {_listed(fatal)}.", left, failed)
    if left:
        return Graded(None, f"{len(left)} of {len(points)} points are still to be looked at.", left, failed)
    if bad:
        return Graded("second", f"It has {_listed(bad)}.", left, failed)
    return Graded("first", "Every point on the list is met.", left, failed)


def _listed(points: "tuple[Point, ...] | list[Point]") -> str:
    told = [p.flaw for p in points]
    return " and ".join([", ".join(told[:-1]), told[-1]] if len(told) > 1 else told)
