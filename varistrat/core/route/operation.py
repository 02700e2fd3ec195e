"""One operation of the job, and what a kind of operation is: when it occurs, what is done, how long it takes.

Each kind is a file of its own in `operations/`; the registry there is their order within a step of the work.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar, Literal

from varistrat.core.bars.forged import Stage
from varistrat.core.design.worked import Worked
from varistrat.core.figures import Figure, Numbers
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.stock.backwards import Wanted
from varistrat.core.stock.sheet import StockSheet

Place = Literal["saw", "fire", "grinder", "bench", "kiln", "bath", "glue"]
ALONE: tuple[Place, ...] = ("kiln", "bath", "glue")
"""Where something goes on while nobody stands there. A forge with its gas on is not among them."""


Quantity = Literal[
    "length", "width", "thickness", "diameter", "mass", "heats", "minutes", "celsius", "turns", "count", "hardness", "height", "depth"
]
UNITS: dict[Quantity, str] = {
    "length": "mm", "width": "mm", "thickness": "mm", "diameter": "mm", "mass": "g", "heats": "", "minutes": "min", "celsius": "C",
    "turns": "", "count": "", "hardness": "HRC", "height": "mm", "depth": "um",
}  # fmt: skip
"""In which a quantity is kept and told."""


@dataclass(frozen=True)
class Target:
    """What is to be reached, in the unit of its quantity, give or take `tolerance`; says: of what, where that must be told."""

    quantity: Quantity
    value: float
    tolerance: float
    says: str = ""
    usual: float | None = None
    """What it would come to by our own numbers, where the shop's are others."""
    learned: bool = True
    """Whether what is measured of it says something of the shop's own numbers."""

    @property
    def unit(self) -> str:
        """Of its quantity."""
        return UNITS[self.quantity]


@dataclass(frozen=True)
class Check:
    """A question to be answered by looking, what a good answer looks like, and what a bad one means and asks for; applies: else it is only
    there so that answers keep their places."""

    ask: str
    good: str
    bad: str
    applies: bool = True


@dataclass(frozen=True)
class Timer:
    """minutes: how long it runs; again: it begins anew each time, until the operation is done."""

    says: str
    minutes: float
    again: bool = False


@dataclass(frozen=True)
class Part:
    """What a kind says of one of its operations: minutes with hands on it, and those that it runs alone; what is to be reached, looked
    at, taken care of and timed; by_heat: what is done in each heat, lay_out: what must lie ready."""

    title: str
    say: str
    attended: float
    alone: float = 0.0
    name: str = ""
    """Tells several of one kind at one step apart."""
    targets: tuple[Target, ...] = ()
    checks: tuple[Check, ...] = ()
    cautions: tuple[str, ...] = ()
    timers: tuple[Timer, ...] = ()
    by_heat: tuple[str, ...] = ()
    lay_out: str = ""


@dataclass(frozen=True)
class Operation:
    """id: the bar's address and kind ("0.2:weld-s4", "blade:sand"), kept through small changes of the plan; bar: its id, empty for the
    blade; step: its id, where it is of one. Minutes; spread: geometric standard deviation of real over planned; after: ids; bars: how many
    alike are still one piece of steel then; usual: minutes attended by our own numbers, whatever the shop's are."""

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
    targets: tuple[Target, ...] = ()
    checks: tuple[Check, ...] = ()
    cautions: tuple[str, ...] = ()
    timers: tuple[Timer, ...] = ()
    by_heat: tuple[str, ...] = ()
    lay_out: str = ""
    bars: int = 1
    usual: float = 0.0

    @property
    def told(self) -> str:
        """What is to be done, and taken care of."""
        heats = f"Pass by pass, a heat each: {' | '.join(self.by_heat)}." if self.by_heat else ""
        return " ".join(filter(None, (self.say, heats, self.lay_out, *self.cautions)))


@dataclass(frozen=True)
class Job:
    """What the kinds are asked about: the design worked out, what it asks of the stock, its heats by bar and step; whose numbers."""

    worked: Worked
    sheet: StockSheet
    fires: Mapping[tuple[str, str], Fired]
    numbers: Numbers

    def alike(self, wanted: Wanted, step: int = 0) -> int:
        """How many bars are still one piece with this one in its `step`th step, from 1; at 0: when it begins."""
        mine = (t for t in self.sheet.together if t.bars[0] == wanted.address and step <= t.steps)
        return next((len(t.bars) for t in mine), 1)

    def cut(self, wanted: Wanted) -> float:
        """mm that the pile of it, and of all that are one with it, is cut to: as the design has it."""
        return self.sheet.cut_to(wanted.address)

    def minutes(self, figure: Figure) -> float:
        """The shop's own, or the usual."""
        return self.numbers.of(figure)


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
