"""How many heats a draw takes: the work it needs against what the tool does before the bar is cold. Derived in docs/physics.md#heats."""

from dataclasses import dataclass
from math import ceil, log
from typing import Literal, get_args

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.model import HeatDemand
from varistrat.core.bars.spread import forging_spread, rolling_spread
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.heat.fires.soak import working_seconds
from varistrat.core.laws.numbers import (
    BLOW_USED,
    HAND_BLOW,
    HAND_FACE,
    HAND_RATE,
    HANDLING,
    HOT_LENGTH,
    POWER_BLOW,
    POWER_DIE,
    POWER_RATE,
    PRESS_DIE,
    PRESS_FORCE,
    PRESS_STROKES,
    ROLL_DIAMETER,
    ROLL_PASS,
    ROLL_RATE,
)

Tool = Literal["hand_hammer", "power_hammer", "press", "rolls"]
TOOLS: tuple[Tool, ...] = get_args(Tool)
METHODS: dict[str, Tool] = {"press": "press", "roll": "rolls"}
PER_PASS = 1.2
"""Height before over height after of one pass: 1.3 at most, or laps form."""
SHARE_HOT = 0.7
"""Of the cooling time in still air, what is left against dies and anvil; indicative."""
MOST = 500
"""Heats beyond which nobody counts."""


@dataclass(frozen=True)
class Working:
    """heats in all; seconds of work in each stretch, and of working heat in one heat (mean); stretches:
    how often the fire reaches along the bar."""

    heats: int
    work: float
    window: float
    stretches: int
    strain: float


def heats_to_work(before: Bar, after: Bar, tool: Tool, stress: float, hot: float, cold: float, numbers: Numbers = USUAL) -> Working:
    """Heats to bring a bar from one section to another.

    stress: MPa of the stack at its working heat; hot, cold: C between which it is worked.
    """
    long = (before.length + after.length) / 2
    stretches = max(1, ceil(long / numbers.of(HOT_LENGTH) - 1e-9))
    part = 1 / stretches
    down = max(before.thickness / after.thickness, 1.0), max(before.width / after.width, 1.0)
    strain = log(down[0]) + log(down[1])
    if strain < 1e-3:
        strain = abs(log(before.section.area / after.section.area))
    work = _seconds(before, after, tool, stress, strain, part * before.volume, part * long, numbers)
    # thinner at every pass, so cold sooner: each pass takes its share of a heat
    windows = [_window(before, after, done, hot, cold, numbers) for done in _passes(strain)]
    share = sum(work / len(windows) / w for w in windows)
    heats = min(MOST, stretches * max(1, ceil(share - 1e-9))) if strain > 1e-3 else 0
    return Working(heats, work, work / share if share else windows[0], stretches, strain)


def _passes(strain: float) -> list[float]:
    """How far along each pass is at its middle, 0 to 1."""
    n = max(1, ceil(strain / log(PER_PASS) - 1e-9))
    return [(k + 0.5) / n for k in range(n)]


def _window(before: Bar, after: Bar, done: float, hot: float, cold: float, numbers: Numbers) -> float:
    """Seconds of working heat when the bar is so far on its way, in equal steps of strain."""
    width = before.width * (after.width / before.width) ** done
    thickness = before.thickness * (after.thickness / before.thickness) ** done
    return max(2.0, SHARE_HOT * working_seconds(width, thickness, hot, cold) - numbers.of(HANDLING))


def tool_of(demand: HeatDemand, usual: Tool) -> Tool:
    """What a step is forged under: its own press or rolls, else the shop's usual tool (a step's `hammer` does not say which)."""
    return METHODS.get(demand.under, usual)


def spread_under(before: Bar, after: Bar, tool: Tool, numbers: Numbers = USUAL) -> tuple[float, float] | None:
    """(width it would come to left free, die or rolls across the bar) when it is brought down to its new thickness, mm;
    None when it is not."""
    if after.thickness > before.thickness * (1 - 1e-6):
        return None
    down = before.thickness / after.thickness
    if tool == "rolls":
        rolls = numbers.of(ROLL_DIAMETER)
        return before.width * down ** rolling_spread(before.width, before.thickness, rolls), rolls
    die = numbers.of({"press": PRESS_DIE, "power_hammer": POWER_DIE, "hand_hammer": HAND_FACE}[tool])
    return before.width * down ** forging_spread(die, before.width), die


def _seconds(before: Bar, after: Bar, tool: Tool, stress: float, strain: float, volume: float, long: float, numbers: Numbers) -> float:
    """Seconds of hammering, pressing or rolling for one stretch of the bar."""
    if tool in ("hand_hammer", "power_hammer"):
        blow, rate = (HAND_BLOW, HAND_RATE) if tool == "hand_hammer" else (POWER_BLOW, POWER_RATE)
        # J: MPa times mm3 is mJ; friction and redundant work a quarter more
        energy = 1.25 * stress * strain * volume * 1e-3
        return energy / (numbers.of(blow) * numbers.of(BLOW_USED)) * 60 / numbers.of(rate)
    passes = max(1, ceil(strain / log(PER_PASS) - 1e-9))
    if tool == "rolls":
        off = max(before.thickness - after.thickness, before.width - after.width, 0.0)
        return max(passes, ceil(off / numbers.of(ROLL_PASS))) * 60 / numbers.of(ROLL_RATE)
    width = max(before.width, after.width)
    # F = Q s b w, Q about 1.2
    bite = min(numbers.of(PRESS_DIE), numbers.of(PRESS_FORCE) * 1e3 / (1.2 * stress * width))
    return passes * ceil(long / max(bite, 1.0)) * 60 / numbers.of(PRESS_STROKES)
