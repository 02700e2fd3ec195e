"""What may give way so that the bar is as long as it must be: each one number, worked out so that nothing is to spare.

Where it is short these are ways out; where it is long they are what it could do with less. Each is a document of its own, so that its
blade can be looked at before it is taken.
"""

from collections.abc import Callable, Collection, Sequence
from copy import deepcopy
from dataclasses import dataclass, replace
from typing import Any, Literal

from varistrat.core.bars.model import tidy
from varistrat.core.blade.place import BAR_TOO_SHORT, BLADE_OFF_BAR
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.standing import Against, against, made_worse
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.limits import MAX_LAYERS
from varistrat.core.stock.need import Allowance, ticked
from varistrat.core.stock.sheet import FINE, StockSheet, stock_of

Json = dict[str, Any]
Give = Literal["length", "layers", "count", "tiles", "thickness", "width", "tang", "reserve"]
LENGTH = {BLADE_OFF_BAR.name, BAR_TOO_SHORT.name}
"""What a bar that is short may have found of it already."""
MOST_RATIO = 4.0
"""Layers more than so many times as thick, or a bar drawn so much thinner, are another design."""
LIGHT = 1.0
"""g that nobody would save."""
NEAR = 1e-7
"""Of a number: nearer to nothing to spare nobody looks."""
TRIED = 6
"""Ways to do a step otherwise, the least change first."""


@dataclass(frozen=True)
class WayOut:
    """give: what gives way; says: in words; value: what it becomes (mm; a share for the reserve; a ratio for layers; how many for a
    count); document: the design so; spare: mm left over then; mass: g that the piles take then; worse: what fails or needs care of it
    that does not as it is."""

    give: Give
    says: str
    value: float
    document: Document
    spare: float
    mass: float
    worse: tuple[Against, ...] = ()


def ways_out(worked: Worked, allowed: Allowance) -> list[WayOut]:
    """For a design that is short; none for one that is not. Raises InputError as `stock_of` does."""
    return _ways(worked, allowed, short=True)


def ways_to_save(worked: Worked, allowed: Allowance) -> list[WayOut]:
    """For a design that has more than it must, those that take less steel. Raises InputError as `stock_of` does."""
    found = _ways(worked, allowed, short=False)
    now = _put_in(stock_of(worked, allowed))
    return [w for w in found if w.mass < now - LIGHT]


def _ways(worked: Worked, allowed: Allowance, short: bool) -> list[WayOut]:
    sheet = stock_of(worked, allowed)
    if (sheet.spare < -FINE) != short or abs(sheet.spare) <= FINE:
        return []
    ways = (_pile, _layers, _count, _tiles, _thickness, _width, _shorter_tang, _less_reserve)
    found = (way(worked, sheet.allowed, sheet) for way in ways)
    was = against(worked)
    return [replace(w, worse=made_worse(was, Worked.of(w.document))) for w in found if w]


def _put_in(sheet: StockSheet) -> float:
    """g of the piles as the design has them."""
    firsts = [w.forged for w in sheet.wanted if not w.forged.children]
    return sum(f.first.volume * f.densities[0] for f in firsts)


def _as(worked: Worked, allowed: Allowance, data: Json) -> tuple[Document, float, float] | None:
    """(the changed design, what it has to spare, g its piles take); None when it cannot be made so."""
    try:
        document = read_document(data, worked.shop)
        changed = Worked.of(document)
        if changed.problems:
            return None
        sheet = stock_of(changed, allowed)
        spare = float(sheet.spare)
        # a bar that is long enough and still does not hold its blade is too narrow or too thin for it
        new_stops = _stops(changed) - (_stops(worked) - LENGTH if spare >= 0 else LENGTH | _stops(worked))
        return None if new_stops else (document, spare, float(_put_in(sheet)))
    except InputError:
        return None


def _stops(worked: Worked) -> set[str]:
    cut = worked.cut
    checks = cut.placed.geometry.checks() + cut.placed.checks() if cut else []
    return {f.code for f in checks if f.grade == "stop"}


def _data(worked: Worked) -> Json:
    return worked.document.as_json()


def made_so(worked: Worked, sheet: StockSheet, bars: Collection[str] | None = None) -> Document:
    """The design with its piles as long as they must be, rounded up to what the shop cuts to, and as many pieces cut as that takes.

    bars: ids of those whose pile is changed; None: all. Raises InputError for one that is not there.
    """
    known = {b.id for b in worked.document.bars.values()}
    if bars is not None and (odd := sorted(set(bars) - known)):
        raise InputError.at("bars", f"there is no bar {odd[0][:24]!r} in this design", "choose one that is there")
    data = _data(worked)
    needs = {p.bar: ticked(p.length, worked.shop.numbers) for p in sheet.piles}
    for wanted in sheet.wanted:
        bar = data["recipe"]["bar"]
        for i in wanted.address:
            bar = bar["start"]["bars"][i]
        if wanted.address in needs and (bars is None or bar["id"] in bars):
            bar["start"]["length"] = needs[wanted.address]
        more = {s.id: s for s, stage in zip(wanted.steps, wanted.forged.stages, strict=True) if s is not stage.step}
        for i, step in enumerate(bar["steps"]):
            if step["id"] in more:
                said = more[step["id"]].model_dump(mode="json", by_alias=True, exclude_defaults=True)
                bar["steps"][i] = {"kind": step["kind"], "id": step["id"]} | said
    return read_document(data, worked.shop)


def _pile(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    made = _as(worked, allowed, made_so(worked, sheet).as_json())
    if made is None or made[1] < -FINE:
        return None
    longest = max(ticked(p.length, worked.shop.numbers) for p in sheet.piles)
    piles = "the pile" if len(sheet.piles) == 1 else "the longest pile"
    more = [step.brief() for w in sheet.wanted for step, stage in zip(w.steps, w.forged.stages, strict=True) if step is not stage.step]
    says = f"Cut {piles} {round(longest, 2):g} mm long" + (f", and plan {', '.join(more)}." if more else ".")
    return WayOut("length", says, longest, *made)


def _layers(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    def with_ratio(ratio: float) -> Json | None:
        data = _data(worked)
        starts = list(_starts(data["recipe"]["bar"]))
        if not all(s["kind"] == "stack" for s in starts if "bars" not in s):
            return None
        for layer in (layer for s in starts for layer in s.get("layers", ())):
            layer["thickness"] *= ratio
        return data

    ratio = _root(lambda r: _spare(worked, allowed, with_ratio(r)), 1.0, MOST_RATIO, 1 / MOST_RATIO)
    data = with_ratio(ratio) if ratio else None
    made = _as(worked, allowed, data) if data else None
    if not made or not ratio:
        return None
    how = f"{100 * (ratio - 1):.0f} % thicker" if ratio > 1 else f"{100 * (1 - ratio):.0f} % thinner"
    return WayOut("layers", f"Make every layer {how}.", ratio, *made)


def _count(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    """More layers, or fewer, as they follow one another; odd stays odd, even stays even, so that the outsides stay what they are."""
    data = _data(worked)
    start = data["recipe"]["bar"]["start"]
    if start["kind"] != "stack":
        return None
    layers = start["layers"]
    period = next(p for p in range(1, len(layers) + 1) if all(layers[i] == layers[i - p] for i in range(p, len(layers))))
    step = period if period % 2 == 0 else 2 * period

    def with_layers(count: int) -> Json:
        changed = deepcopy(data)
        changed["recipe"]["bar"]["start"]["layers"] = [layers[i % period] for i in range(count)]
        return changed

    short = sheet.spare < 0
    most = min(MAX_LAYERS, int(MOST_RATIO * len(layers)))
    counts = range(len(layers) + step, most + 1, step) if short else range(len(layers) - step, max(2, period), -step)
    made: dict[int, tuple[Document, float, float] | None] = {}

    def enough(count: int) -> bool:
        made[count] = _as(worked, allowed, with_layers(count))
        found = made[count]
        return found is not None and found[1] >= 0

    best = _first(counts, enough) if short else _last(counts, enough)
    if best is None or (so := made[best]) is None:
        return None
    return WayOut("count", f"Pile {best} layers instead of {len(layers)}.", float(best), *so)


def _tiles(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    """The last step that can be done otherwise so that it reaches further from the same bar (tiles: more of them, or at another angle)."""
    if sheet.spare >= 0:
        return None
    for stage in reversed(worked.forged.stages):
        # what follows draws all lengths alike: so much longer must the bar be after this step
        wanted = stage.after.length * sheet.need.length / sheet.have
        for other in stage.step.reaching_further(wanted, stage.before)[:TRIED]:
            data = _data(worked)
            steps = data["recipe"]["bar"]["steps"]
            at = next(i for i, s in enumerate(steps) if s["id"] == stage.step.id)
            said = other.step.model_dump(mode="json", by_alias=True, exclude_defaults=True)
            steps[at] = {"kind": steps[at]["kind"], "id": stage.step.id} | said
            made = _as(worked, allowed, data)
            if made and made[1] >= -FINE:
                return WayOut("tiles", other.says, other.value, *made)
    return None


def _first(values: Sequence[int], enough: Callable[[int], bool]) -> int | None:
    """The first that is enough, all after it being so too; what is too many to be made is tried with fewer."""
    high = len(values) - 1
    for _ in range(7):
        if high < 0 or enough(values[high]):
            break
        high = (high - 1) // 2 if high else -1
    if high < 0 or not enough(values[high]):
        return None
    low = -1
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if enough(values[middle]) else (middle, high)
    enough(values[high])
    return values[high]


def _last(values: Sequence[int], enough: Callable[[int], bool]) -> int | None:
    """The last that is still enough, all before it being so too."""
    low, high = -1, len(values)
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if enough(values[middle]) else (low, middle)
    return values[low] if low >= 0 else None


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

    found = _root(lambda v: _spare(worked, allowed, to(v)), now, now / MOST_RATIO, now * MOST_RATIO)
    if found is None:
        return None
    # what is told is what is made; never so much that it is short again
    value = tidy(found)
    made = _as(worked, allowed, to(value if value <= found else found))
    words = {"thickness": ("thinner", "thicker"), "width": ("narrower", "wider")}[size]
    return WayOut(size, f"Draw the bar {words[found > now]}: {value:g} mm for {now:g}.", value, *made) if made else None


def _thickness(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    return _drawn(worked, allowed, "thickness")


def _width(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    return _drawn(worked, allowed, "width")


def _shorter_tang(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    blade = worked.document.blade
    if not blade or not blade.tang or sheet.need.typed or sheet.spare >= 0:
        return None

    def to(length: float) -> Json:
        data = _data(worked)
        data["blade"]["tang"]["length"] = length
        return data

    now = blade.tang.length
    found = _root(lambda v: _spare(worked, allowed, to(v)), now, now / MOST_RATIO, now)
    made = _as(worked, allowed, to(found)) if found else None
    return WayOut("tang", f"Make the tang {found:.0f} mm long instead of {now:g}.", found, *made) if made and found else None


def _less_reserve(worked: Worked, allowed: Allowance, sheet: StockSheet) -> WayOut | None:
    """It reaches when nothing goes wrong."""
    need = sheet.need
    left = sheet.have / (need.length - need.reserve) - 1
    if need.typed or left < 0 or sheet.spare >= 0:
        return None
    data = _data(worked)
    data["stock"] = {k: v for k, v in data.get("stock", {}).items() if k != "short"} | {"reserve": left}
    made = _as(worked, replace(allowed, reserve=left), data)
    says = f"Go on with a reserve of {100 * left:.0f} % instead of {100 * allowed.reserve:.0f}."
    return WayOut("reserve", says, left, *made) if made else None


def _starts(bar: Json) -> list[Json]:
    start = bar["start"]
    return [start, *(s for child in start.get("bars", ()) for s in _starts(child))]


def _spare(worked: Worked, allowed: Allowance, data: Json | None) -> float | None:
    made = _as(worked, allowed, data) if data else None
    return made[1] if made else None


def _root(spare: Callable[[float], float | None], now: float, more: float, less: float) -> float | None:
    """The value next to `now` at which there is just enough. Spare grows from `now` towards `more` and lessens towards `less`; None where
    it never is enough, or never too little."""
    from scipy.optimize import brentq

    here = spare(now)
    if here is None and now == less:
        return None
    short = here is None or here < 0
    far = _reached(spare, now, more if short else less, enough=short)
    if far is None:
        return None
    # what cannot be made on the way there is as if it were too short
    found = brentq(lambda v: -1.0 if (s := spare(v)) is None else s, now, far, xtol=NEAR * abs(now), rtol=1e-12)
    return float(found)


def _reached(spare: Callable[[float], float | None], now: float, far: float, enough: bool) -> float | None:
    """A value towards `far` from which it is enough (or no longer is); what is too far to be made may be so on the way there."""
    for _ in range(7):
        at = spare(far)
        if at is not None and (at >= 0) == enough:
            return far
        if at is not None:
            return None
        far = (now + far) / 2
    return None
