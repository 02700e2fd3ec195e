"""The maker's mark, where the finish has one."""

from varistrat.core.finish.mark import STEPS, mark_time
from varistrat.core.laws.numbers import MARKING
from varistrat.core.route.operation import Job, Kind, Part, Target, Timer


class Mark(Kind):
    """By stencil and current, before the oil."""

    key = "mark"
    place = "bench"
    spread = 1.3

    def blade(self, job: Job) -> list[Part]:
        plan = job.worked.document.finish.mark
        if not job.worked.cut or plan is None:
            return []
        found = mark_time(plan.area, plan.amperes, plan.depth, job.numbers)
        say = f"{found.bursts} bursts of {found.seconds / found.bursts:.1f} s at {plan.amperes:g} A. {STEPS[0]} {STEPS[1]} {STEPS[3]}"
        timers = (Timer("current, all bursts", found.seconds / 60),)
        depth = Target("depth", plan.depth, 0.3 * plan.depth, "of the mark")
        return [Part("Mark", say, job.minutes(MARKING), targets=(depth,), cautions=(STEPS[4],), timers=timers)]
