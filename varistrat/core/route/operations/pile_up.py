"""Pile the layers, or fill the can; tack, and weld a handle on."""

from varistrat.core.laws.numbers import PILE, PILE_LAYER
from varistrat.core.route.operation import Check, Job, Kind, Part, Target
from varistrat.core.stock.backwards import Wanted

TIGHT = Check(
    "Does light shine between two layers when they are clamped?",
    "None: they lie flat on one another from end to end.",
    "A gap takes in scale before it closes. Grind the bent one flat, or leave it out.",
)


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
        first = wanted.forged.first
        targets = (
            Target("width", first.width, 1.0),
            Target("thickness", first.thickness, max(0.5, 0.02 * first.thickness)),
            Target("length", job.cut(wanted), 2.0),
        )
        cautions = ("Air and water out: a can that holds any bursts when hot. Bake it dry, and leave it a vent.",) if start.canned else ()
        checks = () if start.canned else (TIGHT,)
        return [Part(title, wanted.forged.instructions()[0], minutes, targets=targets, checks=checks, cautions=cautions)]
