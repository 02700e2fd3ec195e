"""Whatever is done hot: heat by heat as the fires of the design have it."""

from collections.abc import Sequence
from itertools import groupby

from varistrat.core.bars.forged import Stage
from varistrat.core.heat.colours import glow
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.passes import Laid, Pass
from varistrat.core.laws.numbers import AT_ANVIL
from varistrat.core.route.operation import Check, Job, Kind, Part, Target, Timer
from varistrat.core.stock.backwards import Wanted

TURN_MINUTES = 5.0
"""A bar that lies still in a fire is hotter on one side."""
SOUND = Check(
    "Tap it, and grind one edge clean: can you still see a line?",
    "It rings, and the edge is one piece of steel.",
    "A line is an open weld: flux or seal it and weld again before you draw.",
)
COLOUR = Check(
    "Is it one colour from end to end, and through?", "No darker band, no darker core at the ends.", "Soak it longer, or turn it."
)
STRAIGHT = Check("Is it straight and square?", "It lies on the anvil without rocking.", "Straighten it in this heat, not in the next step.")
SMOOTH = Check(
    "Are the turns even, and the skin closed?",
    "The same lead all along, no crack at the corners.",
    "Stop: grind a crack out before it runs.",
)
CHECKS: dict[str, tuple[Check, ...]] = {
    "weld": (COLOUR, SOUND),
    "join": (COLOUR, SOUND),
    "forge": (STRAIGHT,),
    "twist": (COLOUR, SMOOTH),
}
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
        minutes = fired.all_in_fire + fired.heats * job.minutes(AT_ANVIL)
        colour = glow(fired.celsius)
        hot = f"{fired.celsius:.0f} C" + (f", {colour[1]}" if colour else "")
        soak = f"{fired.in_fire:.0f} min in the fire from cold, {fired.soak:.0f} of them until the middle is hot."
        say = f"{heats[0].upper()}{heats[1:]} at {hot}, {soak}"
        return [
            Part(
                title,
                say,
                minutes,
                targets=(*_targets(stage, fired), *_weight(wanted, stage)),
                checks=CHECKS.get(step.fire, ()),
                cautions=(fired.caution,) if fired.caution else (),
                timers=(Timer("in the fire", fired.in_fire), Timer("turn it", TURN_MINUTES, again=True)),
                by_heat=_by_heat(fired.passes),
                lay_out=_blocks(fired.passes),
            )
        ]


def _targets(stage: Stage, fired: Fired) -> tuple[Target, ...]:
    """The bar as it is to come out of the step, its heat, how often it goes in."""
    after, round_ = stage.after, stage.after.section.form == "round"
    size: tuple[Target, ...] = (Target("diameter", after.width, 0.5),)
    if not round_:
        size = (Target("width", after.width, 0.5), Target("thickness", after.thickness, 0.3))
    turns = getattr(stage.step, "turns", None)
    return (
        *size,
        Target("length", after.length, max(2.0, 0.03 * after.length)),
        *((Target("turns", float(turns), 0.25),) if turns else ()),
        Target("celsius", fired.celsius, 25.0),
        Target("heats", float(fired.heats), 0.0),
    )


def _weight(wanted: Wanted, stage: Stage) -> tuple[Target, ...]:
    """Of the whole bar, after its last heat: what became of what was put in."""
    stages = wanted.forged.stages
    last = next((i for i in reversed(range(len(stages))) if stages[i].step.fire), None)
    if wanted.address or last is None or stages[last] is not stage or wanted.forged.start.canned:
        return ()
    grams = stage.after.volume * wanted.forged.densities[last + 1]
    return (Target("mass", grams, 0.04 * grams, "the bar, cold"),)


def _by_heat(passes: Sequence[Pass]) -> tuple[str, ...]:
    """How the tool is set, heat by heat: the heights in their order, and where the bar is turned."""
    # each with its unit: the screen tells them in the user's own
    heats = []
    for _, of in groupby(passes, lambda p: p.heat):
        runs = [(laid, [p.width if laid == "edge" else p.thickness for p in run]) for laid, run in groupby(of, lambda p: p.laid)]
        heats.append("; ".join(f"{WORDS[laid]}{', '.join(f'{h:.1f} mm' for h in heights)}" for laid, heights in runs))
    return tuple(heats)


def _blocks(passes: Sequence[Pass]) -> str:
    """The stop blocks of the shop that are wanted, the highest first."""
    blocks = sorted({p.block for p in passes if p.block is not None}, reverse=True)
    return f"Stop blocks: {', '.join(f'{b:g} mm' for b in blocks)}." if blocks else ""
