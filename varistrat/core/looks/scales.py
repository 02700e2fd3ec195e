"""Faces along the scale of each feature, so that a word has a picture; chosen by benchmarks/scales.py from what can be forged."""

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from varistrat.core.looks.space import Candidate

PLACES = (0.0, 0.25, 0.5, 0.75, 1.0)
STEEL_AND_WAY = ("family", "dark", "bright")
NEAR = 0.15
"""How near a face is to its place, share of the scale."""


@dataclass(frozen=True)
class Example:
    """A face at a place (0 to 1) of a scale."""

    at: float
    candidate: Candidate


@cache
def examples() -> dict[str, tuple[Example, ...]]:
    """By feature, from the low end to the high one."""
    said = tomllib.loads(Path(__file__).with_suffix(".toml").read_text())
    return {
        key: tuple(
            Example(e["at"], Candidate(values={k: float(v) for k, v in e["values"].items()}, **{k: e[k] for k in STEEL_AND_WAY if k in e}))
            for e in run
        )
        for key, run in said.items()
    }
