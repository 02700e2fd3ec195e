"""Hard steel at the edge: how a scarf comes out on the faces, and what an end bevel shows."""

from collections.abc import Mapping
from math import radians, sin, tan
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.sums.sum import Line, Quantity, Sum, Values


def _scarf(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known = {"thickness": bar.thickness, "reveal": 10.0}
    angle = fields.get("angle")
    known["reach"] = known["reveal"] + bar.thickness * (1 / tan(radians(float(angle))) if angle and angle < 90 else 1.0)
    return known


def _scarf_gap(v: Values) -> float:
    return (v["reach"] - v["reveal"]) * sin(radians(v["angle"])) - v["thickness"] * sin(radians(90 - v["angle"]))


def _scarf_lines(v: Values) -> list[Line]:
    face = v["thickness"] / sin(radians(v["angle"]))
    return [Line("joint, across its slope", face, "mm"), Line("more to weld than a plain butt joint", face / v["thickness"], "×")]


def _bevel(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    return {"thickness": bar.thickness, "angle": 25.0, "hard": bar.thickness / 4}


def _bevel_lines(v: Values) -> list[Line]:
    a = radians(v["angle"])
    return [
        Line("reaches back along the tool", v["thickness"] / tan(a), "mm"),
        Line("hard steel shown on the bevel", min(v["hard"], v["thickness"]) / sin(a), "mm"),
    ]


EDGES = (
    Sum(
        "scarf_angle",
        "Angle of a scarf",
        ("assembly",),
        "tan a = T / (reach - reveal)",
        (
            Quantity("angle", "Angle of the joint", "deg", 5.0, 89.9, fills="angle"),
            Quantity("thickness", "Thickness at the joint", "mm"),
            Quantity("reach", "Edge steel reaches, on the side where it shows most", "mm"),
            Quantity("reveal", "and on the other side", "mm", 0.0),
        ),
        "angle",
        _scarf_gap,
        _scarf,
        _scarf_lines,
        (
            "Heights above the edge at which the joint comes out on either face. A joint less steep than 45° welds easily but shows "
            "far apart on the two sides; drawn wider by f, reach and reveal grow by f."
        ),
    ),
    Sum(
        "end_bevel",
        "End bevel of a plane iron or chisel",
        ("assembly", "stack", "grind"),
        "b = T / sin a",
        (
            Quantity("bevel", "Bevel, across its slope", "mm"),
            Quantity("thickness", "Thickness of the tool", "mm"),
            Quantity("angle", "Angle of the bevel", "deg", 5.0, 85.0),
            Quantity("hard", "Hard steel on the flat side", "mm", 0.0, given=True),
        ),
        "bevel",
        lambda v: v["bevel"] * sin(radians(v["angle"])) - v["thickness"],
        _bevel,
        _bevel_lines,
        "The hard steel lies on the flat side; the bevel is ground through the soft one and shows both.",
    ),
)
