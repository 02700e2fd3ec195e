"""The work of getting a piece out of a bar: none where its section is there; else ripped, and ground or forged thinner.

What it costs is the shop's own hour and the steel that is no bar any more. docs/physics.md#cuts.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil, log

from varistrat.core.figures import Numbers
from varistrat.core.laws.numbers import AT_ANVIL, FACES, SAW, SAW_SET, STEEL_PRICE, WAGE
from varistrat.core.steels import Steel
from varistrat.core.stock.cuts import SLACK, Piece, StockBar, Work

PER_HEAT = 1.3
"""Thickness before over thickness after that one heat under hammer or press brings such a thin flat to; indicative."""


LEAST_PRICE = 0.5
"""Of a kilogram: steel that costs nothing is not cut up for it."""


@dataclass(frozen=True)
class Making:
    """how: in words, empty where nothing is to be done; minutes of work; lost: mm3 of steel that is neither piece nor bar then."""

    how: str
    minutes: float
    lost: float


def making(bar: StockBar, piece: Piece, numbers: Numbers) -> Making:
    """What it takes to make this piece of a bar that serves it."""
    if piece.form == "round":
        return Making("", 0.0, 0.0)
    (thin, wide), (wanted, across) = sorted((bar.width, bar.thickness)), sorted((piece.width, piece.thickness))
    how, minutes, lost = [], 0.0, 0.0
    if wide > across + SLACK:
        how.append(f"rip to {across:.4g} mm")
        minutes += numbers.of(SAW_SET) + numbers.of(SAW) * piece.length * thin / 100
        lost += (wide - across) * thin * piece.length
        wide = across
    if thin > wanted + SLACK:
        off = (thin - wanted) * wide * piece.length
        ground = numbers.of(FACES) * off / 1000
        forged = numbers.of(AT_ANVIL) * ceil(log(thin / wanted) / log(PER_HEAT))
        how.append(f"grind to {wanted:.4g} mm" if ground <= forged else f"grind or forge to {wanted:.4g} mm")
        minutes += min(ground, forged)
        lost += off
    return Making(", ".join(how), minutes, lost)


def cost_of(made: Making, steel: Steel, numbers: Numbers) -> float:
    """In the shop's own money."""
    price = numbers.of(STEEL_PRICE) if steel.price is None else steel.price
    return made.minutes / 60 * numbers.of(WAGE) + made.lost * steel.density * 1e-9 * price


def work_of(steels: Mapping[str, Steel], numbers: Numbers) -> Work:
    """What `cut_list` weighs the making of a piece by: mm3 of its steel, as the shop pays for it, that cost as much."""

    def work(bar: StockBar, piece: Piece) -> float:
        steel = steels[piece.steel]
        price = numbers.of(STEEL_PRICE) if steel.price is None else steel.price
        per_mm3 = max(price, LEAST_PRICE) * steel.density * 1e-9
        return cost_of(making(bar, piece, numbers), steel, numbers) / per_mm3

    return work
