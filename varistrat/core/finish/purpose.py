"""What a blade is for, and what that suggests of its edge, hardness and outline; a suggestion, changed at will.

Thickness behind the edge is the table that plans go by already (blade/measures.py). The others follow one thought: what is pushed through
soft things may be thin and hard; what is struck must give before it breaks. Indicative, handbook practice.
"""

from dataclasses import dataclass
from typing import Literal, get_args

from varistrat.core.blade.measures import FOR_USE
from varistrat.core.blade.model import Shape
from varistrat.core.design.finish_plan import FinishPlan, Use
from varistrat.core.design.worked import Worked

Purpose = Literal["slicing", "carving", "chopping", "heavy work", "show"]
PURPOSES: tuple[Purpose, ...] = get_args(Purpose)


@dataclass(frozen=True)
class Suggested:
    """behind: thickness behind the edge before sharpening, mm; angle: of the edge, both sides together, degrees; hardness: HRC; each from
    and to; shapes: outlines that suit; why: in a sentence."""

    purpose: Purpose
    behind: tuple[float, float]
    angle: tuple[float, float]
    hardness: tuple[float, float]
    shapes: tuple[Shape, ...]
    why: str


SUGGESTED: dict[Purpose, Suggested] = {
    s.purpose: s
    for s in (
        Suggested(
            "slicing", FOR_USE["slicing"], (20.0, 30.0), (60.0, 63.0), ("drop_point", "straight_back"),
            "Drawn and pushed through soft things: it goes the easier the thinner it is, and nothing strikes it.",
        ),
        Suggested(
            "carving", FOR_USE["general"], (22.0, 30.0), (58.0, 61.0), ("sheepfoot", "straight_back"),
            "Levered in wood: thin enough to bite, thick enough not to roll over at a knot.",
        ),
        Suggested(
            "chopping", FOR_USE["chopping"], (30.0, 38.0), (56.0, 59.0), ("leaf", "drop_point"),
            "It is struck: an edge that is thin or hard chips, one that gives a little is stoned straight again.",
        ),
        Suggested(
            "heavy work", FOR_USE["sword"], (35.0, 45.0), (54.0, 57.0), ("drop_point", "clipped"),
            "Struck, levered and dropped: it must bend before it breaks.",
        ),
        Suggested(
            "show", FOR_USE["general"], (25.0, 35.0), (57.0, 61.0), ("leaf", "clipped", "drop_point"),
            "Looked at more than used: an all-round edge, and a broad flat for the pattern.",
        ),
    )
}  # fmt: skip


_USES: dict[Use, Purpose] = {"slicing": "slicing", "general": "carving", "chopping": "chopping", "sword": "heavy work"}


def suggested_for(use: Use) -> Suggested:
    """What the purpose nearest to a use of the edge (the table of thickness behind it) suggests."""
    return SUGGESTED[_USES[use]]


def edge_angle(plan: FinishPlan) -> float:
    """Of the edge, both sides together, degrees: the smith's, or the middle of what its use wants."""
    return plan.angle if plan.angle is not None else sum(suggested_for(plan.use).angle) / 2


@dataclass(frozen=True)
class Suits:
    """suggested: for this purpose; differs: where the design is otherwise, each a sentence with its figures."""

    suggested: Suggested
    differs: list[str]


def suits(worked: Worked, purpose: Purpose) -> Suits:
    """How a design stands to what it is for. Raises InputError when there is no blade."""
    s = SUGGESTED[purpose]
    blade = worked.blade.geometry.blade
    differs = []
    edge = (blade.grind.right.edge_thickness + blade.grind.left.edge_thickness) / 2
    low, high = s.behind
    if not low - 1e-9 <= edge <= high + 1e-9:
        much = "thicker" if edge > high else "thinner"
        differs.append(f"The edge is planned {edge:.2f} mm thick, {much} than {low:.2f} to {high:.2f} mm for {purpose}.")
    w = worked.hardening
    if (hard := w.planned) is not None:
        low, high = s.hardness
        # beyond what it is known to: of less nothing is said
        if not low - w.sure <= hard <= high + w.sure:
            much, cure = ("harder", "a hotter temper") if hard > high else ("softer", "a cooler temper, or a steel with more carbon")
            differs.append(f"Its edge will be about {hard:.0f} HRC, {much} than {low:.0f} to {high:.0f} for {purpose}: {cure}.")
    shape = getattr(blade.outline, "shape", None)
    if shape is not None and shape not in s.shapes:
        named = " or ".join(n.replace("_", " ") for n in s.shapes)
        differs.append(f"Its outline is {shape.replace('_', ' ')}; {named} suits {purpose} better.")
    return Suits(s, differs)
