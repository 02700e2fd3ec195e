"""What one steel does in the quench and the temper, from its own figures and its carbon in solution."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from math import ceil, inf
from typing import Literal

import numpy as np

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws import hardness, transform
from varistrat.core.laws.hardenability import (
    GRAIN_BEFORE,
    KNOWN_WITHIN,
    cooling_rate,
    ideal_diameter,
    martensite_share,
    plate_full,
    severity_of,
    slowest_quench,
)
from varistrat.core.laws.quench import QUENCHES, SAY_QUENCH, Quench
from varistrat.core.laws.ranges import Law, law_of_composition, outside
from varistrat.core.laws.temper import TemperLaw
from varistrat.core.laws.transform import SOLUTION_SURE
from varistrat.core.steels.list import built_in
from varistrat.core.steels.model import TEMPERS, Steel

TARGET = 0.6, 0.8
"""Carbon in solution to aim at, %: martensite is as hard as it gets from 0.6 on; above 0.8 austenite is left and plates crack."""
STEP = 5.0
"""C: nobody sets or reads a hardening heat finer."""
EDGE_LEAST = 56.0
"""Hardness below which an edge does not stand, HRC; indicative."""
TAKES_HARDENING = 0.3
"""Carbon from which a low-alloy steel that is not sold for hardening is followed through the quench, %;
how hard it gets is told, whatever that is."""
CARBON_KNOWN = 0.05
"""How far its carbon may have moved before a steel outside the laws is no longer told by its own table, %."""
HEAT_KNOWN = 10.0
"""And how far out of its own range it may be hardened, C."""
BY_LAW = 2.0
"""How sure hardness is without figures of the steel's own, HRC."""
GUESSED = 3.0
"""And of a steel whose own figures are themselves guessed from its composition or from coupons, HRC."""


def can_harden(steel: Steel, carbon: float) -> bool:
    """By itself, or by the carbon it has now: not nickel, copper or austenitic stainless."""
    return steel.hardens != "no" or (law_of_composition(steel.composition) == "low alloy" and carbon >= TAKES_HARDENING)


@dataclass(frozen=True)
class Quenched:
    """A steel heated to one temperature, soaked and quenched. Shares 0 to 1, HRC, C.

    carbon: in solution, %; retained: (least, most); martensite: (likely, least, most) share of the section that escapes pearlite
    in the bath asked for; hrc: as quenched there, within `sure`; law: its tempering; quench: the slowest that hardens the
    section through, severity: what that wants; diameter: its ideal diameter, mm (inf: hardens in air).
    `unknown`: why the laws are silent, in words; then carbon, ms and retained are None, and hrc too unless its own table tells it.
    """

    carbon: float | None
    austenite: float
    ms: float | None
    retained: tuple[float, float] | None
    martensite: tuple[float, float, float]
    hrc: float | None
    sure: float
    law: TemperLaw
    quench: Quench | None
    severity: float
    diameter: float
    unknown: str = ""
    numbers: Numbers = USUAL

    def through(self, quench: Quench) -> float:
        """Thickest plate that comes out of this quench hard throughout, mm; inf when air does it. Within KNOWN_WITHIN."""
        return self.diameter if self.diameter in (inf, 0.0) else plate_full(self.diameter, severity_of(quench, self.numbers))


SHARE_SOFT, SHARE_THROUGH = 0.5, 0.9
"""Share of martensite under which a place does not harden, and from which it does; between them it is doubtful."""
Takes = Literal["no", "doubtful", "shallow", "yes"]


def takes(q: Quenched, bath: Quench, usual: Quench | None) -> Takes:
    """Whether the place that `q` tells of hardens in this bath, as surely as the depth is known. `shallow`: not for sure, and nothing is
    wrong with the bath, for the steel is usually quenched in it or in a slower one, or none is faster: it hardens to a depth."""
    likely, least, _ = q.martensite
    if likely < SHARE_SOFT:
        return "no"
    if least >= SHARE_THROUGH:
        return "yes"
    return "shallow" if QUENCHES.index(bath) <= (QUENCHES.index(usual) if usual else 0) else "doubtful"


def faster(q: Quenched, bath: Quench) -> str:
    """What to do where it stays soft in this bath: the next faster one with the depth it gives, in words."""
    if bath == QUENCHES[0]:
        return "No bath is faster: a thinner edge, or a steel that hardens deeper."
    quicker = QUENCHES[QUENCHES.index(bath) - 1]
    return f"{SAY_QUENCH[quicker].capitalize()} hardens it to {q.through(quicker):.1f} mm; or a thinner edge."


def core_of(steels: Sequence[Steel]) -> Steel:
    """Which of them is the core of a clad blade: one that takes a full hardening, and of those the highest in carbon."""
    return max(steels, key=lambda s: (s.hardening, s.share("C")))


def common_quench(steels: Sequence[Steel]) -> Quench:
    """The bath for steels quenched together: the fastest that any of them is usually quenched in; medium oil when none says."""
    usual = [s.quench for s in steels if s.quench]
    return min(usual, key=QUENCHES.index) if usual else "medium_oil"


@cache
def _by_carbon(law: Law) -> tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...], tuple[float, ...]]:
    """(carbon, H10, slope, what the quench's law lacks) of the list's steels that differ in little but carbon, by carbon."""
    keys = {"low alloy": ("1045", "1075", "1084", "1095", "c105", "125cr1"), "13 chromium": ("410", "420", "x46cr13", "x65cr13")}[law]
    rows = []
    for steel in (built_in()[k] for k in keys):
        assert steel.temper
        fitted = TemperLaw.fitted(TEMPERS, steel.temper, 70.0)
        rows.append((steel.share("C"), fitted.h10, fitted.slope, _offset(steel)))
    c, h10, slope, off = zip(*sorted(rows), strict=True)
    return c, h10, slope, off


def tempering_of(law: Law, carbon: float) -> tuple[float, float]:
    """(H10, slope) of the law's plain steels at this carbon: along the list's own tables."""
    c, h10, slope, _ = _by_carbon(law)
    # under the leanest of them hardness goes on falling as it falls to it
    lean = min(0.0, carbon - c[0]) * (h10[1] - h10[0]) / (c[1] - c[0])
    return float(np.interp(carbon, c, h10)) + lean, float(np.interp(carbon, c, slope))


LEAN_ALLOY, LEAN_TO, LEAN_FROM = 2.3, 0.85, 0.6
"""HRC that a per cent of alloy holds at low tempering heats in steel of 0.6 % carbon, fading out to 0.85 %: set by 5160, L6 and 80CrV2;
indicative."""


def held_by_alloy(carbon: float, alloy: float) -> float:
    """HRC."""
    return LEAN_ALLOY * alloy * min(1.0, max(0.0, (LEAN_TO - carbon) / (LEAN_TO - LEAN_FROM)))


def law_of(steel: Steel) -> TemperLaw:
    """Fitted to its own table, or by its carbon when it has none; silent (`off` inf) when it has none and no law reaches it."""
    top = sum(steel.as_quenched) / 2 if steel.as_quenched else hardness.full(steel.share("C"))
    if steel.temper:
        return TemperLaw.fitted(TEMPERS, steel.temper, top)
    law = law_of_composition(steel.composition)
    if law is None:
        return TemperLaw(top, -1.0, top, inf)
    h10, slope = tempering_of(law, steel.share("C"))
    alloy = steel.share("Cr") + max(0.0, steel.share("Si") - 0.2) + 0.6 * steel.share("V") if law == "low alloy" else 0.0
    return TemperLaw.of_alloy(h10 + held_by_alloy(steel.share("C"), alloy), slope, alloy, top)


def moved(steel: Steel, carbon: float, top: float) -> TemperLaw:
    """Its tempering with another carbon than its own, and another hardness as quenched: moved as the plain steels of its law move."""
    own, law = law_of(steel), law_of_composition(steel.composition)
    if law is None or carbon == steel.share("C"):
        return replace(own, top=top)
    was, now = tempering_of(law, steel.share("C")), tempering_of(law, carbon)
    return own.moved(now[0] - was[0], now[1] - was[1], carbon - steel.share("C"), top)


def _offset(steel: Steel) -> float:
    """What the law lacks of its own as-quenched figure in the middle of its own range, HRC; 0 without one."""
    if not (steel.as_quenched and steel.austenitise) or outside(steel.composition, sum(steel.austenitise) / 2):
        return 0.0
    usual = transform.austenite(steel.composition, sum(steel.austenitise) / 2, sum(steel.soak) / 2 if steel.soak else 10.0)
    left = sum(transform.retained_range(steel.composition, usual.carbon)) / 2
    return sum(steel.as_quenched) / 2 - hardness.quenched(usual.carbon, 0.999, left)


def _offset_now(steel: Steel, carbon: float) -> float:
    """The same once its carbon has moved: chromium steels of one carbon are of one hardness, whatever they were sold as."""
    if law_of_composition(steel.composition) != "13 chromium":
        return _offset(steel)
    c, _, _, off = _by_carbon("13 chromium")
    return _offset(steel) + float(np.interp(carbon, c, off) - np.interp(steel.share("C"), c, off))


def quenched(
    steel: Steel,
    celsius: float,
    minutes: float,
    thickness: float = 4.0,
    carbon: float | None = None,
    cold: float = 20.0,
    bath: Quench | None = None,
    numbers: Numbers = USUAL,
) -> Quenched:
    """Harden `steel` from `celsius` after a soak; `carbon`: its carbon once the layers have shared it, else its own.

    `thickness`: mm of the place told of (an edge, a spine) in `bath`; None: quenched fast enough for all of it. Hardness is the
    steel's own as-quenched figure, moved by what the carbon in solution differs from that of its own window, less what turns
    to pearlite: so a shop's figure is kept. docs/physics.md#quenched-hardness.
    """
    own = steel.share("C")
    there = own if carbon is None else carbon
    now = {**steel.composition, "C": there}
    if why := outside(now, celsius):
        return _by_table(steel, celsius, there, thickness, bath, why, numbers)
    got = transform.austenite(now, celsius, minutes)
    kept = transform.retained_range(now, got.carbon, cold) if got.share else (0.0, 0.0)
    air = law_of_composition(now) == "13 chromium"
    diameter = inf if air else ideal_diameter(now, got.carbon, GRAIN_BEFORE)
    full = (1.0, 1.0, 1.0)
    shares = full if bath is None or air else _shares(diameter, thickness, severity_of(bath, numbers))
    soft = hardness.pearlite(now, got.carbon, cooling_rate(thickness, severity_of(bath, numbers))) if bath and not air else 20.0
    offset = _offset_now(steel, there)

    def at(share: float) -> float:
        hard = hardness.part_quenched(got.carbon, 0.999 * share, soft, sum(kept) / 2) + offset * share
        # what stayed ferrite is soft
        return float(max(0.0, got.share * hard + (1 - got.share) * 5.0))

    hrc, least, most = (at(s) for s in shares)
    table = (
        max(hardness.QUENCHED_SURE, (steel.as_quenched[1] - steel.as_quenched[0]) / 2)
        if steel.as_quenched and steel.austenitise
        else BY_LAW
    )
    if steel.as_quenched and steel.source_of("as_quenched").sure in ("computed", "indicative"):
        table = max(table, GUESSED)
    sure = max(table, hrc - least, most - hrc, hardness.PEARLITE_SURE * (1 - shares[0])) + 4.0 * min(1.0, 5 * (1 - got.share))
    if got.share <= 0.5:
        quench: Quench | None = None
        severity = inf
    elif air:
        quench, severity = "air", severity_of("air")
    else:
        quench, severity = slowest_quench(now, got.carbon, thickness, numbers=numbers)
    return Quenched(
        got.carbon,
        got.share,
        transform.ms(now, got.carbon),
        kept,
        shares,
        hrc,
        sure,
        moved(steel, there, hrc),
        quench,
        severity,
        diameter,
        "",
        numbers,
    )


def short_of_full(
    steel: Steel, own: tuple[float, float], celsius: float, minutes: float, carbon: float, numbers: Numbers = USUAL
) -> float | None:
    """HRC that it lacks, hardened from `celsius` after a soak of `minutes` with `carbon` % in it, of what the middle of its own range (C)
    gives it, however fast it is quenched; 0 where it lacks none, None where either hardness is not known."""
    full, here = (quenched(steel, t, minutes, carbon=carbon, numbers=numbers).hrc for t in (sum(own) / 2, celsius))
    return None if full is None or here is None else max(0.0, full - here)


def _shares(diameter: float, thickness: float, severity: float) -> tuple[float, float, float]:
    """(likely, least, most) martensite, the thickness it hardens through known within KNOWN_WITHIN."""
    likely, least, most = (martensite_share(diameter, thickness * by, severity) for by in (1.0, KNOWN_WITHIN, 1 / KNOWN_WITHIN))
    return likely, least, most


def _by_table(steel: Steel, celsius: float, carbon: float, thickness: float, bath: Quench | None, why: str, numbers: Numbers) -> Quenched:
    """A steel no law reaches: its own figures in its own range, or nothing."""
    low, high = steel.austenitise or (inf, -inf)
    inside = low - HEAT_KNOWN <= celsius <= high + HEAT_KNOWN
    slower = bath is not None and steel.quench is not None and severity_of(bath, numbers) < severity_of(steel.quench, numbers) * 0.99
    known = bool(steel.as_quenched) and inside and abs(carbon - steel.share("C")) <= CARBON_KNOWN and not slower
    law_composition = law_of_composition({**steel.composition, "C": carbon})
    share = 0.0 if law_composition and celsius <= transform.ac1(steel.composition) else 1.0 if celsius >= low - HEAT_KNOWN else 0.0
    assert not known or steel.as_quenched
    hrc = sum(steel.as_quenched) / 2 if known and steel.as_quenched else None
    if not inside and steel.austenitise:
        why += f"; its own figures are for {low:.0f} to {high:.0f} C"
    elif slower and steel.quench:
        why += f"; its own figures are for {steel.quench.replace('_', ' ')}"
    elif abs(carbon - steel.share("C")) > CARBON_KNOWN:
        why += f"; its own figures are for {steel.share('C'):.2f} % carbon, here it has {carbon:.2f} %"
    law = replace(law_of(steel), top=hrc if hrc is not None else law_of(steel).top)
    sure = max(hardness.QUENCHED_SURE, (steel.as_quenched[1] - steel.as_quenched[0]) / 2) if steel.as_quenched else inf
    return Quenched(
        None,
        share,
        None,
        None,
        (1.0, 1.0, 1.0),
        hrc,
        sure,
        law,
        steel.quench if share else None,
        severity_of(steel.quench, numbers) if steel.quench and share else inf,
        inf if steel.quench == "air" else 0.0,
        why,
        numbers,
    )


def common(ranges: Sequence[tuple[float, float]], most: float) -> tuple[float, float] | None:
    """Where all of these heats overlap under `most`, C; None where they do not, or there are none."""
    if not ranges:
        return None
    low, high = max(r[0] for r in ranges), min(min(r[1] for r in ranges), most)
    return (low, high) if low <= high else None


def hardening_heat(low: float, high: float, best: float, steels: Sequence[tuple[Steel, float]], soak: float) -> float:
    """The heat to harden from between `low` and `high`, C, to the nearest STEP: where the carbon in solution of the worst lies within
    TARGET, and of those heats the one next to `best`.

    steels: those it must suit, each with the carbon it took up, %; soak: min. One that is sold for hardening goes by its own carbon: a heat
    is named for the steels, before anybody knows how even their carbon gets. Where carbon in solution is not known it does not count, and
    within SOLUTION_SURE of the target is within it: the heat never turns on less than is known.
    """
    now = [{**s.composition, "C": s.share("C") if s.austenitise else taken} for s, taken in steels]

    def astray(celsius: float) -> float:
        found = [transform.austenite(c, celsius, soak).carbon for c in now if not outside(c, celsius)]
        return max((max(TARGET[0] - c, c - TARGET[1]) - SOLUTION_SURE for c in found), default=0.0)

    steps = [float(t) for t in range(int(STEP) * ceil(low / STEP), int(high) + 1, int(STEP))] or [float(round((low + high) / 2))]
    return min(steps, key=lambda t: (round(max(0.0, astray(t)), 2), abs(t - best), t))
