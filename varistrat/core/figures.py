"""Numbers a shop can measure for itself and put in place of ours.

They are all declared in laws/numbers.py; a law is given the shop's `Numbers` and asks them `of` a figure.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Figure:
    """One replaceable number: `usual` within `low` to `high`; `group`: where it is shown."""

    key: str
    group: str
    label: str
    unit: str
    usual: float
    low: float
    high: float
    source: str
    hint: str = ""


@dataclass(frozen=True)
class Numbers:
    """A shop's own numbers by key; the usual ones for all others."""

    own: Mapping[str, float] = field(default_factory=dict)

    def of(self, figure: Figure) -> float:
        """The shop's own figure, or else the usual."""
        return self.own.get(figure.key, figure.usual)


USUAL = Numbers()
"""Of a shop that has measured nothing for itself."""
