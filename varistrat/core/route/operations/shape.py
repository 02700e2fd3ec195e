"""From the bar to the ground blade: its outline before the fires of the hardening, its bevels between them or after."""

from typing import Literal

from varistrat.core.blade.measures import bevel_volume
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.laws.numbers import SHAPE
from varistrat.core.route.operation import Check, Job, Kind, Part, Target

SET_UP = 8.0
"""Minutes before the first spark: the template glued on, or centre lines scribed and belts changed."""
When = Literal["at once", "before", "after"]
EVEN = Check(
    "Edge up, does it stand midway between the faces all along?",
    "The scribed lines are left on both sides.",
    "It will warp in the quench, and a core will come out on one side: grind the fuller side.",
)
EVEN_AFTER = Check(
    "Edge up, does it stand midway between the faces all along?",
    "The scribed lines are left on both sides.",
    "A core will come out on one side: grind the fuller side.",
)
DUST = "Mask and goggles; no gloves near a belt."
COLD = "Hardened steel ground hot is soft: no gloves, dip it as soon as it is warm to the fingers."


def bevels_when(job: Job) -> When:
    """Ground with the outline where nothing is hardened; else before the heat of hardening or after it, as the smith says."""
    return job.worked.document.hardening.bevels if job.worked.hardening_steps else "at once"


def _bevels(job: Job) -> float:
    """What is ground off for the bevels, cm3: of all that comes off round the blade."""
    assert job.worked.cut
    return min(bevel_volume(job.worked.cut.geometry), max(0.0, job.sheet.losses.get("shaping", 0.0))) / 1000


class Shape(Kind):
    """By what is cut and ground round the blade."""

    key = "shape"
    place = "grinder"

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        apart = bevels_when(job) != "at once"
        cm3 = max(0.0, job.sheet.losses.get("shaping", 0.0)) / 1000 - (_bevels(job) if apart else 0.0)
        forged = job.worked.cut.placed.forge_map is not None
        say = f"{cm3:.0f} cm3 come off, most of it in the saw."
        if apart:
            say += " Scribe the middle of the edge. The bevels come later."
        blade = job.worked.cut.geometry
        targets = (
            Target("length", blade.length, 1.0, "heel to tip"),
            Target("thickness", float(blade.blade.spine_thickness.heel), 0.2, "spine at the heel"),
        )
        return [
            Part(
                "Profile" if apart else "Profile and grind the bevels",
                ("Forge the blade to shape first. " if forged else "") + say,
                SET_UP + cm3 * job.minutes(SHAPE),
                targets=targets,
                checks=() if apart else (EVEN_AFTER,),
                cautions=(DUST,),
            )
        ]


class Bevels(Shape):
    """By what is ground off for them, down to what is left for the quench."""

    when: When = "before"

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut or bevels_when(job) != self.when:
            return []
        ready = next(s for s in job.worked.hardening_steps if s.key == "ready")
        cm3 = _bevels(job)
        return [
            Part(
                "Grind the bevels",
                f"{cm3:.0f} cm3 come off. {self._say(ready)}",
                SET_UP + cm3 * job.minutes(SHAPE),
                name="bevels",
                targets=self._reach(job),
                checks=(EVEN if self.when == "before" else EVEN_AFTER,),
                cautions=(DUST if self.when == "before" else COLD,),
            )
        ]

    def _say(self, ready: PlanStep) -> str:
        return ready.do

    def _reach(self, job: Job) -> tuple[Target, ...]:
        return (Target("thickness", job.worked.hardening.edge, 0.15, "the edge"),)


class BevelsAfter(Bevels):
    """The same in the hardened blade."""

    when: When = "after"

    def _say(self, ready: PlanStep) -> str:
        return "Fresh belts, light pressure, wet or dipped at every pass."

    def _reach(self, job: Job) -> tuple[Target, ...]:
        return ()
