"""From the bar to the ground blade."""

from varistrat.core.laws.numbers import SHAPE
from varistrat.core.route.operation import Check, Job, Kind, Part, Target

SET_UP = 15.0
"""Minutes before the first spark: the template glued on, centre lines scribed."""
EVEN = Check(
    "Edge up, does it stand midway between the faces all along?",
    "The scribed lines are left on both sides.",
    "It will warp in the quench, and a core will come out on one side: grind the fuller side.",
)


class Shape(Kind):
    """Profile and bevels, by what is cut and ground round the blade."""

    key = "shape"
    place = "grinder"

    def blade(self, job: Job) -> list[Part]:
        cm3 = max(0.0, job.sheet.losses.get("shaping", 0.0)) / 1000
        if not job.worked.cut:
            return []
        forged = job.worked.cut.placed.forge_map is not None
        title = "Profile and grind the bevels"
        say = f"{cm3:.0f} cm3 come off, most of it in the saw. Leave the edge thick for the fire."
        blade = job.worked.cut.geometry
        targets = (
            Target("length", blade.length, 1.0, "heel to tip"),
            Target("thickness", float(blade.blade.spine_thickness.heel), 0.2, "spine at the heel"),
        )
        return [
            Part(
                title,
                ("Forge the blade to shape first. " if forged else "") + say,
                SET_UP + cm3 * job.minutes(SHAPE),
                targets=targets,
                checks=(EVEN,),
                cautions=("Mask and goggles; no gloves near a belt.",),
            )
        ]
