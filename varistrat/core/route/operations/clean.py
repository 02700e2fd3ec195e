"""Mill scale off every face that will be welded."""

from math import pi

from varistrat.core.laws.numbers import CLEAN
from varistrat.core.route.operation import Check, Job, Kind, Part
from varistrat.core.stock.backwards import Wanted

BRIGHT = Check(
    "Is every face bright to its edges?",
    "Bare metal all over, no grey patch, no finger mark.",
    "Grey is scale: what lies under it does not weld. Grind again.",
)

DUST = "A mask against the dust; solvents away from any flame."


class Clean(Kind):
    """Both faces of every layer, by belt or acid."""

    key = "clean"
    place = "grinder"

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        if wanted.forged.start.canned:
            return _pieces(job, wanted)
        layers = sum(len(pile) for pile in wanted.forged.start.piles())
        if wanted.forged.children or layers < 2:
            return []
        area = 2 * layers * wanted.forged.first.width * job.cut(wanted)
        say = "Grind both faces of every layer bright, degrease, and do not touch them again."
        return [
            Part(
                "Clean off mill scale",
                say,
                area / 1e4 * job.minutes(CLEAN),
                checks=(BRIGHT,),
                cautions=(DUST,),
            )
        ]


def _pieces(job: Job, wanted: Wanted) -> list[Part]:
    """What stands in the powder of a can."""
    put_in = wanted.forged.start.put_in(job.cut(wanted), job.worked.shop.steels)
    pieces = [p for p in put_in if p.steel is not None and p.form != "powder"]
    if not pieces:
        return []
    girths = (pi * p.width if p.form == "round" else 2 * (p.width + p.thickness) for p in pieces)
    area = sum(girth * p.length * p.count for girth, p in zip(girths, pieces, strict=True))
    return [
        Part(
            "Clean the pieces",
            "Every piece bright all round and degreased; do not touch them again. Scale on them stays in the bar as a dark rim.",
            area / 1e4 * job.minutes(CLEAN),
            checks=(BRIGHT,),
            cautions=(DUST,),
        )
    ]
