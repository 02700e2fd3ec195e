"""What a design asks of the stock: every pile as it must be, what the finished bar has to spare, and where the steel goes."""

from dataclasses import dataclass, field, replace
from math import ceil
from typing import Any

from varistrat.core.blade.measures import blade_body, tang_body
from varistrat.core.cached import cached_property
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.laws.numbers import REACH
from varistrat.core.stock.backwards import WELD_ENDS, Address, Wanted, bad_ends, losses, solve
from varistrat.core.stock.need import Allowance, Need, need_of
from varistrat.core.stock.risk import reserve_for
from varistrat.core.stock.together import Together, together

FINE = 0.5
"""mm that nobody would cut off or miss."""
MOST_TICK = 500.0

BAR_SHORT = Code("bar_short", "stock", ("stop",), "The finished bar is {by:.1f} mm too short.")
TWO_BLADES = Code("two_blades", "stock", ("note",), "{count} blades fit.")
BAR_BEYOND_REACH = Code(
    "bar_beyond_reach", "stock", ("care",), "A bar becomes {length:.0f} mm long, more than the fire and the hands manage."
)

MORE_PIECES = Code("more_pieces", "stock", ("care",), "A longer pile alone is not enough: a step must be planned otherwise.")


@dataclass(frozen=True)
class PileWanted:
    """One pile as it must be: `bar` its address; mm and g; layers (steel, mm) from the bottom, none of a can."""

    bar: Address
    length: float
    width: float
    mass: float
    layers: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class StockSheet:
    """worked: of what; need, have, spare: mm of the finished bar; allowed: what it was reckoned with, the reserve found."""

    worked: Worked = field(repr=False)
    need: Need
    have: float
    piles: tuple[PileWanted, ...]
    together: tuple[Together, ...]
    findings: tuple[Finding, ...]
    wanted: tuple[Wanted, ...]
    allowed: Allowance

    @cached_property
    def losses(self) -> dict[str, float]:
        """mm3 by cause in the order of the work, as the piles must be, the blade last."""
        lost = losses(self.wanted)
        for cause, volume in _of_the_last_bar(self.worked, self.need).items():
            lost[cause] = lost.get(cause, 0.0) + volume
        return lost

    def cut_to(self, bar: Address) -> float:
        """mm that the pile of a bar is cut to, with all that are forged as one with it: as the design has them, which says it everywhere.

        The cuts that part them take less than the bad ends that there are only once.
        """
        group = next((t.bars for t in self.together if t.bars[0] == bar), (bar,))
        return float(sum(w.forged.first.length for w in self.wanted if w.address in group))

    @property
    def spare(self) -> float:
        """mm the finished bar is longer than it must be; negative: short."""
        return self.have - self.need.length

    def as_json(self) -> dict[str, Any]:
        """As `varistrat stock` writes it."""
        return {
            "need": self.need.length,
            "have": self.have,
            "spare": self.spare,
            "give": "length",
            "piles": [
                {
                    "bar": list(p.bar),
                    "length": p.length,
                    "width": p.width,
                    "mass": p.mass,
                    "layers": [{"steel": s, "thickness": t} for s, t in p.layers],
                }
                for p in self.piles
            ],
            "together": [{"bars": [list(a) for a in t.bars], "steps": t.steps, "length": t.length} for t in self.together],
            "losses": self.losses,
            "findings": [f.as_json() for f in self.findings],
        }


def stock_of(worked: Worked, allowed: Allowance | None = None, tick: float = 0.0) -> StockSheet:
    """What the design as it stands asks of the stock.

    allowed: instead of what the design says; tick: mm that piles are rounded up to. Raises InputError when it cannot be forged, or nothing
    says how long it must be.
    """
    allowed = allowed or Allowance.planned(worked.document.stock, worked.shop.numbers)
    if worked.problems and worked.cut is None and (worked.document.blade is None or _recipe_wrong(worked)):
        raise InputError(worked.problems)
    forged = worked.forged
    placed = worked.cut.placed if worked.cut else None
    ends = bar_ends(worked, allowed)
    if allowed.short is not None:
        chance, allowed = allowed.short, replace(allowed, reserve=0.0, short=None)
        allowed = replace(allowed, reserve=reserve_for(forged, need_of(placed, allowed, ends), allowed, chance))
    if not 0 <= tick <= MOST_TICK:
        raise InputError.at("tick", f"{tick:g} mm is out of range", f"give 0 to {MOST_TICK:g}")
    need = need_of(placed, allowed, ends)
    wanted = solve(forged, need.length, allowed)
    piles = tuple(
        PileWanted(w.address, long, w.forged.first.width, long * w.forged.first.section.area * w.forged.densities[0], _layers(w))
        for w in wanted
        if not w.forged.children
        for long in (ceil(w.begun / tick - 1e-9) * tick if tick else w.begun,)
    )
    numbers = worked.shop.numbers
    found = tuple(_findings(need, forged.bar.length, wanted, numbers.of(REACH)))
    return StockSheet(worked, need, forged.bar.length, piles, tuple(together(wanted, allowed, numbers)), found, tuple(wanted), allowed)


def bar_ends(worked: Worked, allowed: Allowance) -> float:
    """mm of the finished bar that are not good steel; of one whose length is typed nobody asks."""
    return sum(bad_ends(worked.forged, allowed)[1]) if allowed.need is None else 0.0


def _recipe_wrong(worked: Worked) -> bool:
    return any(p.path.startswith("recipe") for p in worked.problems)


def _layers(w: Wanted) -> tuple[tuple[str, float], ...]:
    piles = w.forged.start.piles()
    return piles[0] if len(piles) == 1 and not w.forged.start.canned else ()


def _of_the_last_bar(worked: Worked, need: Need) -> dict[str, float]:
    """What the finished bar is used for, mm3: the blade with its tang, what is cut and ground from round it, hold, ends, reserve."""
    area = worked.forged.bar.section.area
    if not worked.cut or need.typed:
        return {"bar": need.length * area}
    geometry = worked.cut.geometry
    blade = blade_body(geometry).volume + tang_body(geometry).volume
    parts = {WELD_ENDS: need.ends, "hold": need.hold, "reserve": need.reserve}
    return {k: v * area for k, v in parts.items() if v} | {"shaping": need.occupied * area - blade, "blade": blade}


def _findings(need: Need, have: float, wanted: list[Wanted], reach: float) -> list[Finding]:
    found = []
    spare = have - need.length
    if spare < -FINE:
        found.append(
            BAR_SHORT.found(
                f"It must be {need.length:.1f} mm long and comes out {have:.1f} mm.",
                f"Make the pile longer: {max(w.begun for w in wanted if not w.forged.children):.1f} mm.",
                by=-spare,
                value=have,
                limit=need.length,
                unit="mm",
            )
        )
    blades = int((have - need.hold - need.ends) / (need.occupied + need.reserve)) if not need.typed else 0
    if blades > 1:
        found.append(TWO_BLADES.found(f"One needs {need.length:.1f} mm, the bar has {have:.1f} mm.", "", count=blades))
    for w in wanted:
        for stage, step in zip(w.forged.stages, w.steps, strict=True):
            if step is not stage.step:
                found.append(
                    MORE_PIECES.found(
                        f"As it is planned, the step {step.title.lower()} does not reach so far.",
                        f"Plan it so: {step.brief() or step.title.lower()}.",
                        field=stage.path,
                    )
                )
        longest = max(w.lengths)
        if longest > reach:
            half = longest / 2
            found.append(
                BAR_BEYOND_REACH.found(
                    f"The shop manages {reach:.0f} mm.",
                    f"Halve it before: two bars of {half:.0f} mm.",
                    length=longest,
                    value=longest,
                    limit=reach,
                    unit="mm",
                )
            )
    return found
