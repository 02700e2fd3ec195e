"""The can taken off: what was in it is one bar."""

from varistrat.core.bars.forged import Stage
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.laws.numbers import FACES, UNCAN
from varistrat.core.route.operation import Check, Job, Kind, Part
from varistrat.core.stock.backwards import Wanted

BARE = Check(
    "Is any of the can left on it?",
    "One grey all over under a drop of etchant.",
    "Mild steel left on a face etches pale and stays soft: grind again.",
)
TORN = "Torn can steel cuts: gloves, goggles. A mask against the dust."


class Uncan(Kind):
    """Peeled off once it is pressed solid and cold, or ground off."""

    key = "uncan"
    place = "grinder"
    spread = 1.5

    def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
        forged = wanted.forged
        if not forged.in_can or forged.stages[forged.in_can - 1] is not stage:
            return []
        if forged.start.peels:
            minutes = job.minutes(UNCAN)
            say = "Cold and solid: cut the can open along two corners and peel it off. Grind the bar bright all round."
        else:
            can = [p for p in forged.start.put_in(job.cut(wanted), job.worked.shop.steels) if p.steel is None]
            volume = sum(2 * (p.width + p.thickness) * p.wall * p.length for p in can)
            minutes = volume / 1000 * job.minutes(FACES)
            say = "Grind the can off all round, down to the bar."
        return [Part("Take the can off", say, minutes, checks=(BARE,), cautions=(TORN,))]
