"""From hardened to done: sanding, etch, handle, edge. What the finish of a design says of them follows with its own place."""

from varistrat.core.laws.numbers import ETCH_BATH, ETCH_CYCLES, ETCHING, FIT_UP, GLUE, SAND, SHARPEN
from varistrat.core.route.operation import Check, Job, Kind, Part, Target, Timer

SCRATCH = Check(
    "Slanted to the light, is there a scratch across the others?",
    "All run one way, all of one grit.",
    "The etch shows it tenfold: back to the grit that made it.",
)
HOLDS = Check(
    "After its first cuts, does light run along the edge?",
    "None: a sharp edge reflects nothing.",
    "Bright flat spots are rolled (too soft or too thin), jagged ones chipped (too hard): see to the temper before the handle is finished.",
)


class Sand(Kind):
    """Belt by belt, then by hand."""

    key = "sand"
    place = "grinder"
    spread = 1.35

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        geometry = job.worked.cut.geometry
        low, high = geometry.curves.span()
        cm2 = 2 * geometry.length * (high - low) / 100
        grams = job.sheet.losses.get("blade", 0.0) * job.worked.forged.densities[-1]
        return [
            Part(
                "Finish grind and sand",
                "To the grit before the etch, every scratch of the one before gone.",
                cm2 * job.minutes(SAND),
                targets=(Target("mass", grams, 0.05 * grams, "the blade, bare"),) if grams else (),
                checks=(SCRATCH,),
                cautions=("A hardened edge is sharp before it is sharpened: hold it in a block. Dip it often; a blue edge is soft.",),
            )
        ]


class Etch(Kind):
    """Cycle by cycle."""

    key = "etch"
    place = "bath"
    spread = 1.25

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        cycles = round(job.minutes(ETCH_CYCLES))
        bath = job.minutes(ETCH_BATH)
        return [
            Part(
                f"Etch, {cycles} cycles",
                "Degrease; wipe the dark off between cycles. Neutralise at the end, oil at once.",
                cycles * job.minutes(ETCHING),
                cycles * bath,
                targets=(Target("count", cycles, 0.0, "cycles"),),
                cautions=("Acid into water, never water into acid; gloves and goggles, air drawn off.",),
                timers=(Timer("in the bath", bath, again=True),),
            )
        ]


class FitUp(Kind):
    """Guard and handle, then the glue by itself."""

    key = "fit_up"
    place = "glue"

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut or not job.minutes(FIT_UP):
            return []
        glue = job.minutes(GLUE)
        return [
            Part(
                "Guard and handle",
                "Dry first, then glued. Glue sets in its own time.",
                job.minutes(FIT_UP),
                glue,
                cautions=("Tape over the edge. Dust of many woods and of glue hurts the lungs: a mask.",),
                timers=(Timer("the glue sets", glue),) if glue else (),
            )
        ]


class Sharpen(Kind):
    """The edge, last of all."""

    key = "sharpen"
    place = "bench"
    spread = 1.2

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        cautions = ("Cut away from yourself.",)
        return [Part("Edge, and its test", "Sharpen, strop, cut what it is for.", job.minutes(SHARPEN), checks=(HOLDS,), cautions=cautions)]
