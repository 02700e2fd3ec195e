"""The hardening, step by step as its own plan has it."""

from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.laws.numbers import HEAT_STEP
from varistrat.core.route.operation import Job, Kind, Part, Target, Timer


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
            hard = _hardness(job) if step.key == "temper" else ()
            out.append(Part(step.title, step.do, job.minutes(HEAT_STEP), alone, step.key, hard, cautions=cautions, timers=timers))
        return out


def _hardness(job: Job) -> tuple[Target, ...]:
    """Of the edge as it comes out of the temper; by the law alone it would be without what was read and what the shop's blades are."""
    hardening = job.worked.hardening
    planned = hardening.planned
    return () if planned is None else (Target("hardness", planned, hardening.sure, "the edge", planned - hardening.shift),)
