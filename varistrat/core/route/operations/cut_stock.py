"""Cut the layers of a pile to length."""

from varistrat.core.laws.numbers import SAW, SAW_SET
from varistrat.core.route.operation import Check, Job, Kind, Part, Target
from varistrat.core.stock.backwards import Wanted

SPARK = Check(
    "Is every piece the steel it is meant to be?",
    "Its mark, or its sparks beside those of a known piece, say so.",
    "Set it aside: one strange layer is one that does not weld, or does not harden.",
)


class CutStock(Kind):
    """A cut for every layer; what goes into a can is cut too."""

    key = "cut_stock"
    place = "saw"
    spread = 1.2

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        layers = [layer for pile in wanted.forged.start.piles() for layer in pile] if not wanted.forged.start.canned else []
        sections = [wanted.forged.first.width * thick for _, thick in layers]
        for one in wanted.forged.start.put_in(job.cut(wanted), job.worked.shop.steels):
            if one.form != "powder":
                sections += [min(one.width * one.thickness, 400.0)] * one.count
        if wanted.forged.children or not sections:
            return []
        minutes = len(sections) * job.minutes(SAW_SET) + sum(sections) / 100 * job.minutes(SAW)
        many = f"{len(sections)} pieces" if len(sections) > 1 else "the piece"
        put_in = job.cut(wanted) * wanted.forged.first.section.area * wanted.forged.densities[0]
        weight = () if wanted.forged.start.canned else (Target("mass", put_in, 0.03 * put_in, "all of them"),)
        return [
            Part(
                f"Cut {many}",
                f"Cut {many} {job.cut(wanted):.1f} mm long; deburr every end and mark its steel.",
                minutes,
                targets=(Target("length", job.cut(wanted), 1.0, "each piece"), Target("count", len(sections), 0.0), *weight),
                checks=(SPARK,),
                cautions=("Goggles on; clamp what is short.",),
            )
        ]
