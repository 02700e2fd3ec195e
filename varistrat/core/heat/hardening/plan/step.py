"""What a step of the hardening is told with, and the words its steps share."""

from dataclasses import dataclass

from varistrat.core.findings import Finding
from varistrat.core.heat.segment import Segment
from varistrat.core.laws.numbers import Atmosphere
from varistrat.core.laws.quench import SAY_QUENCH

SAY = SAY_QUENCH
BATH = {"water": (20, 30), "fast_oil": (30, 55), "medium_oil": (45, 60), "slow_oil": (55, 70), "air": (15, 30)}
"""Temperature of the bath, C."""
LONG = 300.0
"""A blade with its tang longer than this goes into no ordinary tank and no small kiln, mm; indicative."""
KINDS: dict[str, str] = {
    "fast_oil": "a quench oil of 7 to 9 seconds",
    "medium_oil": "a quench oil of 11 to 14 seconds, or canola or peanut oil, warmed so that it is thin",
    "slow_oil": "a quench oil of 14 to 20 seconds",
}
"""What is bought under each name; seconds by the nickel ball, ASTM D3520. Kitchen oils lie between fast and medium; indicative."""
FOILED: dict[str, Atmosphere] = {"bare": "air", "paste": "flux", "foil": "sealed"}
"""The gas at the steel for each way to guard it."""


@dataclass(frozen=True)
class PlanStep:
    """One step of the hardening as it is told; `program`: what a kiln is given for it; done: a reading says so; idle: it says only why
    nothing is to be done."""

    key: str
    title: str
    do: str
    why: str
    caution: str = ""
    program: tuple[Segment, ...] = ()
    findings: tuple[Finding, ...] = ()
    done: bool = False
    idle: bool = False


def say_hrc(value: float | None) -> str:
    """A hardness in words; under 20 HRC the scale does not reach."""
    return "hardness not known here" if value is None else f"about {value:.0f} HRC" if value >= 20 else "under 20 HRC"
