"""Cycle by cycle until the relief is there; then stopped, neutral, oiled; then toned."""

from varistrat.core.etch.etchants import WEAR
from varistrat.core.finish.cycles import OIL, STOP, TONES, etch_plan
from varistrat.core.laws.numbers import ETCH_R0, ETCHING
from varistrat.core.route.operation import Check, Job, Kind, Part, Target, Timer

NEUTRAL_MINUTES, TONE_MINUTES = 10.0, {"coffee": 480.0, "muriatic": 3.0}
SAFE = "Acid into water, never water into acid."
CLEAN = Check(
    "After the first minute: is it dark all over, without a finger mark?",
    "Even and dark.",
    "Grease: degrease, sand it out with the last paper, begin anew.",
)
SOUND = Check(
    "Is any line open, any pit larger than before?",
    "None.",
    "Stop: the bath eats a flaw open on all its sides. Grind it out first.",
)


class Etch(Kind):
    """The cycles of the design's finish."""

    key = "etch"
    place = "bath"
    spread = 1.25

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        plan, finish = etch_plan(job.worked), job.worked.document.finish
        bath, each = plan.bath, job.minutes(ETCHING)
        alone = plan.minutes
        told = plan.etched.relief
        # the shop's own rate may have planned it: what is learned is told against ours
        usual = told * ETCH_R0.usual / job.worked.shop.numbers.of(ETCH_R0)
        timers = [Timer("the first cycle: then look", plan.cycles[0].minutes)]
        if len(plan.cycles) > 1:
            timers.append(Timer("in the bath", plan.cycles[1].minutes, again=len(plan.cycles) > 2))
        out = [
            Part(
                f"Etch, {len(plan.cycles)} cycles",
                f"In {bath.etchant.says}, {bath.strength:g} %, {bath.temperature:g} C. Degreased, gloves on, tang and threads covered.",
                len(plan.cycles) * each,
                alone,
                targets=(Target("depth", told, 0.25 * told, "relief", usual), Target("count", len(plan.cycles), 1.0, "cycles")),
                checks=(CLEAN, SOUND),
                cautions=(WEAR, SAFE, *(f"{n[0].upper()}{n[1:]}." for n in bath.etchant.never_with[:1])),
                timers=tuple(timers),
                lay_out=_cycles([c.minutes for c in plan.cycles], finish.polish),
            ),
            Part("Stop it, neutral, oiled", f"{STOP} {OIL}", each, NEUTRAL_MINUTES, "stop", cautions=(WEAR,),
                 timers=(Timer("in bicarbonate", NEUTRAL_MINUTES),)),
        ]  # fmt: skip
        if finish.tone != "none":
            alone = TONE_MINUTES[finish.tone]
            timer = Timer(f"in {finish.tone}", alone)
            out.append(Part(f"Tone in {finish.tone}", TONES[finish.tone], each, alone, "tone", cautions=(WEAR,), timers=(timer,)))
        return out


def _cycles(minutes: list[float], polish: int) -> str:
    told = ", ".join(f"{m:g}" for m in minutes)
    tops = f" Tops polished on a hard block every {polish} cycles." if polish else ""
    return f"Minutes: {told}. The dark wiped off between.{tops}"
