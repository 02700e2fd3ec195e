"""Tiles and end slices: angles, counts, waste, and how the motif comes out."""

from collections.abc import Mapping
from math import cos, radians, sin
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.sums.sum import Line, Quantity, Sum, Values

ANGLE = Quantity("angle", "Angle of the cut", "deg", 1.0, 90.0, fills="angle")
HEIGHT = Quantity("height", "Height of the bar", "mm")
WIDTH = Quantity("width", "Width of the bar", "mm")
TILE = Quantity("tile", "Thickness of a tile", "mm", fills="thickness")


def _tile(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known = {"height": bar.thickness, "width": bar.width, "length": bar.length, "kerf": float(fields.get("kerf") or 0.0)}
    for key, field in (("angle", "angle"), ("tile", "thickness"), ("count", "count")):
        if fields.get(field) is not None:
            known[key] = float(fields[field])
    return known


def _square(v: Values) -> float:
    return v["height"] * v["draw"] - v["width"] * sin(radians(v["angle"]))


def _tiles(v: Values) -> float:
    a = radians(v["angle"])
    return v["count"] * (v["tile"] + v["kerf"]) - v["kerf"] - (v["length"] * sin(a) - v["height"] * cos(a))


def _tiles_lines(v: Values) -> list[Line]:
    a, n = radians(v["angle"]), int(v["count"] + 1e-9)
    face = v["height"] / sin(a)
    return [
        Line("whole tiles", n),
        Line("face of a tile", face, "mm"),
        Line("tiled bar, wedges trimmed", n * face - v["tile"] * cos(a) / sin(a), "mm"),
    ]


def _slice(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known = {"height": bar.thickness, "width": bar.width, "loss": 0.05, "long": 200.0, "wide": 40.0, "thick": 5.0}
    if fields.get("thickness") is not None:
        known["slice"] = float(fields["thickness"])
    return known


SLICING = (
    Sum(
        "square_motif",
        "How squat to forge the bar for a square motif",
        ("tiles",),
        "T = W · sin a / f",
        (ANGLE, HEIGHT, WIDTH, Quantity("draw", "Later drawn longer by", "×", 0.2, 20.0)),
        "height",
        _square,
        lambda bar, fields: {**_tile(bar, fields), "draw": 1.0},
        lambda v: [
            Line("motif after the draw, long", v["height"] / sin(radians(v["angle"])) * v["draw"], "mm"),
            Line("and wide", v["width"], "mm"),
        ],
        "The cut face is T / sin a long; drawn longer by f at held width it must come out as long as the bar is wide.",
    ),
    Sum(
        "tile_count",
        "Tiles from a bar",
        ("tiles",),
        "n (t + kerf) - kerf = L sin a - T cos a",
        (
            Quantity("count", "Tiles", "", 0.5, 2000.0, whole=True, fills="count"),
            Quantity("length", "Length of the bar", "mm"),
            TILE,
            ANGLE,
            HEIGHT,
            Quantity("kerf", "Saw kerf", "mm", 0.0, 20.0, fills="kerf"),
        ),
        "count",
        _tiles,
        lambda bar, fields: _tile(bar, fields),
        _tiles_lines,
        "The bar loses T cot a of its length to the two slanted ends.",
    ),
    Sum(
        "wedge_waste",
        "Wedge ends wasted",
        ("tiles",),
        "w = t cos a / (n T)",
        (
            Quantity("waste", "Share of the tiles", "share", 0.0, 1.0),
            TILE,
            ANGLE,
            Quantity("count", "Tiles", "", 1.0, 2000.0, whole=True, fills="count"),
            HEIGHT,
        ),
        "waste",
        lambda v: v["waste"] * v["count"] * v["height"] - v["tile"] * cos(radians(v["angle"])),
        lambda bar, fields: _tile(bar, fields),
        note="The flatter the cut and the thicker the tile, the more goes into the wedges trimmed off the two ends.",
    ),
    Sum(
        "slice_thickness",
        "Slice for a blank",
        ("end_slice",),
        "t · W · T · (1 - loss) = l · w · h",
        (
            Quantity("slice", "Slice", "mm", fills="thickness"),
            WIDTH,
            HEIGHT,
            Quantity("loss", "Lost to scale and grinding", "share", 0.0, 0.95),
            Quantity("long", "Blank, long", "mm"),
            Quantity("wide", "Blank, wide", "mm"),
            Quantity("thick", "Blank, thick", "mm"),
        ),
        "slice",
        lambda v: v["slice"] * v["width"] * v["height"] * (1 - v["loss"]) - v["long"] * v["wide"] * v["thick"],
        _slice,
        lambda v: [
            Line("motif stretched along", v["long"] / v["height"], "×"),
            Line("and across", v["wide"] / v["width"], "×"),
            Line("so it is longer than wide by", v["long"] / v["height"] / (v["wide"] / v["width"]), "×"),
        ],
        "Forge the bar squat by the last figure beforehand if the motif should come out true.",
    ),
)
