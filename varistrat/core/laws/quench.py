"""The quenches that are told apart, from the fastest down."""

from typing import Literal, get_args

Quench = Literal["water", "fast_oil", "medium_oil", "slow_oil", "air"]
QUENCHES: tuple[Quench, ...] = get_args(Quench)
"""Fastest first."""
SAY_QUENCH: dict[Quench, str] = {
    "water": "brine or water",
    "fast_oil": "fast oil",
    "medium_oil": "medium oil",
    "slow_oil": "slow, warm oil",
    "air": "still air or cold plates",
}
"""Each in the words of a sentence."""
