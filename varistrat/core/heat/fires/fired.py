"""One step's heats and what they did."""

from collections.abc import Mapping
from dataclasses import dataclass

from varistrat.core.bars.layer_line import Normal
from varistrat.core.findings import Finding
from varistrat.core.heat.fires.passes import Pass
from varistrat.core.laws.numbers import Atmosphere

AGAIN = 0.5
"""A reheat takes this share of a heat from cold."""


@dataclass(frozen=True)
class Fired:
    """One step's heats; each: how many of them any one place of the bar sees. Temperatures C; minutes at heat of each; soak:
    minutes in the fire of each from cold; mm per face over all of them.

    skin: depth of the carbon-poor skin when they are done; grind: what to take off to be below it; left: what was left on faces
    welded here; carbon: (least, mean, most) of each steel below the skin; own: what the smith said.
    """

    bar: str
    step: str
    """Ids."""
    kind: str
    heats: int
    each: int
    celsius: float
    minutes: float
    soak: float
    atmosphere: Atmosphere
    scale: float
    scale_volume: float
    skin: float
    grind: float
    left: float
    thinnest: float
    across: float
    """How long the line through the layers is, face to face, mm."""
    normal: Normal
    layers: int
    carbon: Mapping[str, tuple[float, float, float]]
    profile: tuple[list[float], list[float], list[int]]
    uneven: float
    """How much of the differences in activity the steels began with is left inside the bar, 0 to 1."""
    own: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()
    caution: str = ""
    """What can hurt the smith at this step, briefly."""
    spread: tuple[float, float] | None = None
    """Of a draw: width it would come to left free, and the die or rolls it is under, mm."""
    passes: tuple[Pass, ...] = ()
    """Of a draw under press or rolls."""

    @property
    def in_fire(self) -> float:
        """Minutes in the fire from cold: until it is hot through, and at heat."""
        return self.soak + self.minutes

    @property
    def all_in_fire(self) -> float:
        """Minutes in the fire of all its heats: those after the first begin warm."""
        return self.soak * (1 + AGAIN * (self.heats - 1)) + self.heats * self.minutes if self.heats else 0.0
