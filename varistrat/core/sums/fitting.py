"""Sizes that must fit: equal areas, stop blocks, plugs, canisters."""

from collections.abc import Mapping
from math import pi, sqrt
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.sums.sum import Line, Quantity, Sum, Values

OCTAGON = 2 * (sqrt(2) - 1)
"""Area of an octagon over the square of its width across flats."""


def expansion(celsius: float) -> float:
    """Strain of carbon steel from 20 C: EN 1993-1-2, 3.4.1.1, with its plateau at the change of phase."""
    if celsius < 750:
        return 1.2e-5 * celsius + 0.4e-8 * celsius**2 - 2.416e-4
    if celsius <= 860:
        return 0.011
    return 2e-5 * celsius - 6.2e-3


def _alike(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    return {"square": sqrt(bar.section.area)}


def _alike_lines(v: Values) -> list[Line]:
    a = v["square"]
    return [
        Line("octagon across flats", a / sqrt(OCTAGON), "mm"),
        Line("square corner to corner: a collet or hole must clear this", a * sqrt(2), "mm"),
        Line("octagon corner to corner", a / sqrt(OCTAGON) / 0.9238795325, "mm"),
    ]


def _canister(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    packing = (fields.get("matrix") or {}).get("packing") if isinstance(fields.get("matrix"), dict) else None
    height = fields.get("thickness") or bar.thickness
    # the bar's own packing share tells how much of the can is pieces
    share = bar.thickness / height
    p = float(packing or 0.6)
    solid = min(max((share - p) / (1 - p), 0.0), 1.0) if p < 1 else 0.0
    return {"packing": p, "pieces": solid, "inside": float(height)}


FITTING = (
    Sum(
        "equal_area",
        "Square and round of equal area, collet",
        ("section", "twist"),
        "d = 2 a / √π",
        (Quantity("square", "Square", "mm"), Quantity("round", "Round", "mm")),
        "round",
        lambda v: v["round"] * sqrt(pi) - 2 * v["square"],
        _alike,
        _alike_lines,
    ),
    Sum(
        "stop_block",
        "Stop block for a thickness",
        ("weld", "draw", "relief"),
        "h = t (1 + ε(C))",
        (
            Quantity("block", "Stop block", "mm"),
            Quantity("cold", "Thickness wanted cold", "mm", fills="thickness"),
            Quantity("heat", "At", "C", 20.0, 1300.0),
        ),
        "block",
        lambda v: v["block"] - v["cold"] * (1 + expansion(v["heat"])),
        lambda bar, fields: {"cold": float(fields.get("thickness") or bar.thickness), "heat": 1000.0},
        lambda v: [Line("it shrinks on cooling by", v["block"] - v["cold"], "mm")],
        "Carbon steel, EN 1993-1-2. Scale lies on top of it: wipe before the last pass. Stainless and nickel grow half as much again.",
    ),
    Sum(
        "plug_after",
        "What a plug becomes",
        ("assembly",),
        "d' = d √(T / T')",
        (
            Quantity("after", "Plug on the finished face", "mm"),
            Quantity("plug", "Plug and hole", "mm", fills="diameter"),
            Quantity("height", "Plate when it goes in", "mm"),
            Quantity("thin", "Plate when pressed and ground", "mm"),
        ),
        "after",
        lambda v: v["after"] ** 2 * v["thin"] - v["plug"] ** 2 * v["height"],
        lambda bar, fields: {
            "height": bar.thickness,
            "thin": round(0.6 * bar.thickness, 2),
            "plug": float(fields.get("diameter") or 0.5 * bar.width),
        },
        lambda v: [Line("it grows across by", 100 * (v["after"] / v["plug"] - 1), "%")],
        "Pressed evenly both ways; drawn out only along, it becomes an oval of the same area. What is ground off changes nothing across.",
    ),
    Sum(
        "plug_fit",
        "Hole, plug and play",
        ("assembly",),
        "gap = (hole - plug) / 2,  closes when T' = T (plug / hole)²",
        (
            Quantity("hole", "Hole", "mm", fills="diameter"),
            Quantity("plug", "Plug", "mm"),
            Quantity("height", "Height of plug and plate", "mm"),
            Quantity("closed", "Height at which the plug fills the hole", "mm"),
        ),
        "closed",
        lambda v: v["closed"] * v["hole"] ** 2 - v["height"] * v["plug"] ** 2,
        lambda bar, fields: {
            "height": bar.thickness,
            "hole": float(fields.get("diameter") or 0.5 * bar.width),
            "plug": float(fields.get("diameter") or 0.5 * bar.width) - 0.1,
        },
        lambda v: [Line("play on each side", (v["hole"] - v["plug"]) / 2, "mm"), Line("to be pressed", v["height"] - v["closed"], "mm")],
        "Up to a tenth of a millimetre of play is soon closed; more traps scale. The hole is taken to stay as it is.",
    ),
    Sum(
        "canister_height",
        "Height of a canister pressed solid",
        ("canister",),
        "T' = T (f + (1 - f) p)",
        (
            Quantity("solid", "Height pressed solid", "mm"),
            Quantity("inside", "Height inside the can", "mm", fills="thickness"),
            Quantity("pieces", "Share of the can that is pieces", "share", 0.0, 1.0),
            Quantity("packing", "Packing of the powder", "share", 0.05, 1.0),
        ),
        "solid",
        lambda v: v["solid"] - v["inside"] * (v["pieces"] + (1 - v["pieces"]) * v["packing"]),
        _canister,
        lambda v: [Line("pieces squat to", 100 * v["solid"] / v["inside"], "% of their height")],
    ),
)
