"""The hardening of a design as it is told: its steels, its plan step by step, how it is straightened."""

from dataclasses import dataclass

from varistrat.core.design.worked import Worked
from varistrat.core.heat.colours import run_colour
from varistrat.core.heat.hardening.hardening import BladeHardening, Part
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.heat.hardening.straighten import Move, State
from varistrat.core.laws.quench import Quench

STATES: tuple[State, ...] = ("soft", "window", "clamp")


@dataclass(frozen=True)
class HardeningPart:
    """One steel of the blade. % carbon, C, shares, HRC; None where it does not harden. within: how surely, HRC;
    martensite: share of it at its place that becomes martensite; curve: (true heat, HRC) of one temper.
    """

    key: str
    name: str
    edge: bool
    hardens: bool
    carbon: float
    in_solution: float | None
    ms: float | None
    retained: tuple[float, float] | None
    quenched: float | None
    within: float | None
    martensite: float | None
    tempered: float | None
    window: tuple[float, float] | None
    curve: list[tuple[float, float]]


@dataclass(frozen=True)
class HardeningSheet:
    """lead: key of the steel that decides; temper: true heat, C; set_oven: what to set, `oven` being what it reads low; shift:
    what readings say
    against the law, HRC; colour: run colour of the temper on bright steel, in words; unknown: why the hardness of the deciding steel is
    not known here, empty when it is.
    """

    lead: str | None
    window: tuple[float, float] | None
    heat: float
    soak: float
    quench: Quench
    start: float
    expected: tuple[float, float] | None
    temper: float | None
    set_oven: float | None
    oven: float
    shift: float
    sure: float
    colour: str
    spine: float
    edge: float
    parts: list[HardeningPart]
    steps: list[PlanStep]
    unknown: str
    length: float
    bends: dict[State, list[Move]]


def hardening_sheet(worked: Worked) -> HardeningSheet:
    """Raises InputError when the bar cannot begin."""
    w = worked.hardening
    oven = w.set_oven
    colour = run_colour(oven + w.oven) if oven is not None else None
    return HardeningSheet(
        w.lead,
        w.window,
        w.heat,
        w.soak,
        w.quench,
        w.start,
        w.expected,
        w.temper,
        oven,
        w.oven,
        w.shift,
        w.sure,
        colour[1] if colour else "",
        w.blade.spine,
        w.edge,
        [_part(w, p, oven) for p in w.parts],
        hardening_plan(w),
        w.unknown,
        w.blade.length,
        {state: w.bends(state) for state in STATES},
    )


def _part(w: BladeHardening, p: Part, oven: float | None) -> HardeningPart:
    q, key = p.quenched, p.steel.key
    known = oven is not None or w.now is not None
    return HardeningPart(
        key,
        p.steel.name,
        p.edge,
        p.hardens,
        p.carbon,
        q.carbon if q else None,
        q.ms if q else None,
        q.retained if q else None,
        q.hrc if q and p.hardens else None,
        q.sure if q and q.hrc else None,
        q.martensite[0] if q and not q.unknown else None,
        w.comes_to(key, None if oven is None else oven + w.oven) if known else None,
        w.ranges.get(key),
        w.curve(key) if p.hardens else [],
    )
