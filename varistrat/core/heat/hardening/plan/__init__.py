"""The hardening of a blade told step by step: one file each, in the order of the work."""

from collections.abc import Callable

from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.as_quenched import as_quenched
from varistrat.core.heat.hardening.plan.clamp import clamp
from varistrat.core.heat.hardening.plan.heat import heat
from varistrat.core.heat.hardening.plan.quench import quench, straighten
from varistrat.core.heat.hardening.plan.ready import ready
from varistrat.core.heat.hardening.plan.soften import anneal, normalise
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.heat.hardening.plan.temper import draw_the_back, into_the_cold, temper

STEPS: tuple[Callable[[BladeHardening], PlanStep | None], ...] = (
    normalise,
    anneal,
    ready,
    heat,
    quench,
    straighten,
    as_quenched,
    into_the_cold,
    temper,
    draw_the_back,
    clamp,
)


def hardening_plan(w: BladeHardening) -> list[PlanStep]:
    """Every step in order; empty when nothing in the blade hardens."""
    if not w.hardeners or not w.lead:
        return []
    return [s for make in STEPS if (s := make(w))]
