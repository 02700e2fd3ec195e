"""Pile the layers, or fill the can; tack, and weld a handle on."""

from varistrat.core.laws.numbers import PILE, PILE_LAYER
from varistrat.core.route.operation import Job, Kind, Part
from varistrat.core.stock.backwards import Wanted


class PileUp(Kind):
    """As the start itself says it."""

    key = "pile_up"
    place = "bench"

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        start = wanted.forged.start
        many = sum(len(pile) for pile in start.piles()) + len(wanted.forged.children)
        if many < 2 and not start.canned:
            return []
        title = "Fill the can" if start.canned else "Join the bars" if wanted.forged.children else "Pile and tack"
        minutes = job.minutes(PILE) + many * job.minutes(PILE_LAYER)
        return [Part(title, wanted.forged.instructions()[0], minutes)]
