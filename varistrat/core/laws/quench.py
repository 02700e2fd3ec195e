"""The quenches that are told apart, from the fastest down."""

from typing import Literal, get_args

Quench = Literal["water", "fast_oil", "medium_oil", "slow_oil", "air"]
QUENCHES: tuple[Quench, ...] = get_args(Quench)
"""Fastest first."""
