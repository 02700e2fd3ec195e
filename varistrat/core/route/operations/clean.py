"""Mill scale off every face that will be welded."""

from varistrat.core.laws.numbers import CLEAN
from varistrat.core.route.operation import Job, Kind, Part
from varistrat.core.stock.backwards import Wanted


class Clean(Kind):
    """Both faces of every layer, by belt or acid."""

    key = "clean"
    place = "grinder"

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        layers = sum(len(pile) for pile in wanted.forged.start.piles())
        if wanted.forged.children or wanted.forged.start.canned or layers < 2:
            return []
        area = 2 * layers * wanted.forged.first.width * wanted.begun
        say = "Grind both faces of every layer bright, degrease, and do not touch them again. A mask against the dust."
        return [Part("Clean off mill scale", say, area / 1e4 * job.minutes(CLEAN))]
