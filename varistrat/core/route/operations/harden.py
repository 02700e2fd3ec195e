"""The hardening, step by step as its own plan has it."""

from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.laws.numbers import HEAT_STEP
from varistrat.core.route.operation import Job, Kind, Part, Target, Timer

KILN_WITHIN, OVEN_WITHIN = 10.0, 5.0
"""C that a kiln and an oven are held within."""


class Harden(Kind):
    """A program's minutes run alone."""

    key = "harden"
    place = "kiln"
    spread = 1.15

    def blade(self, job: Job) -> list[Part]:
        try:
            steps = hardening_plan(job.worked.hardening) if job.worked.cut else []
        except InputError:
            return []
        out = []
        for step in (s for s in steps if not s.idle):
            alone = sum(s.minutes or 0.0 for s in step.program)
            cautions = (step.caution,) if step.caution else ()
            timers = (Timer(step.title, alone),) if alone else ()
            out.append(
                Part(step.title, step.do, job.minutes(HEAT_STEP), alone, step.key, _targets(job, step), cautions=cautions, timers=timers)
            )
        return out


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
