"""What work may leave otherwise than planned and the finished face shows: a number of a step, and how far it may be off."""

from dataclasses import dataclass
from typing import Literal

Group = Literal["ground", "figure", "winding"]
"""How it is looked for: where the face lies; a figure's place and depth; a winding's turns and how it lies."""


@dataclass(frozen=True)
class OffPlan:
    """name: short, one of a step; planned: in `unit`; least, most: how far it may be off, in the unit of change: `unit` itself, or
    (share) a share of what is planned; more, less: as one would say it, with {much} and {made}."""

    name: str
    title: str
    unit: str
    planned: float
    least: float
    most: float
    group: Group
    more: str
    less: str
    share: bool = False

    def made(self, change: float) -> float:
        """What it is when it is off by that."""
        return self.planned * (1 + change) if self.share else self.planned + change


def around(degrees: float) -> float:
    """-180 to 180."""
    return (degrees + 180.0) % 360.0 - 180.0
