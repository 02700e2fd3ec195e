"""One operation of the job, and what a kind of operation is: when it occurs, what is done, how long it takes.

Each kind is a file of its own in `operations/`; the registry there is their order within a step of the work.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar, Literal

from varistrat.core.bars.forged import Stage
from varistrat.core.design.worked import Worked
from varistrat.core.figures import Figure
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.stock.backwards import Wanted
from varistrat.core.stock.sheet import StockSheet

Place = Literal["saw", "fire", "grinder", "bench", "kiln", "bath", "glue"]
ALONE: tuple[Place, ...] = ("kiln", "bath", "glue")
"""Where something goes on while nobody stands there. A forge with its gas on is not among them."""


@dataclass(frozen=True)
class Part:
    """What a kind says of one of its operations: minutes with hands on it, and those that it runs alone."""

    title: str
    say: str
    attended: float
    alone: float = 0.0
    name: str = ""
    """Tells several of one kind at one step apart."""


@dataclass(frozen=True)
class Operation:
    """id: the bar's address and kind ("0.2:weld-s4", "blade:sand"), kept through small changes of the plan; bar: its id, empty for the
    blade; step: its id, where it is of one. Minutes; spread: geometric standard deviation of real over planned; after: ids."""

    id: str
    kind: str
    title: str
    say: str
    bar: str
    step: str | None
    place: Place
    attended: float
    alone: float
    spread: float
    after: tuple[str, ...]


@dataclass(frozen=True)
class Job:
    """What the kinds are asked about: the design worked out, what it asks of the stock, its heats by bar and step."""

    worked: Worked
    sheet: StockSheet
    fires: Mapping[tuple[str, str], Fired]

    def minutes(self, figure: Figure) -> float:
        """The shop's own, or the usual."""
        return self.worked.shop.numbers.of(figure)


class Kind:
    """A kind of operation. Each hook gives the operations of this kind at that point of the work, in order; none by default."""

    key: ClassVar[str]
    place: ClassVar[Place]
    spread: ClassVar[float] = 1.3

    def begins(self, job: Job, wanted: Wanted) -> list[Part]:
        """Before the first step of a bar."""
        return []

    def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
        """At one of its steps."""
        return []

    def blade(self, job: Job) -> list[Part]:
        """Once the bar is finished."""
        return []
