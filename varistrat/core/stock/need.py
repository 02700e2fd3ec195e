"""How long the finished bar must be for its blade."""

from dataclasses import dataclass
from math import ceil

import numpy as np

from varistrat.core.blade.place import Placed
from varistrat.core.design.stock_plan import StockPlan
from varistrat.core.errors import InputError
from varistrat.core.figures import Numbers
from varistrat.core.laws.numbers import ENDS, ENDS_LEAST, HOLD, RESERVE, TICK

MOST_NEED = 1e5
"""A need beyond a hundred metres is a slip of the pen, mm."""


@dataclass(frozen=True)
class Allowance:
    """What is added to the blade, over the shop's own figures. need: the whole of it typed, nothing added; hold: mm; ends: share of a
    weld's thickness; least: mm of it at least; reserve: share of all the rest; short: a chance of coming up short to find the reserve
    by; apart: bars alike so far are not made one."""

    hold: float
    ends: float
    least: float
    reserve: float
    need: float | None = None
    short: float | None = None
    apart: bool = False

    @classmethod
    def of(
        cls,
        numbers: Numbers,
        need: float | None = None,
        hold: float | None = None,
        ends: float | None = None,
        reserve: float | None = None,
        short: float | None = None,
        apart: bool = False,
    ) -> "Allowance":
        """The shop's figures, but for what is said. Raises InputError for what cannot be."""
        for name, value, most in (("need", need, MOST_NEED), ("hold", hold, 1e4), ("ends", ends, 10.0), ("reserve", reserve, 10.0)):
            if value is not None and not 0 <= value <= most:
                raise InputError.at(name, f"{value:g} is out of range", f"give 0 to {most:g}")
        if need is not None and need <= 0:
            raise InputError.at("need", "a bar of no length is no bar", "give it in mm")
        return cls(
            numbers.of(HOLD) if hold is None else hold,
            numbers.of(ENDS) if ends is None else ends,
            # whoever says that ends are no loss means it
            0.0 if ends == 0 else numbers.of(ENDS_LEAST),
            numbers.of(RESERVE) if reserve is None else reserve,
            need,
            short,
            apart,
        )

    @classmethod
    def planned(cls, plan: StockPlan, numbers: Numbers, **over: float | None) -> "Allowance":
        """As the design has it; `over`: what is said instead (need, hold, ends, reserve, short). Raises InputError."""
        said: dict[str, float | None] = {name: value for name, value in over.items() if value is not None}
        if "reserve" in said:
            said.setdefault("short", None)
        asked = {n: getattr(plan, n) for n in ("need", "hold", "ends", "reserve", "short")} | said
        return cls.of(numbers, **asked, apart=plan.apart)


@dataclass(frozen=True)
class Need:
    """Length of the finished bar, mm, and what it is made of; typed: all of it is what somebody said."""

    occupied: float
    hold: float
    ends: float
    reserve: float
    typed: bool = False

    @property
    def length(self) -> float:
        """All of it, mm."""
        return self.occupied + self.hold + self.ends + self.reserve


def ticked(length: float, numbers: Numbers) -> float:
    """Rounded up to what the shop cuts to, mm."""
    tick = numbers.of(TICK)
    return ceil(length / tick - 1e-9) * tick


def occupied(placed: Placed) -> float:
    """mm along the bar that the blade takes as it lies there, its tang too; forged to shape: as far as its steel and its tang's reach
    from the bar's end, the point cut with it."""
    if placed.forge_map:
        return placed.forge_map.reach
    geometry = placed.geometry
    x = np.linspace(0, geometry.length, 241)
    rims = [(x, geometry.curves.edge(x)), (x, geometry.curves.spine(x))]
    rims += [(t[:, 0], t[:, 1]) for t in (geometry.tang(),) if t is not None]
    along = np.concatenate([placed.to_bar(a, y, np.zeros_like(a))[0] for a, y in rims])
    return float(np.ptp(along))


def need_of(placed: Placed | None, allowed: Allowance, ends: float) -> Need:
    """`ends`: mm at both ends of the finished bar that are not good steel. Raises InputError when nothing says how long it must be."""
    if allowed.need is not None:
        return Need(allowed.need, 0.0, 0.0, 0.0, typed=True)
    if placed is None:
        raise InputError.at("need", "there is no blade to say how long the bar must be", "say it, in mm")
    blade = occupied(placed)
    return Need(blade, allowed.hold, ends, allowed.reserve * (blade + allowed.hold + ends))
