"""A design begun from an order: its size, its steels and what it is for, as the first draft of the blade."""

from collections.abc import Sequence

from varistrat.core.design.document import Document, read_document
from varistrat.core.errors import InputError
from varistrat.core.finish.purpose import SUGGESTED, Purpose
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import DEFAULT_BLADE, STARTERS, Starter, of_steels
from varistrat.core.steels import named_steel

OVER = 10.0
"""mm that a bar is begun wider than its blade is high."""
SHORTEST, LONGEST, LOWEST, HIGHEST = 30.0, 1500.0, 8.0, 150.0
"""mm of a blade that somebody orders."""


def ordered(
    title: str,
    steels: Sequence[str] = (),
    length: float | None = None,
    height: float | None = None,
    purpose: Purpose | None = None,
    shop: ShopData = AS_SHIPS,
) -> Document:
    """What is not said is as in the plainest start; edge, angle, hardness and outline as the purpose suggests them (`SUGGESTED`).

    mm; steels: keys, one for a plain bar. Raises InputError for a steel there is not, or a size no blade has.
    """
    for name, value, low, high in (("length", length, SHORTEST, LONGEST), ("height", height, LOWEST, HIGHEST)):
        if value is not None and not low <= value <= high:
            raise InputError.at(name, f"a blade {value:g} mm {'long' if name == 'length' else 'high'}", f"give {low:g} to {high:g} mm")
    data = _start(list(dict.fromkeys(steels)), shop).document()
    data["recipe"]["name"] = title[:80]
    blade, bar = data["blade"], data["recipe"]["bar"]
    blade["outline"] |= {k: v for k, v in (("length", length), ("height", height)) if v is not None}
    wide = blade["outline"]["height"] + OVER
    for part in (bar["start"], *bar["steps"]):
        if "width" in part:
            part["width"] = max(part["width"], wide)
    if bar["start"]["kind"] == "solid":
        bar["start"]["length"] = 2.0 * blade["outline"]["length"] + 100.0
    if purpose:
        said = SUGGESTED[purpose]
        blade["outline"]["shape"] = said.shapes[0]
        for side in ("right", "left"):
            blade["grind"][side]["edge_thickness"] = round(sum(said.behind) / 2, 2)
        data["hardening"] = {"wanted": sum(said.hardness) / 2}
        data["finish"] = {"angle": sum(said.angle) / 2}
    return read_document(data, shop)


def _start(steels: list[str], shop: ShopData) -> Starter:
    if not steels:
        return STARTERS["blank"]
    if len(steels) > 1:
        return of_steels(steels, shop=shop)
    steel = named_steel(steels[0], shop.steels)
    bar = {"kind": "solid", "steel": steel.key, "length": 400.0, "width": 40.0, "thickness": 5.0}
    return Starter("", steel.name, "", bar, (), DEFAULT_BLADE)
