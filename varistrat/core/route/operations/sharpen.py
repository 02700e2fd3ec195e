"""The edge, and its test."""

from varistrat.core.errors import InputError
from varistrat.core.finish.edge_test import CAUTION, edge_plan
from varistrat.core.finish.purpose import edge_angle
from varistrat.core.laws.numbers import SHARPEN
from varistrat.core.route.operation import Check, Job, Kind, Part

HOLDS = Check(
    "After its first cuts, does light run along the edge?",
    "None: a sharp edge reflects nothing.",
    "Bright flat spots are rolled (too soft or too thin), jagged ones chipped (too hard): see to the temper before the handle is finished.",
)


class Sharpen(Kind):
    """Stones, leather, and what it is for."""

    key = "sharpen"
    place = "bench"
    spread = 1.2

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        angle = edge_angle(job.worked.document.finish)
        try:
            width = f", {edge_plan(job.worked).width:.2f} mm wide on each side"
        except InputError:
            width = ""
        say = f"{angle:g} degrees, both sides together{width}; strop, then cut what it is for."
        return [Part("Edge, and its test", say, job.minutes(SHARPEN), checks=(HOLDS,), cautions=(CAUTION,))]
