"""Ways out when the bar comes up short: each one number that gives way, worked out so that nothing is to spare.

Each is a document of its own, so that its blade can be looked at before it is taken.
"""

from collections.abc import Callable
from copy import deepcopy
from dataclasses import dataclass, replace
from typing import Any, Literal

from varistrat.core.bars.model import tidy
from varistrat.core.blade.place import BAR_TOO_SHORT, BLADE_OFF_BAR
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.stock.need import Allowance, ticked
from varistrat.core.stock.sheet import FINE, StockSheet, stock_of

Json = dict[str, Any]
Give = Literal["length", "layers", "thickness", "width", "tang", "reserve"]
LENGTH = {BLADE_OFF_BAR.name, BAR_TOO_SHORT.name}
"""What a bar that is short may have found of it already."""
MOST_RATIO = 4.0
"""Layers more than so many times as thick, or a bar drawn so much thinner, are another design."""


@dataclass(frozen=True)
class WayOut:
    """give: what gives way; says: in words; value: what it becomes (mm; a share for the reserve; a ratio for layers); document: the
    design so; spare: mm left over then."""

    give: Give
    says: str
    value: float
    document: Document
    spare: float


def ways_out(worked: Worked, allowed: Allowance) -> list[WayOut]:
    """For a design that is short; none for one that is not. Raises InputError as `stock_of` does."""
    sheet = stock_of(worked, allowed)
    if sheet.spare >= -FINE:
        return []
    found = (
        way(worked, allowed, sheet) for way in (_longer_pile, _thicker_layers, _thinner_bar, _narrower_bar, _shorter_tang, _less_reserve)
    )
    return [w for w in found if w]


def _as(worked: Worked, allowed: Allowance, data: Json) -> tuple[Document, float] | None:
    """(the changed design, what it has to spare); None when it cannot be made so."""
    try:
        document = read_document(data, worked.shop)
        changed = Worked.of(document)
        if changed.problems:
            return None
        spare = stock_of(changed, allowed).spare
        # a bar that is long enough and still does not hold its blade is too narrow or too thin for it
        new_stops = _stops(changed) - (_stops(worked) - LENGTH if spare >= 0 else LENGTH | _stops(worked))
        return None if new_stops else (document, spare)
    except InputError:
        return None


def _stops(worked: Worked) -> set[str]:
    cut = worked.cut
    checks = cut.placed.geometry.checks() + cut.placed.checks() if cut else []
    return {f.code for f in checks if f.grade == "stop"}


def _data(worked: Worked) -> Json:
    return deepcopy(worked.document.as_json())


def _longer_pile(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    data = _data(worked)
    longest = 0.0
    for pile in sheet.piles:
        start = data["recipe"]["bar"]["start"]
        for i in pile.bar:
            start = start["bars"][i]["start"]
        start["length"] = max(start["length"], ticked(pile.length, worked.shop.numbers))
        longest = max(longest, start["length"])
    made = _as(worked, allowed, data)
    if made is None or made[1] < -FINE:
        return None
    piles = "the pile" if len(sheet.piles) == 1 else "the longest pile"
    return WayOut("length", f"Cut {piles} {longest:.0f} mm long.", longest, *made)


def _thicker_layers(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    def with_ratio(ratio: float) -> Json | None:
        data = _data(worked)
        starts = list(_starts(data["recipe"]["bar"]))
        if not all(s["kind"] == "stack" for s in starts if "bars" not in s):
            return None
        for layer in (layer for s in starts for layer in s.get("layers", ())):
            layer["thickness"] *= ratio
        return data

    ratio = _root(lambda r: _spare(worked, allowed, with_ratio(r)), 1.0, MOST_RATIO)
    data = with_ratio(ratio) if ratio else None
    made = _as(worked, allowed, data) if data else None
    return WayOut("layers", f"Make every layer {100 * (ratio - 1):.0f} % thicker.", ratio, *made) if made and ratio else None


def _drawn(worked: Worked, allowed: Allowance, size: Literal["thickness", "width"]) -> WayOut | None:
    steps = worked.document.recipe.bar.steps
    at = next((i for i in range(len(steps) - 1, -1, -1) if steps[i].spreads and getattr(steps[i], size, None)), None)
    if at is None or steps[at].id in worked.document.off:
        return None
    now = float(getattr(steps[at], size))

    def to(value: float) -> Json:
        data = _data(worked)
        data["recipe"]["bar"]["steps"][at][size] = value
        return data

    found = _root(lambda v: _spare(worked, allowed, to(v)), now, now / MOST_RATIO)
    if found is None:
        return None
    value = tidy(found)
    made = _as(worked, allowed, to(value if value <= found else found))
    how = "thinner" if size == "thickness" else "narrower"
    return WayOut(size, f"Draw the bar {how}: {value:g} mm for {now:g}.", value, *made) if made else None


def _thinner_bar(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    return _drawn(worked, allowed, "thickness")


def _narrower_bar(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    return _drawn(worked, allowed, "width")


def _shorter_tang(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    blade = worked.document.blade
    if not blade or not blade.tang or sheet.need.typed:
        return None

    def to(length: float) -> Json:
        data = _data(worked)
        data["blade"]["tang"]["length"] = length
        return data

    now = blade.tang.length
    found = _root(lambda v: _spare(worked, allowed, to(v)), now, now / MOST_RATIO)
    made = _as(worked, allowed, to(found)) if found else None
    return WayOut("tang", f"Make the tang {found:.0f} mm long instead of {now:g}.", found, *made) if made and found else None


def _less_reserve(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    """It reaches when nothing goes wrong."""
    need = sheet.need
    left = sheet.have / (need.length - need.reserve) - 1
    if need.typed or left < 0:
        return None
    spare = stock_of(worked, replace(allowed, reserve=left)).spare
    return WayOut(
        "reserve", f"Go on with a reserve of {100 * left:.0f} % instead of {100 * allowed.reserve:.0f}.", left, worked.document, spare
    )


def _starts(bar: Json) -> list[Json]:
    start = bar["start"]
    return [start, *(s for child in start.get("bars", ()) for s in _starts(child))]


def _spare(worked: Worked, allowed: Allowance, data: Json | None) -> float | None:
    made = _as(worked, allowed, data) if data else None
    return made[1] if made else None


def _root(spare: Callable[[float], float | None], now: float, far: float) -> float | None:
    """The value nearest to `now`, towards `far`, from which it is not short: spare only grows that way. None when none does."""
    low, high = now, far
    at = spare(high)
    if at is None or at < 0:
        # what is too far to be made may be more than enough on the way there
        for _ in range(6):
            high = (low + high) / 2
            at = spare(high)
            if at is not None and at >= 0:
                break
            if at is not None:
                return None
        else:
            return None
    for _ in range(24):
        middle = (low + high) / 2
        at = spare(middle)
        if at is None or at < 0:
            low = middle
        else:
            high = middle
        if abs(high - low) < 1e-6 * abs(now):
            break
    return high
