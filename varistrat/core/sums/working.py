"""Drawing, rolling, twisting, bending, splitting: passes, turns, heats, strains."""

from collections.abc import Mapping
from math import ceil, exp, log, pi
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.steps.twist import SHEAR_CARE, SHEAR_PER_HEAT
from varistrat.core.sums.sum import Line, Quantity, Sum, Values

FROM = Quantity("from", "Thickness before", "mm")
TO = Quantity("to", "Thickness after", "mm", fills="thickness")
CUT = Quantity("cut", "Taken at each pass", "share", 0.002, 0.6)


MOST_PASSES = 40
"""Listed one by one."""


def _pass(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    known = {"from": bar.thickness, "cut": 0.1, "width": bar.width, "wide": 1.2 * bar.width, "length": bar.length}
    if fields.get("thickness") is not None:
        known["to"] = float(fields["thickness"])
    return known


def _schedule(v: Values) -> list[Line]:
    """Every whole pass, each taking the like share, so that the last one lands on the size."""
    n = ceil(v["passes"] - 1e-9)
    if n < 1:
        return [Line("whole passes", 0)]
    even = 1 - (v["to"] / v["from"]) ** (1 / n)
    shown = range(1, n + 1) if n <= MOST_PASSES else [*range(1, MOST_PASSES), n]
    after = [Line(f"after pass {k}", v["from"] * (1 - even) ** k, "mm") for k in shown]
    return [Line("whole passes", n), Line("each takes", even, "share"), *after]


def _twist(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    across = 2 * (bar.section.area / pi) ** 0.5
    known = {"length": bar.length, "across": across, "hot": min(120.0, bar.length), "per_heat": SHEAR_PER_HEAT, "most": SHEAR_CARE}
    if fields.get("turns") is not None:
        known["turns"] = float(fields["turns"])
    return known


LENGTH = Quantity("length", "Length of the bar", "mm")
TURNS = Quantity("turns", "Turns in all", "turns", 0.01, 2000.0, fills="turns")
ACROSS = Quantity("across", "Round of equal area", "mm")


def _heats(v: Values) -> list[Line]:
    stretches = ceil(v["length"] / v["hot"] - 1e-9)
    each = ceil(v["shear"] / v["per_heat"] - 1e-9)
    return [
        Line("stretches the fire can take", stretches),
        Line("heats for each", each),
        Line("heats in all", stretches * each),
        Line("turns at each heat", v["shear"] * v["hot"] / (pi * v["across"]) / each if each else 0.0),
    ]


WORKING = (
    Sum(
        "passes",
        "Passes from one thickness to another",
        ("weld", "draw", "end_slice"),
        "T' = T (1 - r)ⁿ",
        (FROM, TO, CUT, Quantity("passes", "Passes", "", 0.01, 2000.0, whole=True)),
        "passes",
        lambda v: v["from"] * (1 - v["cut"]) ** v["passes"] - v["to"],
        _pass,
        _schedule,
        "A tenth of the thickness a pass is usual under rolls, fewer hundredths as it thins; 3 to 8 % for the first weld passes.",
    ),
    Sum(
        "widen_first",
        "Turned to widen first",
        ("draw", "end_slice"),
        "T' = T · W / W',  n = ln(W'/W) / -ln(1 - r)",
        (
            FROM,
            Quantity("turned", "Thickness when to turn back", "mm"),
            Quantity("width", "Width before", "mm"),
            Quantity("wide", "Width wanted", "mm"),
        ),
        "turned",
        lambda v: v["from"] * v["width"] - v["turned"] * v["wide"],
        _pass,
        lambda v: [Line("passes crossways at a tenth each", log(v["wide"] / v["width"]) / -log(0.9) if v["wide"] > v["width"] else 0.0)],
        "Rolls lengthen and hardly widen: lay the piece across, roll until it is as wide as wanted, then turn it back.",
    ),
    Sum(
        "turns_per_length",
        "Turns and pitch",
        ("twist",),
        "p = L / N,  γ = π D / p",
        (LENGTH, TURNS, Quantity("pitch", "One turn in", "mm", 0.1, 1e4)),
        "pitch",
        lambda v: v["turns"] * v["pitch"] - v["length"],
        _twist,
        note="The bar keeps its length in the sum; in the vice it shortens by 1 to 3 %.",
    ),
    Sum(
        "twist_heats",
        "Heats for a twist",
        ("twist",),
        "γ = π D N / L,  heats = ⌈L / hot length⌉ · ⌈γ / γ a heat⌉",
        (
            Quantity("shear", "Shear of the skin", "", 0.001, 1000.0),
            TURNS,
            LENGTH,
            ACROSS,
            Quantity("hot", "Length the fire heats evenly", "mm", given=True),
            Quantity("per_heat", "Shear at each heat", "", 0.05, 10.0, given=True),
        ),
        "shear",
        lambda v: v["shear"] * v["length"] - pi * v["across"] * v["turns"],
        _twist,
        _heats,
        "About 1.25 a heat is safe for laminates above 1050 C. Indicative.",
    ),
    Sum(
        "tightest_twist",
        "When corners tear",
        ("twist",),
        "N = γ L / (π D)",
        (TURNS, LENGTH, ACROSS, Quantity("most", "Most shear of the skin", "", 0.1, 20.0)),
        "turns",
        lambda v: v["turns"] * pi * v["across"] - v["most"] * v["length"],
        _twist,
        lambda v: [Line("that is one turn in", v["length"] / v["turns"], "mm")],
        "Welds begin to open at 3.5, few laminates survive 5. Indicative.",
    ),
    Sum(
        "bend_strain",
        "Stretch of the outer edge",
        ("bend",),
        "ε = W / (2 R)",
        (
            Quantity("strain", "Stretch", "share", 0.001, 0.99),
            Quantity("width", "Width", "mm"),
            Quantity("radius", "Radius", "mm", fills="radius"),
        ),
        "strain",
        lambda v: 2 * v["strain"] * v["radius"] - v["width"],
        lambda bar, fields: {"width": bar.width} | ({"radius": float(fields["radius"])} if fields.get("radius") else {}),
    ),
    Sum(
        "split_cost",
        "What a split costs",
        ("split",),
        "cost = |drag| (1 - exp(-W / 2 reach)) / T",
        (
            Quantity("cost", "Share of the bar ground off", "share", 0.0, 0.999),
            Quantity("drag", "Drag", "mm", 0.0, 1e4, fills="drag"),
            Quantity("reach", "Reach", "mm", fills="reach"),
            Quantity("width", "Width", "mm"),
            Quantity("height", "Height of the bar", "mm"),
        ),
        "cost",
        lambda v: v["cost"] * v["height"] - v["drag"] * (1 - exp(-v["width"] / 2 / v["reach"])),
        lambda bar, fields: (
            {"width": bar.width, "height": bar.thickness}
            | {k: abs(float(fields[k])) for k in ("drag", "reach") if fields.get(k) is not None}
        ),
    ),
)
