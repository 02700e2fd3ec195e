"""Mill scale off every face that will be welded."""

from varistrat.core.laws.numbers import CLEAN
from varistrat.core.route.operation import Check, Job, Kind, Part
from varistrat.core.stock.backwards import Wanted

BRIGHT = Check(
    "Is every face bright to its edges?",
    "Bare metal all over, no grey patch, no finger mark.",
    "Grey is scale: what lies under it does not weld. Grind again.",
)


class Clean(Kind):
    """Both faces of every layer, by belt or acid."""

    key = "clean"
    place = "grinder"

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        layers = sum(len(pile) for pile in wanted.forged.start.piles())
        if wanted.forged.children or wanted.forged.start.canned or layers < 2:
            return []
        area = 2 * layers * wanted.forged.first.width * job.cut(wanted)
        say = "Grind both faces of every layer bright, degrease, and do not touch them again."
        return [
            Part(
                "Clean off mill scale",
                say,
                area / 1e4 * job.minutes(CLEAN),
                checks=(BRIGHT,),
                cautions=("A mask against the dust; solvents away from any flame.",),
            )
        ]
