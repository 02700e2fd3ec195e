"""The hardening, step by step as its own plan has it."""

from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.laws.numbers import HEAT_STEP
from varistrat.core.route.operation import Job, Kind, Part, Target, Timer
from varistrat.core.route.operations.shape import bevels_when

KILN_WITHIN, OVEN_WITHIN = 10.0, 5.0
"""C that a kiln and an oven are held within."""


SOFT = ("normalise", "anneal")


class Harden(Kind):
    """From the heat to the temper; a program's minutes run alone."""

    key = "harden"
    place = "kiln"
    spread = 1.15

    def blade(self, job: Job) -> list[Part]:
        try:
            steps = job.worked.hardening_steps if job.worked.cut else []
        except InputError:
            return []
        return [_part(job, step) for step in steps if not step.idle and self.has(job, step)]

    def has(self, job: Job, step: PlanStep) -> bool:
        """What it is made ready by is told where the bevels are ground, if they are ground before the heat."""
        return step.key not in SOFT and (step.key != "ready" or bevels_when(job) != "before")


class Soften(Harden):
    """What is done to the bar before its bevels are ground."""

    def has(self, job: Job, step: PlanStep) -> bool:
        return step.key in SOFT


def _part(job: Job, step: PlanStep) -> Part:
    alone = sum(s.minutes or 0.0 for s in step.program)
    cautions = (step.caution,) if step.caution else ()
    timers = (Timer(step.title, alone),) if alone else ()
    return Part(step.title, step.do, job.minutes(HEAT_STEP), alone, step.key, _targets(job, step), cautions=cautions, timers=timers)


def _targets(job: Job, step: PlanStep) -> tuple[Target, ...]:
    """What is read and written down at a step: the kiln, the edge as it comes out of the quench, the oven, the edge as it is tempered."""
    w = job.worked.hardening
    if step.key == "heat":
        return (Target("celsius", w.heat, KILN_WITHIN, "the blade"),)
    if step.key == "test" and w.expected:
        return (Target("hardness", w.expected[0], w.expected[1], "the edge, as quenched", learned=False),)
    if step.key == "temper":
        oven = max((s.celsius for s in step.program), default=None)
        return (*((Target("celsius", oven, OVEN_WITHIN, "the oven, as it reads"),) if oven else ()), *_hardness(job))
    return ()


def _hardness(job: Job) -> tuple[Target, ...]:
    """Of the edge as it comes out of the temper; by the law alone it would be without what was read and what the shop's blades are."""
    hardening = job.worked.hardening
    planned = hardening.planned
    return () if planned is None else (Target("hardness", planned, hardening.sure, "the edge", planned - hardening.shift),)
