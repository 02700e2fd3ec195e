"""The sheath, sewn to the blade's own outline, where the fit-up has one."""

from varistrat.core.finish.sheath import sheath_of
from varistrat.core.laws.numbers import SHEATH, SHEATH_DRIES
from varistrat.core.route.operation import Check, Job, Kind, Part, Target, Timer

HOLDS = Check(
    "Does the blade go in and out without a scratch, and stay when it is turned over?",
    "It stays, and no stitch is touched.",
    "Tight: form it wet once more. Loose: a second row of stitches.",
)


class Sheath(Kind):
    """After the edge, so that it is made for the blade as it is."""

    key = "sheath"
    place = "bench"
    spread = 1.4

    def blade(self, job: Job) -> list[Part]:
        plan = job.worked.document.finish.fit_up
        if not job.worked.cut or plan.sheath == "none":
            return []
        found, dries = sheath_of(job.worked), job.minutes(SHEATH_DRIES)
        say = (
            f"By the 1:1 drawing, {plan.leather:g} mm leather: {found.stitches} stitches, the welt inside the seam. Formed wet round "
            "the oiled, wrapped blade; leather shrinks by a hundredth or two."
        )
        sizes = (Target("length", found.length, 2.0, "piece"), Target("width", found.width, 2.0, "piece"))
        caution = (
            "Edge under tape while it is fitted. Leather tanned with chrome or salt rusts the blade: vegetable tanned only. The blade is "
            "never stored in it."
        )
        return [Part("Sheath", say, job.minutes(SHEATH), dries, targets=sizes, checks=(HOLDS,), cautions=(caution,),
                     timers=(Timer("the leather dries", dries),))]  # fmt: skip
