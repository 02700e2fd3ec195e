"""A bath: what is in it, how warm, how worn; how fast it bites. Derived in docs/physics.md#bath."""

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from varistrat.core.etch.etchants import ETCHANTS, MOST_LITRES, Etchant, What
from varistrat.core.model import Model

GAS = 8.314462
"""J/(mol K)."""
ACTIVATION = 45_000.0
"""J/mol; indicative, 35 to 50 are published."""
ZERO, REFERENCE = 273.15, 293.15
COLDEST = 5.0
"""C: colder, nobody has measured."""
RENEW_AT = 0.35
"""Share of its iron at which a bath is renewed."""
BICARBONATE = 84.007
"""g/mol; three moles neutralise one of ferric chloride: it goes down as hydroxide."""


class Bath(Model):
    """strength: % by weight (coffee: g in 100 ml); temperature: C; litres; iron: g dissolved in it so far."""

    what: What = "ferric"
    strength: Annotated[float, Field(gt=0, le=60)] = 10.0
    temperature: Annotated[float, Field(ge=-20, le=100)] = 20.0
    litres: Annotated[float, Field(gt=0, le=MOST_LITRES)] = 4.0
    iron: Annotated[float, Field(ge=0, le=1e6)] = 0.0

    @model_validator(mode="after")
    def _within(self) -> "Bath":
        e = self.etchant
        if not e.weakest <= self.strength <= e.strongest:
            cure = f"use {e.weakest:g} to {e.strongest:g} %"
            if e.key == "nital" and self.strength > e.strongest:
                cure += "; more nitric acid in alcohol may explode when it is kept: weaker, and longer"
            raise ValueError(f"nothing is known of {e.says} of {self.strength:g} %; {cure}")
        if not COLDEST <= self.temperature <= e.warmest:
            why = "warmer it fumes and bites unevenly" if self.temperature > e.warmest else "colder, nobody has measured it"
            raise ValueError(f"{e.says} at {self.temperature:g} C: {why}; keep it at {COLDEST:g} to {e.warmest:g} C")
        return self

    @property
    def etchant(self) -> Etchant:
        """What is known of what is in it."""
        return ETCHANTS[self.what]

    @property
    def capacity(self) -> float:
        """g of iron that it takes up in all, fresh; 0 where that does not count."""
        return self.etchant.iron_capacity(self.strength) * self.litres

    @property
    def used(self) -> float:
        """Share of its capacity that is gone, 0 to 1."""
        return min(self.iron / self.capacity, 1.0) if self.capacity else 0.0

    @property
    def warmth(self) -> float:
        """How many times faster than at 20 C: Arrhenius."""
        return warmth(self.temperature)

    @property
    def speed(self) -> float:
        """How many times as fast as fresh ferric chloride of 10 % at 20 C it bites plain steel."""
        return self.etchant.bites(self.strength) * self.warmth * (1 - self.used)

    def after(self, grams: float) -> "Bath":
        """With so much more iron dissolved in it."""
        return self.model_copy(update={"iron": self.iron + grams})

    @property
    def bicarbonate(self) -> float:
        """g that neutralise all of it: it foams, a little at a time. What the iron took up of an acid no longer needs any."""
        moles = self.etchant.moles_per_litre(self.strength) * self.litres
        if self.what in ("ferric", "ferric+muriatic"):
            return 3 * moles * BICARBONATE
        return (2 if self.what == "sulphuric" else 1) * moles * BICARBONATE


def warmth(celsius: float) -> float:
    """Rate at a temperature over that at 20 C, ACTIVATION J/mol; 5 to 60 C."""
    return float(np.exp(-ACTIVATION / GAS * (1 / (celsius + ZERO) - 1 / REFERENCE)))


@dataclass(frozen=True)
class Tank:
    """A tube or trough that covers a blade, mm; litres of bath in it, the blade out of it."""

    length: float
    width: float
    depth: float
    litres: float


CLEARANCE, BELOW = 15.0, 20.0
"""mm about a blade, and under its edge where the sludge lies."""


def tank_for(length: float, height: float, thickness: float) -> Tank:
    """For a blade hung edge down, mm: as long as it is, sludge below, covered. Litres that fill it about the blade."""
    long, wide, deep = length + 2 * CLEARANCE, thickness + 2 * CLEARANCE, height + BELOW + CLEARANCE
    return Tank(long, wide, deep, (long * wide * deep - length * height * thickness) / 1e6)
