"""Coats on the handle, a day of drying each where they are oil."""

from varistrat.core.figures import Figure
from varistrat.core.laws.numbers import COAT, LACQUER_DRIES, OIL_DRIES, WAX_DRIES
from varistrat.core.route.operation import Check, Job, Kind, Part, Timer

DRIES: dict[str, Figure] = {"oil": OIL_DRIES, "lacquer": LACQUER_DRIES, "wax": WAX_DRIES}
HOW: dict[str, str] = {
    "oil": "Thin, left a quarter of an hour, wiped dry.",
    "lacquer": "Thin, along the grain, no dust.",
    "wax": "A little, rubbed warm, polished when it is dull.",
}
CAUTIONS: dict[str, str] = {
    "oil": "Rags with drying oil take fire by themselves: lay them flat outside or drown them in water.",
    "lacquer": "Its solvent burns and makes giddy: air, no flame, no grinder's sparks.",
    "wax": "Melt it in water, never over a flame.",
}
DRY = Check("Is it dry: does a finger leave no mark?", "None.", "Wait: a coat on a wet one never hardens.")


class Coats(Kind):
    """One after another, each dry before the next."""

    key = "coats"
    place = "glue"
    spread = 1.2

    def blade(self, job: Job) -> list[Part]:
        plan = job.worked.document.finish.fit_up
        if not job.worked.cut:
            return []
        dries = job.minutes(DRIES[plan.coat])
        out = []
        for n in range(1, plan.coats + 1):
            say = HOW[plan.coat] if n == 1 else f"Rubbed down with the finest paper first. {HOW[plan.coat]}"
            title = f"Coat of {plan.coat}" if plan.coats == 1 else f"Coat {n} of {plan.coats}, {plan.coat}"
            out.append(
                Part(title, say, job.minutes(COAT), dries, f"{n}", checks=(DRY,), cautions=(CAUTIONS[plan.coat],),
                     timers=(Timer("until it is dry", dries),))
            )  # fmt: skip
        return out
