"""The last look: the list by which a blade is graded."""

from varistrat.core.finish.grade import POINTS, points_for
from varistrat.core.laws.numbers import LOOK
from varistrat.core.route.operation import Check, Job, Kind, Part


class LastLook(Kind):
    """Every point on the list, by a good light."""

    key = "look"
    place = "bench"
    spread = 1.1

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        mine = {i for i, _ in points_for(job.worked.has_core)}
        checks = tuple(Check(p.ask, p.good, p.bad, i in mine) for i, p in enumerate(POINTS))
        return [
            Part(
                "Last look",
                "Clean, in a good light, both sides. What is not perfect is told with the blade.",
                job.minutes(LOOK),
                checks=checks,
            )
        ]
