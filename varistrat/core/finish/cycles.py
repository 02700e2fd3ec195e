"""From the relief wanted to minutes in this bath, and from minutes to cycles. docs/physics.md#etch-depth."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import ceil

from varistrat.core.design.finish_plan import MOST_CYCLE, RELIEFS
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath
from varistrat.core.finish.depth import DARKENS, Etched, Surface, agitation, etch, surface_of

FIRST = 1.0
"""Minutes of the first cycle: long enough to see a finger mark, short enough to start anew."""
USUAL, FEW = 5.0, 8
"""Minutes of a cycle, and how many of them are done rather than longer ones."""
PARTS = 0.25
"""Share of what is eaten that must become relief for a relief to be planned unasked; indicative."""
DARK = 3 * DARKENS
"""um etched off the fastest steel when its dark is all but complete."""
MOST_CYCLES = 60
MOST_MINUTES = 1440.0
LEAST_APART = 0.02
"""um/min: of two rates nearer than this no relief comes."""


@dataclass(frozen=True)
class Cycle:
    """minutes in the bath; then: what is done after it; relief: um after it, by then."""

    minutes: float
    then: tuple[str, ...]
    relief: float


@dataclass(frozen=True)
class EtchPlan:
    """wanted: um of relief; for_tone: nobody asked for a relief, and these steels hardly part: etched until the dark is dark, whatever
    relief comes of it; cycles in their order; etched: what becomes of each steel; why_not: why what is wanted is not reached, empty when
    it is."""

    wanted: float
    for_tone: bool
    cycles: tuple[Cycle, ...]
    etched: Etched
    bath: Bath
    surface: tuple[Surface, ...]
    why_not: str

    @property
    def minutes(self) -> float:
        """In the bath, all together."""
        return sum(c.minutes for c in self.cycles)


LOOK = "Look: a finger mark shows now. If there is one, degrease and sand it out; begin anew."
WIPE = "Rinse; take the dark off gently with fine wool and soapy water."
TOPS = "Polish the tops on a hard flat block, P1500 to P2500, lengthwise; rinse, degrease."
STOP = "Stop it: water, then bicarbonate, 50 g in a litre, ten minutes. It foams: goggles. No bleach near it."
OIL = "Dry it warm, oil it at once; look for rust after an hour."
TONES = {
    "coffee": "Degrease, then coffee over night, cold; the bright layers stay bright. Rinse, dry, oil.",
    "muriatic": "Degrease, then muriatic acid for a minute at a time, outdoors; rinse, neutralise, dry, oil.",
}


def etch_plan(worked: Worked, bath: Bath | None = None) -> EtchPlan:
    """Cycles until the relief wanted is there, in the design's bath or another. Raises InputError without a blade."""
    plan, numbers = worked.document.finish, worked.shop.numbers
    bath = bath or plan.bath
    surface = surface_of(worked)
    area = worked.areas.wet
    moved = agitation(worked)

    def after(minutes: Sequence[float]) -> Etched:
        return etch(bath, surface, minutes, area, numbers, moved)

    tone = plan.relief is None and _parts_little(after([FIRST]))
    if tone:
        minutes, why_not = _split(_minutes_to(after, DARK, _deepest), plan.cycle), ""
        wanted = after(minutes).relief
    else:
        wanted = plan.relief or RELIEFS["light"]
        minutes, why_not = _minutes(wanted, plan.cycle or _each(_minutes_to(after, wanted, _relief)), after)
    etched = after(minutes)
    last = len(minutes) - 1
    cycles = []
    for i, each in enumerate(minutes):
        then = [LOOK] if i == 0 and last > 0 else []
        if i < last:
            then.append(WIPE)
            if plan.polish and i and i % plan.polish == 0:
                then.append(TOPS)
        else:
            then += [STOP, *([TOPS] if plan.polish else []), *([TONES[plan.tone]] if plan.tone in TONES else []), OIL]
        cycles.append(Cycle(each, tuple(then), etched.relief_after(i)))
    return EtchPlan(wanted, tone, tuple(cycles), etched, bath, tuple(surface), why_not)


def _relief(etched: Etched) -> float:
    return etched.relief


def _deepest(etched: Etched) -> float:
    return etched.deepest


def _parts_little(etched: Etched) -> bool:
    """Whether so little of what is eaten becomes relief that it costs the blade more than it is worth."""
    return etched.relief < PARTS * etched.deepest


def _minutes_to(after: Callable[[Sequence[float]], Etched], depth: float, of: Callable[[Etched], float]) -> float:
    """Minutes in one go until this depth is there, MOST_MINUTES at the most: a bath wears alike however they are parted."""
    if of(after([MOST_MINUTES])) <= depth:
        return MOST_MINUTES
    from scipy.optimize import brentq

    return float(brentq(lambda t: of(after([t])) - depth, 1e-6, MOST_MINUTES, xtol=1e-3))


def _each(whole: float) -> float:
    """Minutes of a cycle: the usual five, more where the bath is so slow that there would be many of them."""
    return min(MOST_CYCLE, max(USUAL, 5.0 * ceil(whole / FEW / 5)))


def _split(whole: float, said: float | None) -> list[float]:
    """So many minutes in cycles: the first to look, the others alike, to the nearest half minute."""
    first = min(FIRST, whole, said or FIRST)
    left = whole - first
    many = max(1, ceil(left / (said or _each(whole)) - 0.1))
    return [first, *([max(0.5, round(2 * left / many) / 2)] * many)]


def _minutes(wanted: float, each: float, after: Callable[[Sequence[float]], Etched]) -> tuple[list[float], str]:
    """Cycles until the relief is there: the last one shorter, so that it is met; no more than MOST_CYCLES."""
    first = min(FIRST, each)
    minutes = [first]
    if after(minutes).relief / first < LEAST_APART:
        return minutes, "Nothing on this face is eaten faster than the rest: no relief comes of it."
    while (so_far := after(minutes).relief) < wanted:
        if len(minutes) == MOST_CYCLES or sum(minutes) > MOST_MINUTES:
            return minutes, f"Only {so_far:.1f} µm after {len(minutes)} cycles: a fresher, warmer or stronger bath, or longer cycles."
        more = after([*minutes, each]).relief
        if more - so_far < 1e-3:
            return minutes, f"Only {so_far:.1f} µm come of it: the bath is used up."
        if more < wanted:
            minutes.append(each)
            continue
        from scipy.optimize import brentq

        rest = float(brentq(lambda t: after([*minutes, t]).relief - wanted, 1e-6, each, xtol=1e-3))
        # nobody times closer than half a minute
        minutes.append(max(0.5, round(2 * rest) / 2))
        break
    return minutes, ""


def coupon(bath: Bath, minutes: float, step: float, steel_rate: float = 0.8) -> float:
    """The shop's own r0 (um/min) from a plain coupon half masked, its step in um. steel_rate: its own in the list.

    Raises InputError for a step nobody measures, or a bath that no longer bites.
    """
    if not 0 < minutes <= MOST_MINUTES:
        raise InputError.at("minutes", f"{minutes:g} minutes is out of reach", f"give up to {MOST_MINUTES:g}")
    if not 0.5 <= step <= 2000:
        raise InputError.at("step", f"a step of {step:g} um is out of reach", "give 0.5 to 2000 um; below 5 no micrometer is sure")
    if bath.speed <= 0:
        raise InputError.at("iron", "the bath is used up", "make a new one")
    return step / (minutes * bath.speed) * 0.8 / steel_rate
