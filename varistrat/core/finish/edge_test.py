"""The edge and its test: how wide the bevel is, and what follows from what was done and seen, in the order to check."""

from dataclasses import dataclass
from math import radians, sin, tan
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from varistrat.core.blade.measures import FOR_USE, behind_edge, included_angle, stations_where_ground
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.purpose import edge_angle, suggested_for
from varistrat.core.model import Model

Test = Literal["paper", "hair", "rope", "wood", "brass", "flex"]
Seen = Literal["fine", "rolled", "chipped", "dull"]
TESTS: dict[Test, str] = {
    "paper": "Thin paper, drawn through: it must not catch.",
    "hair": "A lock of hair tied to a stick: it falls without being pulled.",
    "rope": "Hard rope on wood, cut n times.",
    "wood": "Soft wood chopped n times, clamped or on a block.",
    "brass": "A brass rod, the edge flexed over it at 10 to 15 degrees: it must spring back.",
    "flex": "The blade in a padded vice, flexed by so many degrees: it must come back straight.",
}
SHORT: dict[Test, str] = {
    "paper": "thin paper", "hair": "hair", "rope": "hard rope", "wood": "soft wood", "brass": "brass rod", "flex": "flexed",
}  # fmt: skip
SAW: dict[Seen, str] = {"fine": "it stood", "rolled": "it rolled", "chipped": "it chipped", "dull": "dull soon"}
CAUTION = "Never near anyone, never towards yourself; the work clamped, eyes covered. Stop at the first crack."
STONES = (
    "400 to 600 until a burr is felt along all of it, then the other side; 1000, 3000 with less weight each; then leather, spine first. "
    "Feel for the burr with the thumb drawn off the edge, never along it."
)
READ = "Read the hardness at three spots."
AUSTENITE = 0.12
READ_WIDTH = 1.0
"""HRC that one reading is good to."""


class EdgeTest(Model):
    """What was done and seen. hrc: hardness read at the edge since; behind: thickness behind the edge as measured, mm."""

    test: Test
    seen: Seen
    times: Annotated[int, Field(ge=1, le=100_000)] = 1
    hrc: Annotated[list[Annotated[float, Field(ge=10, le=70)]], Field(max_length=20)] = []
    behind: Annotated[float, Field(ge=0.01, le=10)] | None = None


def told(test: EdgeTest) -> str:
    """ "hard rope, 20 times: it stood"."""
    times = f", {test.times} times" if test.times > 1 else ""
    return f"{SHORT[test.test]}{times}: {SAW[test.seen]}"


@dataclass(frozen=True)
class Advice:
    """says: in words; value against limit, in unit: what decides it; verdict: it is so, it is not, or it must be looked at; do; costs: what
    that costs the blade."""

    key: str
    says: str
    verdict: Literal["so", "not", "look"]
    value: float | None
    limit: float | None
    unit: str
    do: str
    costs: str


@dataclass(frozen=True)
class EdgePlan:
    """width: of the edge's bevel on each side, mm; angle: both sides together, degrees; behind: thickness behind it, mm; wanted: (least,
    most) of that by its use; angle wanted by its use, degrees; primary: angle of the ground faces, degrees."""

    width: float
    angle: float
    behind: float
    wanted: tuple[float, float]
    angles: tuple[float, float]
    primary: float
    stones: str
    caution: str


def bevel_width(behind: float, angle: float) -> float:
    """mm on each side: (t/2)/sin(angle/2), `behind` thick, `angle` both sides together, degrees."""
    return behind / 2 / sin(radians(angle) / 2)


def take_back(behind: float, wanted: float, primary: float) -> float:
    """mm of edge to lose until it is so thick: (wanted - behind)/(2 tan(half the ground faces' angle)); 0 when it is thick enough."""
    return max(0.0, (wanted - behind) / (2 * tan(radians(primary) / 2))) if primary > 0 else float("inf")


def edge_plan(worked: Worked, behind: float | None = None) -> EdgePlan:
    """Of the design's blade, at the middle of what is ground. Raises InputError when there is no blade."""
    geometry, plan = worked.blade.geometry, worked.document.finish
    x = stations_where_ground(geometry)
    thick = float(np.median(behind_edge(geometry, x, 0.0))) if behind is None else behind
    primary = float(np.median(included_angle(geometry, x, 5.0)))
    if thick <= 0:
        raise InputError.at("blade.grind", "the faces meet in the edge: nothing is left for a bevel", "leave an edge thickness")
    angle, angles = edge_angle(plan), suggested_for(plan.use).angle
    return EdgePlan(bevel_width(thick, angle), angle, thick, FOR_USE[plan.use], angles, primary, STONES, CAUTION)


def advice(worked: Worked, test: EdgeTest) -> list[Advice]:
    """What follows, in the order to check; none when nothing was wrong with it."""
    if test.seen == "fine":
        return []
    edge = edge_plan(worked, test.behind)
    hard = _hardness(worked, test)
    thin = _thin(worked, edge)
    if test.seen == "rolled":
        return [_soft(worked, test, hard), *_decarb(worked), thin]
    if test.seen == "chipped":
        return [_too_hard(worked, test, hard), _grain(worked), *_austenite(worked), thin]
    return [*_mixed(worked), _soft(worked, test, hard)]


def _hardness(worked: Worked, test: EdgeTest) -> float | None:
    return float(np.mean(test.hrc)) if test.hrc else None


def _soft(worked: Worked, test: EdgeTest, read: float | None) -> Advice:
    planned = worked.hardening.planned
    wanted = planned if planned is not None else worked.document.hardening.wanted
    low = wanted - max(worked.hardening.sure, READ_WIDTH)
    do = "Read the hardness at three spots near the edge first."
    if read is None:
        return Advice("soft", "Is it as hard as planned?", "look", None, low, "HRC", do, "nothing")
    if read < low:
        do = "The temper was too hot, or it did not harden. Harden again by the plan, temper cooler; look for a soft skin first."
        return Advice("soft", "It is softer than planned.", "so", read, low, "HRC", do, "a hardening, its risk, and a new finish")
    return Advice("soft", "It is as hard as planned.", "not", read, low, "HRC", "Look further.", "nothing")


def _decarb(worked: Worked) -> list[Advice]:
    do = "Stone two tenths of a millimetre back at one place and test there: if that holds, all of it."
    return [Advice("decarb", "Has the edge a skin without carbon?", "look", None, None, "", do, "0.2 mm of edge")]


def _thin(worked: Worked, edge: EdgePlan) -> Advice:
    least = edge.wanted[0]
    back = take_back(edge.behind, least, edge.primary)
    if edge.behind >= least:
        now = edge_angle(worked.document.finish)
        do = f"A wider angle: {now + 4:.0f} degrees in place of {now:.0f}."
        return Advice("thin", "Behind the edge it is thick enough for this use.", "not", edge.behind, least, "mm", do, "a stoning")
    do = f"A wider angle first; if that does not hold, take {back:.1f} mm of edge back: it is {least:.2f} mm thick there."
    costs = f"{back:.1f} mm of height; the core line comes as much nearer to the edge"
    return Advice("thin", "Behind the edge it is too thin for this use.", "so", edge.behind, least, "mm", do, costs)


def _too_hard(worked: Worked, test: EdgeTest, read: float | None) -> Advice:
    wanted = worked.hardening.planned or worked.document.hardening.wanted
    most = min(wanted + max(worked.hardening.sure, READ_WIDTH), suggested_for(worked.document.finish.use).hardness[1] + READ_WIDTH)
    if read is None:
        return Advice(
            "hard", "Is it harder than its work stands?", "look", None, most, "HRC", "Read the hardness at three spots.", "nothing"
        )
    if read > most:
        temper = worked.hardening.temper
        hotter = f"Temper again, {temper + 15:.0f} C, two hours." if temper else "Temper again, 15 C hotter, two hours."
        return Advice("hard", "It is harder than its work stands.", "so", read, most, "HRC", hotter, "about a point of hardness")
    return Advice("hard", "It is no harder than its work stands.", "not", read, most, "HRC", "Look further.", "nothing")


def _grain(worked: Worked) -> Advice:
    do = "A loupe on the ground of a chip: like grey velvet it is sound, like sugar it was overheated: normalise three times, harden anew."
    return Advice("grain", "Was it overheated?", "look", None, None, "", do, "a hardening, its risk, and a new finish")


def _austenite(worked: Worked) -> list[Advice]:
    left = [p.quenched.retained[1] for p in worked.hardening.parts if p.edge and p.quenched and p.quenched.retained]
    if not left:
        return []
    most, so = max(left), max(left) > AUSTENITE
    says = "Much austenite may be left at the edge." if so else "Little austenite is left by this hardening."
    do = "Temper once more at the same heat." if so else "Look further."
    return [Advice("austenite", says, "so" if so else "not", 100 * most, 100 * AUSTENITE, "%", do, "nothing but the hours")]


def _mixed(worked: Worked) -> list[Advice]:
    steels = worked.at_edge
    soft = [worked.shop.steels[k].name for k in steels if not worked.shop.steels[k].hardening]
    if soft:
        do = "No temper mends it: take the edge back to steel that hardens, or tell what it is for."
        return [Advice("mixed", f"{soft[0]} lies at the edge and does not harden.", "so", None, None, "", do, "height of the blade")]
    if len(steels) > 1:
        do = "A coarser stone: it bites by its teeth; no fine polish lasts on it."
        return [Advice("mixed", f"{len(steels)} steels cross the edge.", "so", float(len(steels)), 1.0, "", do, "nothing")]
    return [Advice("mixed", "One steel is at the edge.", "not", 1.0, 1.0, "", "Look further.", "nothing")]
