"""Guard and pommel coloured by heat, off the blade, where the fit-up asks for it."""

from varistrat.core.heat.colours import RUN, RUN_SURE
from varistrat.core.laws.numbers import COLOUR
from varistrat.core.route.operation import Check, Job, Kind, Part, Target

AT: dict[str, float] = {"straw": 225.0, "brown": 255.0, "purple": 275.0, "blue": 295.0}
"""C; one of the oxide colours of clean plain steel."""
EVEN = Check(
    "Is it the same colour all over, in daylight?",
    "Even, edges no further than the faces.",
    "Back to bright with the last paper, clean again, slower: a finger mark shows for good.",
)


class ColourFittings(Kind):
    """Each part by itself, before anything is glued."""

    key = "colour"
    place = "bench"
    spread = 1.4

    def blade(self, job: Job) -> list[Part]:
        colour = job.worked.document.finish.fit_up.colour
        if not job.worked.cut or colour == "none":
            return []
        at = AT[colour]
        word = next(says for celsius, says, _ in RUN if celsius == at)
        say = (
            f"Off the blade: {at:.0f} C would take its hardness. Polished and degreased, on a hot plate or in sand; out at {word}, "
            "into oil. Chromium steels colour 20 to 80 C later."
        )
        caution = "Gloves and tongs. No brass with zinc driven hot, nothing plated: their fumes are poison."
        return [Part(f"Fittings coloured: {word}", say, job.minutes(COLOUR), targets=(Target("celsius", at, RUN_SURE),), checks=(EVEN,),
                     cautions=(caution,))]  # fmt: skip
