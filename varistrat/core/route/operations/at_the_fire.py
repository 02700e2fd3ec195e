"""Whatever is done hot: heat by heat as the fires of the design have it."""

from collections.abc import Sequence
from itertools import groupby

from varistrat.core.bars.forged import Stage
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.passes import Laid, Pass
from varistrat.core.laws.numbers import AT_ANVIL
from varistrat.core.route.operation import Job, Kind, Part
from varistrat.core.stock.backwards import Wanted

WORDS: dict[Laid, str] = {"flat": "", "edge": "on edge ", "along": "die along the bar "}


class AtTheFire(Kind):
    """One stays by a lit forge: its soak is time of one's own, too."""

    key = "fire"
    place = "fire"
    spread = 1.4

    def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
        if fired is None or not fired.heats:
            return []
        step = stage.step
        heats = f"{fired.heats} heats" if fired.heats > 1 else "one heat"
        title = f"{step.title} {step.brief()}".strip()
        minutes = fired.heats * (fired.soak + fired.minutes + job.minutes(AT_ANVIL))
        say = f"{heats[0].upper()}{heats[1:]} at {fired.celsius:.0f} C, {fired.soak:.0f} min in the fire each from cold."
        return [Part(title, " ".join(filter(None, (say, _passes(fired.passes), fired.caution))), minutes)]


def _passes(passes: Sequence[Pass]) -> str:
    """How the tool is set, heat by heat: the heights in their order, and where the bar is turned."""
    if not passes:
        return ""
    heats = []
    for _, of in groupby(passes, lambda p: p.heat):
        runs = [(laid, [p.width if laid == "edge" else p.thickness for p in run]) for laid, run in groupby(of, lambda p: p.laid)]
        heats.append("; ".join(f"{WORDS[laid]}{', '.join(f'{h:.1f}' for h in heights)} mm" for laid, heights in runs))
    return f"Pass by pass, a heat each: {' | '.join(heats)}."
