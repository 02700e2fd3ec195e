"""Where the core line is wanted, and how a blade is graded by it.

Two schools: *supported* shows as little core as keeps the edge core, the clad carrying it to near the edge;
*bold* shows the core as a broad band. Both are right; the smith says which. Heights are vertical, mm from the edge.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.model import Mm0, Model, shown
from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Geometry
from varistrat.core.laminate.exposure import Station

School = Literal["supported", "bold"]
BANDS: dict[School, tuple[float, float]] = {"supported": (0.06, 0.28), "bold": (0.25, 0.60)}
"""Lowest and highest core line as shares of the height at the heel; indicative."""
DIFFERENCE = 0.08
"""How far left and right may differ, as such a share; indicative."""
Part = Annotated[float, Field(ge=0, le=1)]


class Aim(Model):
    """What is wanted of the core line; what is left out follows from the school and the blade's height."""

    school: School = Field("supported", **shown("School"))
    low: Mm0 | None = Field(None, **shown("Core line not under", "mm"))
    high: Mm0 | None = Field(None, **shown("Core line not over", "mm"))
    difference: Mm0 | None = Field(None, **shown("Left and right within", "mm"))
    start: Part = Field(0.05, **shown("Judged from", "share", "of the length, from the heel"))
    end: Part = Field(0.85, **shown("Judged to", "share", "of the length; near the tip any line runs out"))
    edge_least: Mm0 = Field(0.15, **shown("Edge left at least", "mm"))
    spine_least: Mm0 = Field(1.0, **shown("Spine left at least", "mm"))


@dataclass(frozen=True)
class Band:
    """The wanted band in mm, and the stretch of the blade it is judged on."""

    low: float
    high: float
    difference: float
    start: float
    end: float

    @classmethod
    def of(cls, aim: Aim, geometry: Geometry) -> "Band":
        """The band that an aim means on this blade: heights in mm, or its school's shares of the height at the heel."""
        height = float(geometry.height(np.array([0.02 * geometry.length]))[0])
        low, high = BANDS[aim.school]
        low, high = (height * low if aim.low is None else aim.low), (height * high if aim.high is None else aim.high)
        difference = height * DIFFERENCE if aim.difference is None else aim.difference
        first = max(aim.start * geometry.length, geometry.blade.grind.ricasso + geometry.blade.grind.plunge)
        return cls(low, max(high, low), difference, first, max(aim.end * geometry.length, first))

    def judged(self, x: Array) -> Array:
        """Which of the stations x (mm) count."""
        return (x >= self.start) & (x <= self.end)


def line(station: Station) -> float:
    """Height of the core line: the top of the core that begins at the edge; 0 where none does, the height where it reaches the spine."""
    if not station.shown or station.shown[0][0] > 1e-6:
        return 0.0
    return station.shown[0][1]


@dataclass(frozen=True)
class Risk:
    """A station that is out: where, on which side (None: left against right), and what is wrong."""

    x: float
    side: str | None
    kind: Literal["low", "high", "apart", "none"]
    by: float


@dataclass(frozen=True)
class Grade:
    """First or second, and why. apart: mean right - left, mm."""

    first: bool
    reason: str
    risks: list[Risk]
    apart: float


def grade(stations: Iterable[Station] | Sequence[Station], band: Band) -> Grade:
    """Judged where `band` says. The reason names what is worst: core missing first, then the band, then left against right."""
    by_x: dict[float, dict[str, Station]] = {}
    for s in stations:
        by_x.setdefault(s.x, {})[s.side] = s
    risks: list[Risk] = []
    apart = []
    for x, sides in by_x.items():
        if not band.start <= x <= band.end:
            continue
        right, left = line(sides["right"]), line(sides["left"])
        if sides["right"].core_at_edge <= 0:
            risks.append(Risk(x, None, "none", 0.0))
            continue
        for side, at in (("right", right), ("left", left)):
            if at < band.low - 1e-6:
                risks.append(Risk(x, side, "low", band.low - at))
            elif at > band.high + 1e-6:
                risks.append(Risk(x, side, "high", at - band.high))
        apart.append(right - left)
        if abs(right - left) > band.difference + 1e-6:
            risks.append(Risk(x, None, "apart", abs(right - left) - band.difference))
    mean = float(np.mean(apart)) if apart else 0.0
    if not risks:
        return Grade(
            True,
            f"The line keeps between {band.low:.1f} and {band.high:.1f} mm on both sides, left and right within {band.difference:.1f} mm.",
            [],
            mean,
        )
    return Grade(False, _reason(risks, band), risks, mean)


def _reason(risks: list[Risk], band: Band) -> str:
    missing = [r for r in risks if r.kind == "none"]
    if missing:
        return f"No core at the edge {missing[0].x:.0f} mm from the heel: it does not harden there."
    out = [r for r in risks if r.kind in ("low", "high")]
    if out:
        worst = max(out, key=lambda r: r.by)
        where = f"{worst.x:.0f} mm from the heel the {worst.side} line lies {worst.by:.1f} mm"
        return f"{where} {'under' if worst.kind == 'low' else 'over'} the band of {band.low:.1f} to {band.high:.1f} mm."
    worst = max(risks, key=lambda r: r.by)
    return (
        f"{worst.x:.0f} mm from the heel left and right differ by {worst.by + band.difference:.1f} mm, more than {band.difference:.1f} mm."
    )
