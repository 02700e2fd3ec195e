"""What a shop's log is asked for: each a factor on our own number, learned build by build.

A ratio is always to what the work would have been planned at by our numbers, whatever the shop had put in their place by then: a shop that
takes over what it has learned does not learn it a second time.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from varistrat.core.build.summary import BuildSummary
from varistrat.core.figures import Figure, Numbers
from varistrat.core.laws.numbers import (
    CLEAN,
    COAT,
    COLOUR,
    ETCH_R0,
    ETCHING,
    FACES,
    FIT_UP,
    HARDNESS,
    HEAT_STEP,
    LOOK,
    MARKING,
    PEEN,
    PILE,
    PILE_LAYER,
    SAND,
    SAW,
    SAW_SET,
    SHAPE,
    SHARPEN,
    SHEATH,
    UNCAN,
)
from varistrat.core.learning.factor import Learned, Measured, Prior, learned
from varistrat.core.route.operation import Quantity
from varistrat.core.route.operations import KINDS
from varistrat.core.route.operations.shape import SET_UP


@dataclass(frozen=True)
class Factor:
    """Minutes of one kind of operation, or a quantity that was to be reached in it. figures: those that all are multiplied by it, none
    where it cannot be told of one alone; apart: minutes of each operation that it does not concern; gsd: of one build's quantity."""

    kind: str
    says: str
    figures: tuple[Figure, ...] = ()
    apart: float = 0.0
    quantity: Quantity = "minutes"
    gsd: float = 1.2

    @property
    def key(self) -> str:
        """As it is called when a build is counted though it is odd."""
        return self.kind if self.quantity == "minutes" else f"{self.kind}:{self.quantity}"

    @property
    def prior(self) -> Prior:
        """One build's spread of minutes is the kind's own."""
        return Prior(next(k.spread for k in KINDS if k.key == self.kind) if self.quantity == "minutes" else self.gsd)

    def measured(self, name: str, summary: BuildSummary) -> Measured | None:
        """One build's, all operations of this kind together; None where nothing was timed or measured."""
        if self.quantity != "minutes":
            return self._reached(
                name, [e.measured[self.quantity] for e in summary.kinds if e.kind == self.kind and self.quantity in e.measured]
            )
        mine = [e for e in summary.kinds if e.kind == self.kind and e.took is not None]
        planned = sum(e.usual - self.apart for e in mine)
        took = sum((e.took or 0.0) - self.apart for e in mine)
        return Measured(name, planned, took) if mine and planned > 0 and took > 0 else None

    def _reached(self, name: str, found: Sequence[tuple[float, float]]) -> Measured | None:
        planned = sum(p for p, _ in found)
        reached = sum(m for _, m in found)
        return Measured(name, planned, reached) if found and planned > 0 and reached > 0 else None


@dataclass(frozen=True)
class Lost(Factor):
    """What is lost from the saw to the last heat: all that was weighed in, less the bar as weighed."""

    def measured(self, name: str, summary: BuildSummary) -> Measured | None:
        """None unless every pile and the bar were weighed, and it came out lighter than what went in."""
        put_in = [e.measured.get(self.quantity) for e in summary.kinds if e.kind == "cut_stock"]
        bars = [e.measured[self.quantity] for e in summary.kinds if e.kind == self.kind and self.quantity in e.measured]
        if len(bars) != 1 or not put_in or None in put_in:
            return None
        planned, lost = (sum(p[i] for p in put_in if p) - bars[0][i] for i in (0, 1))
        return Measured(name, planned, lost) if planned > 0 and lost > 0 else None


FACTORS: tuple[Factor, ...] = (
    Factor("cut_stock", "sawing the pieces", (SAW, SAW_SET)),
    Factor("clean", "grinding off mill scale", (CLEAN,)),
    Factor("pile_up", "piling and tacking", (PILE, PILE_LAYER)),
    Factor("grind", "grinding faces", (FACES,)),
    Factor("fire", "at the fire"),
    Factor("uncan", "taking a can off", (UNCAN,)),
    Factor("shape", "profile and bevels", (SHAPE,), SET_UP),
    Factor("harden", "a step of the hardening", (HEAT_STEP,)),
    Factor("sand", "finish grind and sanding", (SAND,)),
    Factor("etch", "a cycle of etch", (ETCHING,)),
    Factor("mark", "the mark", (MARKING,)),
    Factor("colour", "colouring the fittings", (COLOUR,)),
    Factor("fit_up", "guard and handle", (FIT_UP,)),
    Factor("peen", "pins peened", (PEEN,)),
    Factor("coats", "a coat on the handle", (COAT,)),
    Factor("sharpen", "the edge", (SHARPEN,)),
    Factor("sheath", "the sheath", (SHEATH,)),
    Factor("look", "the last look", (LOOK,)),
    Factor("fire", "heats a step takes", quantity="heats", gsd=1.3),
    Factor("fire", "length a bar comes out at", quantity="length", gsd=1.06),
    Lost("fire", "lost from the saw to the last heat", quantity="mass", gsd=1.4),
    Factor("harden", "hardness after the temper", (HARDNESS,), quantity="hardness", gsd=1.03),
    Factor("grind", "thickness ground to", quantity="thickness", gsd=1.05),
    Factor("etch", "relief that comes of the etch", (ETCH_R0,), quantity="depth", gsd=1.4),
)


@dataclass(frozen=True)
class FigureTold:
    """One number: ours, the shop's own now, and by what was learned, within what may be put in; in its unit."""

    key: str
    label: str
    unit: str
    ours: float
    now: float
    learned: float


@dataclass(frozen=True)
class DotTold:
    """One build: its ratio to our number; odd: left out."""

    build: str
    title: str
    ratio: float
    odd: bool
    kept: bool


@dataclass(frozen=True)
class FactorTold:
    """kind: of operation, and the quantity if it is not minutes; n: builds that count; factor: on our number; low, high: of eight in ten
    of the next; ours_low, ours_high: before anything was measured; offered: builds enough; sure: another number than ours, and not only
    chance; used: it is in force already."""

    kind: str
    says: str
    quantity: Quantity
    n: int
    factor: float
    low: float
    high: float
    ours_low: float
    ours_high: float
    offered: bool
    sure: bool
    used: bool
    figures: list[FigureTold]
    dots: list[DotTold]


NEAR = 0.02
"""Of a number: nearer nobody would type another."""


def learned_of(
    builds: Sequence[tuple[str, str, BuildSummary]], numbers: Numbers, kept: Mapping[str, Collection[str]] | None = None
) -> list[FactorTold]:
    """builds: (id, title, summary), the oldest first; kept: by kind, ids of builds that count though they are odd."""
    titles = {uid: title for uid, title, _ in builds}
    out = []
    for factor in FACTORS:
        found = [m for uid, _, summary in builds if (m := factor.measured(uid, summary))]
        mine = (kept or {}).get(factor.key, ())
        out.append(_told(factor, learned(factor.prior, found, mine), numbers, titles, mine))
    return out


def _told(factor: Factor, found: Learned, numbers: Numbers, titles: Mapping[str, str], kept: Collection[str]) -> FactorTold:
    times = found.belief.factor
    low, high = found.belief.range()
    ours_low, ours_high = factor.prior.belief.range()
    figures = [
        FigureTold(f.key, f.label, f.unit, f.usual, numbers.of(f), _three(min(max(f.usual * times, f.low), f.high))) for f in factor.figures
    ]
    used = bool(figures) and all(abs(f.now - f.learned) <= NEAR * f.learned for f in figures)
    dots = [DotTold(d.whose, titles[d.whose], d.ratio, d.odd, d.whose in kept) for d in found.dots]
    return FactorTold(
        factor.key,
        factor.says,
        factor.quantity,
        found.belief.n,
        times,
        low,
        high,
        ours_low,
        ours_high,
        found.offered,
        found.sure,
        used,
        figures,
        dots,
    )


def _three(value: float) -> float:
    """To three figures: nobody times closer."""
    return float(f"{value:.3g}")
