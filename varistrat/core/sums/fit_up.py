"""Sums of the last bench: bevel, hollow, middle lines, slot, pins, hidden tang, washers, glue; each with any unknown."""

from collections.abc import Mapping
from math import asin, degrees, hypot, radians, sin, tan
from typing import Any

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.design.worked import Worked
from varistrat.core.finish.purpose import edge_angle
from varistrat.core.sums.sum import Line, Quantity, Sum, Values

PLACE = "finish"
DOUBLES = 10.0
"""C that glue must be colder to take twice as long; indicative."""


def said_of(worked: Worked) -> dict[str, float]:
    """What a design's blade says of these sums. Raises InputError when there is none."""
    geometry = worked.blade.geometry
    blade, grind = geometry.blade, geometry.blade.grind.right
    top = float(geometry.height(np.array([geometry.length / 3]))[0])
    spine = blade.spine_thickness.heel
    said = {
        "thickness": spine,
        "height": min(grind.height or top, top),
        "edge": grind.edge_thickness,
        "behind": grind.edge_thickness or 0.4,
        "angle": edge_angle(worked.document.finish),
        "back": spine,
        "seam": worked.document.finish.fit_up.seam,
        "welt": worked.document.finish.fit_up.welt,
        "hide": worked.document.finish.fit_up.leather,
    }
    if blade.tang:
        said |= {"width": blade.tang.width, "front": spine}
    if worked.document.handle:
        said["length"] = worked.document.handle.length
    return said


def _of(**names: float) -> Any:
    """What the design already says, under the names the sum has for it; else these."""

    def fill(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
        return {name: float(fields.get(name, usual)) for name, usual in names.items()}

    return fill


def _slot(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known: dict[str, float] = _of(width=20.0, thickness=4.0)(bar, fields)
    return known | {"drill": known["thickness"] - 0.2}


def _taper(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known: dict[str, float] = _of(front=4.0, length=10.0)(bar, {k: v for k, v in fields.items() if k != "length"})
    return known | {"back": known["front"] - known["length"] / 100}


def _bevel_lines(v: Values) -> list[Line]:
    half = (v["thickness"] - v["edge"]) / 2
    return [
        Line("face, along its slope", hypot(v["height"], half), "mm"),
        Line("thick 5 mm above the edge", v["edge"] + 10 * tan(radians(v["angle"]) / 2), "mm"),
    ]


def _hollow_lines(v: Values) -> list[Line]:
    change = degrees(asin(min(1.0, v["height"] / 2 / v["wheel"])))
    return [
        Line("the edge is steeper than the flat by, each side", -change, "deg"),
        Line("two hollows, deeper than the flats by", 2 * v["sag"], "mm"),
    ]


def _slot_lines(v: Values) -> list[Line]:
    n = int(v["holes"] + 1e-9)
    return [
        Line("whole holes", n),
        Line("pitch", 1.1 * v["drill"], "mm"),
        Line("to file off each side", (v["thickness"] - v["drill"]) / 2, "mm"),
    ]


def _pin_lines(v: Values) -> list[Line]:
    n = round(v["pins"])
    places = [v["end"] + i * v["pitch"] for i in range(max(n, 0))]
    told = [Line(f"pin {i + 1} from the front", p, "mm") for i, p in enumerate(places[:8])]
    return [Line("hole, least", v["rod"] + 0.05, "mm"), Line("hole, most", v["rod"] + 0.1, "mm"), *told]


FIT_UP = (
    Sum(
        "bevel_angle",
        "Bevel: thickness, height, angle",
        (PLACE,),
        "tan(a/2) = (T - t) / 2H",
        (
            Quantity("thickness", "Stock at the bevel's top", "mm"),
            Quantity("height", "Height of the bevel", "mm"),
            Quantity("edge", "Edge left", "mm", 0.0),
            Quantity("angle", "Angle between the faces", "deg", 0.1, 80.0),
        ),
        "angle",
        lambda v: 2 * v["height"] * tan(radians(v["angle"]) / 2) - (v["thickness"] - v["edge"]),
        _of(thickness=4.0, height=30.0, edge=0.4),
        _bevel_lines,
        "Thicker stock at the same angle wants so much taller a bevel; the core line moves up with it.",
    ),
    Sum(
        "hollow",
        "A wheel's hollow",
        (PLACE,),
        "sag = s² / 8R",
        (
            Quantity("sag", "Hollow under the straight line", "mm"),
            Quantity("height", "Height of the hollow", "mm"),
            Quantity("wheel", "Radius of the wheel", "mm", 5.0, 1000.0),
        ),
        "sag",
        lambda v: v["sag"] * 8 * v["wheel"] - v["height"] ** 2,
        _of(height=20.0, wheel=125.0),
        _hollow_lines,
        "The edge left must be thicker than the two hollows, or they meet before it.",
    ),
    Sum(
        "middle_line",
        "Middle line off both faces",
        (PLACE,),
        "apart = |T - 2h|",
        (
            Quantity("thickness", "Thickness there", "mm"),
            Quantity("set", "Height gauge set to", "mm"),
            Quantity("apart", "The two lines lie apart", "mm", 0.0),
        ),
        "set",
        lambda v: v["apart"] - (v["thickness"] - 2 * v["set"]),
        _of(thickness=4.0, apart=0.0),
        lambda v: [Line("grind the edge between them, never past; at most apart", 0.2, "mm")],
        "Scribed from the one face and from the other: where they part is the middle, whatever the gauge says.",
    ),
    Sum(
        "guard_slot",
        "Slot of a guard, drilled in a chain",
        (PLACE,),
        "W = d + 1.1 d (n - 1),  d = t - 0.2",
        (
            Quantity("width", "Width of the tang at the shoulder", "mm"),
            Quantity("holes", "Holes in a row", "", 1.0, 60.0, whole=True),
            Quantity("drill", "Drill", "mm", 0.3, 30.0),
            Quantity("thickness", "Tang thick at the shoulder", "mm", 0.5, 30.0, given=True),
        ),
        "holes",
        lambda v: v["drill"] + 1.1 * v["drill"] * (v["holes"] - 1) - v["width"],
        _slot,
        _slot_lines,
        "Drill 0.2 mm thinner than the tang, then file; blue the tang and see. It must taper by 1 in 100 or more, or it jams.",
    ),
    Sum(
        "tang_taper",
        "Taper of a tang",
        (PLACE,),
        "1 : n = (t0 - t1) : L",
        (
            Quantity("front", "Thick at the shoulder", "mm"),
            Quantity("back", "Thick further back", "mm"),
            Quantity("length", "So far behind", "mm"),
            Quantity("taper", "Taper 1 in", "", 1.0, 10_000.0),
        ),
        "taper",
        lambda v: (v["front"] - v["back"]) * v["taper"] - v["length"],
        _taper,
        lambda v: [Line("most that does not jam: 1 in", 100.0)],
    ),
    Sum(
        "pins",
        "Pins of two scales",
        (PLACE,),
        "L = 2e + (n - 1) p",
        (
            Quantity("length", "Length of the scales", "mm"),
            Quantity("end", "First and last from the ends", "mm"),
            Quantity("pitch", "Pitch", "mm"),
            Quantity("pins", "Pins", "", 2.0, 12.0, whole=True),
            Quantity("rod", "Rod", "mm", 1.0, 15.0, given=True),
        ),
        "pitch",
        lambda v: 2 * v["end"] + (v["pins"] - 1) * v["pitch"] - v["length"],
        _of(length=115.0, end=15.0, pins=3.0, rod=5.0),
        _pin_lines,
        "At least two diameters of the rod from every edge. Drill the one scale through the tang, then the other through it; countersink.",
    ),
    Sum(
        "washers",
        "Washers of leather or bark",
        (PLACE,),
        "n = L / (t (1 - s))",
        (
            Quantity("length", "Length pressed", "mm"),
            Quantity("washers", "Washers", "", 1.0, 1000.0, whole=True),
            Quantity("thick", "Each is thick", "mm", 0.1, 20.0),
            Quantity("squeeze", "Pressed together by", "share", 0.0, 0.6),
        ),
        "washers",
        lambda v: v["washers"] * v["thick"] * (1 - v["squeeze"]) - v["length"],
        _of(length=110.0, thick=3.5, squeeze=0.12),
        lambda v: [Line("pile before it is pressed", v["length"] / (1 - v["squeeze"]), "mm")],
    ),
    Sum(
        "glue_time",
        "Working time of glue",
        (PLACE,),
        "t = t20 · 2^((20 - C) / 10)",
        (
            Quantity("time", "Working time", "min", 0.1, 1e4),
            Quantity("named", "As its maker says, at 20 C", "min", 0.5, 1e4),
            Quantity("celsius", "Shop and parts at", "C", 0.0, 40.0),
            Quantity("assembly", "Your dry run took", "min", 0.0, 1e4, given=True),
        ),
        "time",
        lambda v: v["time"] - v["named"] * 2 ** ((20 - v["celsius"]) / DOUBLES),
        _of(named=30.0, celsius=18.0, assembly=12.0),
        lambda v: [Line("left over after the dry run", v["time"] - v["assembly"], "min")],
        "Indicative: twice as slow for 10 C colder, and as much longer until it is strong. Roughen, degrease, warm; a dry run first.",
    ),
    Sum(
        "sheath",
        "Leather of a sheath, folded over the spine",
        (PLACE,),
        "B = 2 (H + s + w) + t + l",
        (
            Quantity("leather", "Width of the piece", "mm"),
            Quantity("height", "Height of the blade", "mm"),
            Quantity("seam", "Seam beyond the welt", "mm"),
            Quantity("welt", "Welt", "mm", 0.0),
            Quantity("back", "Blade thick at the spine", "mm", 0.0, 30.0),
            Quantity("hide", "Leather is thick", "mm", 0.5, 8.0),
        ),
        "leather",
        lambda v: v["leather"] - 2 * (v["height"] + v["seam"] + v["welt"]) - v["back"] - v["hide"],
        _of(height=30.0, seam=6.0, welt=4.0, back=4.0, hide=3.0),
        lambda v: [Line("stitches lie from the fold", (v["back"] + v["hide"]) / 2 + v["height"] + v["welt"] + v["seam"] / 2, "mm")],
        "The welt keeps the edge off the stitches; leather wet-formed shrinks by a hundredth or two.",
    ),
    Sum(
        "edge_bevel",
        "Bevel of the edge itself",
        (PLACE,),
        "w = (t / 2) / sin(a / 2)",
        (
            Quantity("width", "Bevel on each side", "mm"),
            Quantity("behind", "Thick behind the edge", "mm", 0.01),
            Quantity("angle", "Angle, both sides", "deg", 5.0, 90.0),
        ),
        "width",
        lambda v: v["width"] * sin(radians(v["angle"]) / 2) - v["behind"] / 2,
        _of(behind=0.4, angle=30.0),
    ),
)
