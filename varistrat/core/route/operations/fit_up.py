"""Guard and handle, then the glue by itself."""

from math import pi

from varistrat.core.laws.numbers import FIT_UP, GLUE
from varistrat.core.route.operation import Check, Job, Kind, Part, Timer

SQUARE = Check(
    "Guard on, held to the light: does any show at the shoulders?", "None.", "File with a guide until it is square; blue it and see."
)
DRY = Check(
    "Dry run: all together, clamped, nothing forced?", "Together in half the glue's working time.", "Fit it now; glue mends nothing."
)
PIN, BRASS_SHEAR = 5.0, 200.0
"""Diameter of a usual pin, mm, and what annealed brass stands in shear, MPa; indicative."""
PINS = (
    f"Pins hold the scales when the glue lets go: across, a brass pin of {PIN:g} mm stands about "
    f"{pi / 4 * PIN**2 * BRASS_SHEAR / 1000:.0f} kN, two of them a hard blow."
)


class FitUp(Kind):
    """Dry first, then glued."""

    key = "fit_up"
    place = "glue"

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut or not job.minutes(FIT_UP):
            return []
        glue = job.minutes(GLUE)
        pins = f" {PINS}" if job.worked.document.finish.fit_up.pins != "none" else ""
        return [
            Part(
                "Guard and handle",
                f"Dry first, then glued. Roughen, degrease, warm; glue sets in its own time, twice as slow for every 10 C° colder.{pins}",
                job.minutes(FIT_UP),
                glue,
                checks=(SQUARE, DRY),
                cautions=("Tape over the edge. Dust of many woods and of glue hurts the lungs: a mask.",),
                timers=(Timer("the glue sets", glue),) if glue else (),
            )
        ]
