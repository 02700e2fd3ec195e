"""Grits of belts and paper, and what each must take off: one sequence from the first belt to the last sheet. docs/physics.md#grits."""

from dataclasses import dataclass
from typing import Literal

Scale = Literal["P", "CAMI"]
SCRATCH = 0.2
"""How deep a scratch is, of the grain; indicative."""
CLEARS = 1.3
"""A grit takes so many scratches of the one before: the deepest are deeper than the mean."""
_P = {
    36: 538.0, 60: 269.0, 80: 201.0, 120: 125.0, 180: 82.0, 220: 68.0, 240: 58.5, 320: 46.2, 400: 35.0, 600: 25.8, 800: 21.8, 1000: 18.3,
    1200: 15.3, 1500: 12.6, 2000: 10.3, 2500: 8.4,
}  # fmt: skip
"""FEPA P (ISO 6344): mean grain, um."""
_CAMI = {
    60: 268.0, 80: 192.0, 120: 116.0, 180: 78.0, 220: 66.0, 240: 53.5, 320: 36.0, 400: 23.6, 600: 16.0, 800: 12.2, 1000: 9.2, 1200: 6.5,
}  # fmt: skip
"""ANSI B74.18: mean grain, um."""


@dataclass(frozen=True)
class Grit:
    """number: as printed on its back; grain: mean, um."""

    scale: Scale
    number: int
    grain: float

    @property
    def name(self) -> str:
        """P400, or CAMI 400."""
        return f"P{self.number}" if self.scale == "P" else f"CAMI {self.number}"

    @property
    def scratch(self) -> float:
        """mm deep."""
        return SCRATCH * self.grain / 1000


GRITS: dict[str, Grit] = {
    g.name: g for g in (*(Grit("P", n, um) for n, um in _P.items()), *(Grit("CAMI", n, um) for n, um in _CAMI.items()))
}
"""By name."""


def must_take(before: Grit | None) -> float:
    """mm off each face until every scratch of the grit before is gone; 0 for the first."""
    return CLEARS * before.scratch if before else 0.0
