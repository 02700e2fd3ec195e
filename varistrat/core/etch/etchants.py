"""What a blade is etched in: how strong it may be, what it takes up, what it costs when handled wrongly.

Rates are to plain hardened carbon steel in ferric chloride of 10 % by weight at 20 C, indicative. docs/physics.md#bath.
"""

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

What = Literal["ferric", "muriatic", "ferric+muriatic", "nital", "coffee", "vinegar", "sulphuric"]
WHATS: tuple[What, ...] = get_args(What)
MOST_LITRES = 1000.0
"""Of one bath; more is a plant, not a shop."""
WATER, ETHANOL = 0.998, 0.789
"""g/ml at 20 C."""
IRON = 55.845
"""g/mol."""
FERRIC_MOLE, ACID_MOLE, NITRIC_MOLE, ACETIC_MOLE, SULPHURIC_MOLE = 162.2, 36.46, 63.01, 60.05, 98.08


@dataclass(frozen=True)
class Etchant:
    """weakest, strongest: % by weight that its law holds for; rate: at `at` %, to plain steel in 10 % ferric at 20 C; power: of the
    strength, up to `level` % and level from there on; density: [[%, g/ml]]; mole: g/mol of what bites, whole: moles of it that a mole of
    iron takes, 0 where it dissolves next to nothing; warmest: C; tone: the steels' own table of it."""

    key: What
    says: str
    solvent: Literal["water", "alcohol"]
    weakest: float
    strongest: float
    at: float
    rate: float
    power: float
    level: float
    density: tuple[tuple[float, float], ...]
    mole: float
    whole: float
    warmest: float
    tone: str
    order: tuple[str, ...]
    """How it is mixed, and what must never be done, first things first."""
    never_with: tuple[str, ...]
    waste: str

    def grams_per_ml(self, strength: float) -> float:
        """Density at 20 C of `strength` % by weight."""
        percents, densities = zip(*self.density, strict=True)
        return float(np.interp(strength, percents, densities))

    def moles_per_litre(self, strength: float) -> float:
        """Of what bites."""
        return strength / 100 * self.grams_per_ml(strength) * 1000 / self.mole if self.mole else 0.0

    def iron_capacity(self, strength: float) -> float:
        """g of iron that a litre takes up until nothing of it is left; 0 where it does not count."""
        return self.moles_per_litre(strength) / self.whole * IRON if self.whole else 0.0

    def bites(self, strength: float) -> float:
        """Rate to plain steel in 10 % ferric chloride, both at 20 C and fresh."""
        return self.rate * (min(strength, self.level) / self.at) ** self.power


ADD = "Acid into water, never water into acid: slowly, stirred, cold; chloride too."
WEAR = "Goggles, nitrile gloves, apron; air drawn off, water and bicarbonate at hand."
VESSEL = "Glass or plastic with a lid of plastic, labelled: no metal near it, no tool over it that may rust."
BLEACH = "Never near chlorine bleach (chlorine gas)"
_FERRIC = ((0.0, 0.998), (10.0, 1.085), (20.0, 1.182), (30.0, 1.291), (40.0, 1.417), (42.0, 1.444))
_WASTE = (
    "Collect it, settled and neutral, in a labelled can: nickel, chromium and copper of the steels are in it. Where it goes is said by "
    "your local rules; not down the drain, not on the ground."
)

ETCHANTS: dict[str, Etchant] = {
    e.key: e
    for e in (
        Etchant(
            "ferric", "ferric chloride", "water", 1.0, 42.0, 10.0, 1.0, 0.6, 20.0, _FERRIC, FERRIC_MOLE, 2.0, 45.0, "ferric",
            (WEAR, ADD, "Dry chloride gets hot and fumes: small amounts into cold water.", VESSEL),
            (BLEACH, "never near ammonia together with bleach", "not shared with copper or brass: it plates out on the steel"),
            _WASTE,
        ),
        Etchant(
            "muriatic", "muriatic acid", "water", 3.0, 20.0, 12.5, 0.45, 1.0, 20.0,
            ((0.0, 0.998), (10.0, 1.047), (20.0, 1.098), (31.45, 1.16)), ACID_MOLE, 2.0, 35.0, "muriatic",
            (WEAR, ADD, "Outdoors or under a hood: its fumes rust every machine in the shop.", VESSEL),
            (BLEACH, "no aluminium or zinc in it (hydrogen)"),
            _WASTE,
        ),
        Etchant(
            "ferric+muriatic", "ferric chloride with a tenth of muriatic acid", "water", 1.0, 42.0, 10.0, 1.2, 0.6, 20.0, _FERRIC,
            FERRIC_MOLE, 2.0, 45.0, "ferric",
            (WEAR, ADD, "The acid last, a tenth of the volume: it keeps the bath clear.", VESSEL),
            (BLEACH, "never near ammonia together with bleach", "not shared with copper or brass"),
            _WASTE,
        ),
        Etchant(
            "nital", "nital (nitric acid in alcohol)", "alcohol", 0.5, 5.0, 3.0, 0.06, 1.0, 5.0, ((0.0, 0.789), (5.0, 0.815)),
            NITRIC_MOLE, 4.0, 25.0, "nital",
            (
                "Never above 5 % kept, never in a closed bottle, only small amounts, cold: stronger ones may explode.",
                WEAR,
                "Nitric acid into the alcohol, drop by drop, stirred, cold; never the alcohol into the acid. No flame, no spark.",
                "Glass, covered loosely; label it with the date, use it up or dilute it with much water the same week.",
            ),
            ("never with acetone or higher alcohols", "no flame near it"),
            "Diluted tenfold with water, then neutral with bicarbonate, then collected as your local rules say.",
        ),
        Etchant(
            "coffee", "instant coffee", "water", 4.0, 30.0, 10.0, 0.005, 0.0, 30.0, ((0.0, 0.998), (30.0, 1.09)), 0.0, 0.0, 60.0, "coffee",
            ("Hot water on the powder, cooled to hand warm; over an etched, degreased face that nobody touched.",),
            (),
            "Down the drain with water, unless a bath of acid went into it.",
        ),
        Etchant(
            "vinegar", "vinegar", "water", 3.0, 10.0, 5.0, 0.1, 1.0, 10.0, ((0.0, 0.998), (10.0, 1.012)), ACETIC_MOLE, 2.0, 60.0,
            "muriatic",
            ("Goggles; warm it in glass, air drawn off.",),
            (BLEACH,),
            "Neutral with bicarbonate, settled, collected as your local rules say: the steels' nickel and chromium are in it.",
        ),
        Etchant(
            "sulphuric", "sulphuric acid", "water", 3.0, 15.0, 10.0, 0.06, 1.0, 15.0, ((0.0, 0.998), (10.0, 1.066), (15.0, 1.102)),
            SULPHURIC_MOLE, 1.0, 60.0, "muriatic",
            (WEAR, "Acid into water, never water into acid: slowly, stirred, cold; it boils up where water meets it.", VESSEL),
            (BLEACH, "no copper tools", "never with organic solvents"),
            _WASTE,
        ),
    )
}  # fmt: skip
"""By key."""
