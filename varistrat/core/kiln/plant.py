"""A small electric kiln that stands in for a real one: elements, inner brick, outer brick, and the blade in it.

Heat flows (W) between lumps (J/K), by conduction and radiation, one explicit step after another. The numbers are
those of a kiln of about ten litres: it overshoots, lags, and an element can be made to fail. Stand-in only.
"""

from dataclasses import dataclass, replace
from math import exp

SIGMA = 5.670374e-8
KELVIN = 273.15
AIR = 20.0
POWER = 3600.0
ELEMENT, INNER, OUTER = 900.0, 7000.0, 30000.0
"""Heat each lump holds, J/K."""
ELEMENT_TO_INNER, INNER_TO_OUTER, OUTER_TO_AIR, LEAKS = 30.0, 3.0, 2.2, 0.5
"""W/K; leaks: from the chamber straight out, by the door."""
DOOR = 12.0
SHEATH = 18.0
"""Time constant of the thermocouple in its sheath, s."""
FAILED = 0.42
"""Power left with one element of two gone; less, as the other ages."""


@dataclass(frozen=True)
class Load:
    """A blade: J/K it holds, m2 it shows, W/K from its skin to its centre."""

    holds: float
    shows: float
    inside: float

    @classmethod
    def of(cls, mass: float, thickness: float, width: float, length: float) -> "Load":
        """g and mm."""
        shows = 2 * (width + thickness) * length * 1e-6
        return cls(max(mass, 5.0) / 1000 * 600.0, max(shows, 1e-4), max(27.3 * shows / (thickness / 4 * 1e-3), 1.0))


@dataclass(frozen=True)
class Kiln:
    """Temperatures C of its lumps; `sensor`: what the thermocouple has come to."""

    element: float = AIR
    inner: float = AIR
    outer: float = AIR
    skin: float = AIR
    centre: float = AIR
    sensor: float = AIR
    failed: bool = False
    door: bool = False

    def after(self, seconds: float, power: float, load: Load, aired: bool = False) -> "Kiln":
        """One step at this share of full power; `aired`: the load hangs in still air beside the kiln."""
        full = POWER * (FAILED if self.failed else 1.0)
        to_inner = ELEMENT_TO_INNER * (self.element - self.inner)
        to_outer = INNER_TO_OUTER * (self.inner - self.outer)
        out = OUTER_TO_AIR * (self.outer - AIR)
        leaks = (LEAKS + (DOOR if self.door else 0.0)) * (self.inner - AIR)
        around = AIR if aired else self.inner
        hot, cold = around + KELVIN, self.skin + KELVIN
        film = 0.7 * SIGMA * (hot * hot + cold * cold) * (hot + cold) + 10.0
        # its mean follows the chamber exactly over the step (thin blades are quick); skin and centre stand apart by what flows in
        mean = (self.skin + self.centre) / 2
        next_mean = around + (mean - around) * exp(-film * load.shows * seconds / load.holds)
        to_load = load.holds * (next_mean - mean) / seconds
        apart = to_load / load.inside / 2
        skin, centre = next_mean + apart, next_mean - apart
        return replace(
            self,
            element=self.element + seconds * (power * full - to_inner) / ELEMENT,
            inner=self.inner + seconds * (to_inner - to_outer - leaks - (0.0 if aired else to_load)) / INNER,
            outer=self.outer + seconds * (to_outer - out) / OUTER,
            skin=skin,
            centre=centre,
            sensor=self.sensor + (self.inner - self.sensor) * (1 - exp(-seconds / SHEATH)),
        )
