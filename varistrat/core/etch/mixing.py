"""Mixing a bath, in either direction: from the strength wanted to the volumes, or from volumes to the strength there is.

Volumes are taken to add up (less than 2 % off); masses add up truly. docs/physics.md#bath.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from varistrat.core.errors import InputError
from varistrat.core.etch.etchants import ETCHANTS, ETHANOL, MOST_LITRES, WATER, What

BAUME = 145.0
"""Modulus of the scale for what is heavier than water, 60 F."""
CRYSTALS: dict[str, float] = {"hexahydrate": 60.0, "anhydrous": 100.0}
"""% of ferric chloride in them."""
Stock = Literal["be", "percent", "hexahydrate", "anhydrous"]


@dataclass(frozen=True)
class StockSolution:
    """What stands on the shelf: % by weight, and g/ml (None: dry)."""

    strength: float
    density: float | None


def of_baume(degrees: float) -> StockSolution:
    """Ferric chloride by its degrees Baume. Raises InputError outside 5 to 45."""
    if not 5 <= degrees <= 45:
        raise InputError.at("stock", f"{degrees:g} degrees Be is out of reach", "give 5 to 45; 42 is usual")
    density = BAUME / (BAUME - degrees)
    percents, densities = zip(*ETCHANTS["ferric"].density, strict=True)
    return StockSolution(float(np.interp(density, densities, percents)), density)


STOCKS: dict[What, StockSolution] = {
    "ferric": of_baume(42.0),
    "ferric+muriatic": of_baume(42.0),
    "muriatic": StockSolution(31.45, 1.16),
    "nital": StockSolution(70.0, 1.413),
    "sulphuric": StockSolution(96.0, 1.84),
    "vinegar": StockSolution(25.0, 1.03),
}
"""As they are usually sold."""


@dataclass(frozen=True)
class Mix:
    """stock, solvent: ml (stock dry: 0 ml); grams of each; strength: % by weight that comes out; litres in all."""

    what: What
    stock: float
    solvent: float
    stock_grams: float
    solvent_grams: float
    strength: float
    litres: float


def stock_of(what: What, kind: Stock = "be", value: float = 42.0) -> StockSolution:
    """What it is mixed from. Raises InputError for coffee, or for what does not go with it."""
    if what == "coffee":
        raise InputError.at("what", "coffee is not mixed from a stock", "take powder and hot water")
    if kind in CRYSTALS:
        if not what.startswith("ferric"):
            raise InputError.at("stock", f"{kind} is ferric chloride", "choose the acid's own strength")
        return StockSolution(CRYSTALS[kind], None)
    if kind == "be" and what.startswith("ferric"):
        return of_baume(value)
    usual = STOCKS[what]
    if kind == "be" or value == usual.strength:
        return usual
    if not 1 <= value <= usual.strength + 5:
        raise InputError.at("stock", f"a stock of {value:g} % is out of reach", f"give 1 to {usual.strength:g} %")
    etchant = ETCHANTS[what]
    if value <= etchant.density[-1][0]:
        return StockSolution(value, etchant.grams_per_ml(value) if what != "nital" else 1 + (usual.density or 1) * value / 170)
    # between the last that is tabled and what is sold
    last, (rho_last, rho) = etchant.density[-1][0], (etchant.density[-1][1], usual.density or 1.0)
    return StockSolution(value, rho_last + (rho - rho_last) * (value - last) / (usual.strength - last))


def mix_for(what: What, strength: float, litres: float, stock: StockSolution) -> Mix:
    """How much of the stock, and of water or alcohol, for so many litres of this strength. Raises InputError out of reach."""
    etchant = ETCHANTS[what]
    if not etchant.weakest <= strength <= etchant.strongest:
        cure = f"choose {etchant.weakest:g} to {etchant.strongest:g} %"
        if what == "nital":
            cure += ": more than 5 % must never stand in alcohol. 3 to 5 % and longer does the same"
        raise InputError.at("strength", f"{strength:g} % is out of reach for {etchant.says}", cure)
    if strength >= stock.strength:
        raise InputError.at("strength", f"the stock itself has {stock.strength:.3g} %", "choose less, or a stronger stock")
    if not 0 < litres <= MOST_LITRES:
        raise InputError.at("litres", f"{litres:g} litres is out of reach", f"give up to {MOST_LITRES:g}")
    rho = WATER if etchant.solvent == "water" else ETHANOL
    if stock.density is None:
        whole = 1000 * litres * etchant.grams_per_ml(strength)
        dry = whole * strength / stock.strength
        return Mix(what, 0.0, (whole - dry) / rho, dry, whole - dry, strength, litres)
    volume = 1000 * litres
    part = volume * strength * rho / (stock.density * (stock.strength - strength) + strength * rho)
    return Mix(what, part, volume - part, part * stock.density, (volume - part) * rho, strength, litres)


def mixed(what: What, stock: StockSolution, stock_ml: float, solvent_ml: float) -> Mix:
    """What comes out of these volumes. Raises InputError for none, or a dry stock (weigh that). It may be too strong to keep."""
    if stock.density is None or stock_ml <= 0 or solvent_ml < 0:
        raise InputError.at("stock", "give how much of a liquid stock, and of what it goes into", "in ml")
    if (litres := (stock_ml + solvent_ml) / 1000) > MOST_LITRES:
        raise InputError.at("stock_ml", f"together it is {litres:g} litres, out of reach", f"give up to {MOST_LITRES:g} litres")
    rho = WATER if ETCHANTS[what].solvent == "water" else ETHANOL
    of_stock, of_solvent = stock_ml * stock.density, solvent_ml * rho
    strength = of_stock * stock.strength / (of_stock + of_solvent)
    return Mix(what, stock_ml, solvent_ml, of_stock, of_solvent, strength, litres)


def keeping(mix: Mix) -> str:
    """Whether it may be kept; empty when nothing speaks against it. What may not is never proposed to be."""
    if mix.what == "nital" and mix.strength > ETCHANTS["nital"].strongest:
        return (
            f"{mix.strength:.3g} % is far above what may stand in alcohol: do not mix it. Use 3 to 5 % and longer. Whoever mixes more "
            "mixes only what is used at once, open, cold, and never keeps it."
        )
    return ""
