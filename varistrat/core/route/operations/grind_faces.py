"""Faces ground flat, corners knocked back, cuts across: all that is done cold to a bar."""

from varistrat.core.bars.forged import Stage
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.laws.numbers import FACES, SAW, SAW_SET
from varistrat.core.route.operation import Job, Kind, Part, Target
from varistrat.core.stock.backwards import Wanted

BY_SAW = 15000.0
"""From so much on nobody takes it off on a belt, mm3; indicative."""


class GrindFaces(Kind):
    """By the steel that comes off, before the fire of its step."""

    key = "grind"
    place = "grinder"
    after_fire = False

    def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
        if stage.step.ground_after is not self.after_fire:
            return []
        ground = sum(stage.change.losses.get(cause, 0.0) for cause in ("grind", "relief"))  # type: ignore[call-overload]
        if ground <= 0:
            return []
        minutes = ground / 1000 * job.minutes(FACES)
        done = f"{stage.step.title} {stage.step.brief()}".strip()
        hot = bool(fired and fired.heats)
        title = f"Grind flat after {done.lower()}" if self.after_fire else f"Grind for {done.lower()}" if hot else done
        after = stage.after
        targets = () if hot and not self.after_fire else (Target("thickness", after.thickness, 0.2), Target("width", after.width, 0.5))
        most = " Saw or mill most of that off first." if ground > BY_SAW else ""
        say = f"{ground / 1000:.1f} cm3 come off.{most} Grind cool."
        name = "flat" if self.after_fire else ""
        return [Part(title, say, minutes, name=name, targets=targets, cautions=("Goggles and a mask against the dust.",))]


class GrindFlat(GrindFaces):
    """The same where the step's fire comes first: humps that it raised come off."""

    after_fire = True


class CutAcross(Kind):
    """A cut for every kerf."""

    key = "cut"
    place = "saw"
    spread = 1.2

    def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
        if not stage.step.cuts:
            return []
        pieces = int(getattr(stage.step, "pieces", 0) or getattr(stage.step, "count", 0) or 2)
        area = stage.before.section.area / 100
        minutes = max(1, pieces - 1) * (job.minutes(SAW_SET) + area * job.minutes(SAW))
        title = f"Saw for {stage.step.title.lower()}"
        cuts = "One cut" if pieces < 3 else f"{pieces - 1} cuts"
        say = f"{cuts} through {stage.before.width:.4g} x {stage.before.thickness:.4g} mm."
        return [Part(title, say, minutes, targets=(Target("count", pieces, 0.0, "pieces"),), cautions=("Goggles on; let it cool first.",))]
