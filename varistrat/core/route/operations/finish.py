"""From hardened to done: sanding, etch, handle, edge. What the finish of a design says of them follows with its own place."""

from varistrat.core.laws.numbers import ETCH_BATH, ETCH_CYCLES, ETCHING, FIT_UP, GLUE, SAND, SHARPEN
from varistrat.core.route.operation import Job, Kind, Part


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
        return [
            Part("Finish grind and sand", "To the grit before the etch, every scratch of the one before gone.", cm2 * job.minutes(SAND))
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
        say = "Acid into water, never water into acid; gloves and goggles. Neutralise at the end, oil at once."
        return [Part(f"Etch, {cycles} cycles", say, cycles * job.minutes(ETCHING), cycles * job.minutes(ETCH_BATH))]


class FitUp(Kind):
    """Guard and handle, then the glue by itself."""

    key = "fit_up"
    place = "glue"

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut or not job.minutes(FIT_UP):
            return []
        return [Part("Guard and handle", "Tape over the edge. Glue sets in its own time.", job.minutes(FIT_UP), job.minutes(GLUE))]


class Sharpen(Kind):
    """The edge, last of all."""

    key = "sharpen"
    place = "bench"
    spread = 1.2

    def blade(self, job: Job) -> list[Part]:
        return [Part("Edge, and its test", "Cut away from yourself.", job.minutes(SHARPEN))] if job.worked.cut else []
