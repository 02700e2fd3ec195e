"""Pins driven and peened, where the fit-up has such."""

from varistrat.core.laws.numbers import PEEN
from varistrat.core.route.operation import Check, Job, Kind, Part

TIGHT = Check("Does a scale move, or a pin turn?", "Neither.", "Drill it out, a new pin: hammering on splits the scale.")
HOT = (
    "Eyes covered; the edge still under tape. Filed or belted, a pin gets hot and burns the glue about it and the wood: light passes, "
    "dipped or left to cool as soon as it is warm."
)


class Peen(Kind):
    """Once the glue is hard."""

    key = "peen"
    place = "bench"
    spread = 1.3

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut or job.worked.document.finish.fit_up.pins != "peened":
            return []
        say = "A rod's half left standing each side, on a smooth anvil; many light blows round the rim, both sides by turns; filed flush."
        return [Part("Pins peened", say, job.minutes(PEEN), checks=(TIGHT,), cautions=(HOT,))]
