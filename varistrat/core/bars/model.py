"""The validated models that starts and steps are: one class gives JSON, schema and form."""

from abc import abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BeforeValidator, Field, ValidationInfo, WithJsonSchema

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.identity import GivenId
from varistrat.core.bars.joints import NONE, Joints, not_welded
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.off_plan import OffPlan
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.put_in import PutIn
from varistrat.core.findings import Finding
from varistrat.core.limits import MAX_MM, MAX_TEXT, MAX_TURNS, MIN_MM
from varistrat.core.model import Model, shown
from varistrat.core.shop import ShopData, shop_of
from varistrat.core.steels import Steel, steel_key


def tidy(mm: float) -> float:
    """Two figures, as one would say it at the anvil."""
    return float(f"{mm:.2g}") if mm < 10 else float(round(mm, 1))


__all__ = [
    "ForgingStep",
    "Hand",
    "JoinedStart",
    "Mm",
    "Mm0",
    "Model",
    "Note",
    "PileStart",
    "Seed",
    "SignedMm",
    "Start",
    "SteelKey",
    "Step",
    "Turns",
    "Unevenness",
    "shown",
    "tidy",
]

Mm = Annotated[float, Field(ge=MIN_MM, le=MAX_MM)]
Mm0 = Annotated[float, Field(ge=0, le=MAX_MM)]
SignedMm = Annotated[float, Field(ge=-MAX_MM, le=MAX_MM)]
Turns = Annotated[float, Field(ge=0, le=MAX_TURNS)]
Seed = Annotated[int, Field(ge=0, le=2**31 - 1)]
Hand = Literal["right", "left"]
Note = Annotated[str, Field(max_length=MAX_TEXT)]


def _listed(value: object, info: ValidationInfo) -> str:
    return steel_key(value, shop_of(info).steels)


SteelKey = Annotated[str, BeforeValidator(_listed), WithJsonSchema({"type": "string", "format": "steel"})]


class Unevenness(Model):
    """How far from flat the hand leaves the layers: see `lift`."""

    amount: Mm0 = Field(**shown("Amount", "mm", "rms lift of the layers at mid-height"))
    wavelength: Mm = Field(**shown("Wavelength", "mm", "distance from one hump to the next"))
    seed: Seed = Field(**shown("Another throw", "", "another number gives another bar of the same hand"))

    def pull(self, p: Points, bar: Bar) -> None:
        """Undo the hand's unevenness on a rectangular bar, in place.

        Eight modes, each two oblique shears that leave their own phase unchanged, so
        each is exactly volume-keeping: derived in docs/physics.md#uneven.
        """
        if not self.amount:
            return
        rng = np.random.default_rng(self.seed)
        heading = rng.uniform(0, 2 * np.pi, 8)
        wave = 2 * np.pi / self.wavelength * rng.uniform(0.7, 1.4, 8)
        start = rng.uniform(0, 2 * np.pi, 8)
        # a / 2 with a = amount / 2
        quarter = self.amount / 4
        rise = np.pi / bar.thickness
        for th, k, p0 in zip(heading, wave, start, strict=True):
            cos, sin = float(np.cos(th) * k), float(np.sin(th) * k)
            for sign in (1.0, -1.0):
                c = p.x * cos
                c += p.y * sin
                c += p.z * (sign * rise)
                c += float(p0)
                np.cos(c, out=c)
                c *= quarter
                p.z -= c
                c *= sign * rise / float(k)
                p.x += c * float(np.cos(th))
                p.y += c * float(np.sin(th))
        p.clamp(bar.length, bar.width, bar.thickness)


@dataclass(frozen=True)
class HeatDemand:
    """What a step wants of the fire, and what it does to faces and skin.

    shear: the most its skin is sheared, 1 for a turn as long as its girth is about; ground: mm off every long face, or off those
    that meet, before anything is welded; under: a tool of its own; kept_clean: how the faces are kept clean in a weld; heats: the
    fewest it is done in.
    """

    shear: float = 0.0
    ground: float = 0.0
    under: Literal["", "hammer", "press", "roll"] = ""
    kept_clean: Literal["", "fluxed", "dry", "sealed"] = ""
    heats: int = 1


@dataclass(frozen=True)
class CorePart:
    """The part of a start that is a core: a run of layers between two heights above its underside, mm, or one of its bars;
    its steel, if it is one."""

    low: float = 0.0
    high: float = 0.0
    bar: int | None = None
    steel: str | None = None


Ends = tuple[float, float]
"""mm at the start and at the end of a bar."""


@dataclass(frozen=True)
class Otherwise:
    """A step done otherwise, in words, with the number that changed most."""

    step: "Step"
    says: str
    value: float


class Step(Model):
    """One thing done to a bar.

    A subclass says what the sizes become (`size`), where each point of the bar after was
    in the bar before (`pull`), what to be careful of (`checks`) and how to tell the
    smith (`instruction`). It never sees the scale that came off first: `before` is
    already the scaled bar. Nothing else in the tree knows a step by name.
    """

    title: ClassVar[str] = ""
    blurb: ClassVar[str] = ""
    """Its name and what it does, as shown where it is chosen."""
    joins: ClassVar[bool] = False
    """Whether faces of the bar are welded to one another here."""
    seams: ClassVar[bool] = False
    """Whether pieces meet askew of their layers here: it then tells the joints (`Points.meet`)."""

    surface_figure: ClassVar[bool] = False
    """Whether its figure lies in how layers come up to the face, and `undoes_surface`: whether this winds them up again."""
    undoes_surface: ClassVar[bool] = False

    presses: ClassVar[bool] = False
    """Whether it presses a can's filling solid, and `opens_can`: whether it takes the can off, so that the fire gets in."""
    opens_can: ClassVar[bool] = False
    plain: ClassVar[bool] = False
    """Whether a laminate is still one afterwards: its layers flat and whole."""
    shapes: ClassVar[bool] = True
    """Whether it makes the pattern, and so the bar's name."""
    spreads: ClassVar[bool] = False
    """Whether the bar is free to spread under the tool as it comes down."""
    by_hand: ClassVar[bool] = False
    """Whether a new one begins with the hammer's usual unevenness."""
    cuts: ClassVar[bool] = False
    """Whether the bar is cut across, so that its bad ends come off first."""

    ground_after: ClassVar[bool] = False
    """Whether what it grinds off comes off after its fire, not before."""

    sized: ClassVar[bool] = False
    """Whether its fields `width` and `thickness` are the bar's own after it."""

    fire: ClassVar[Literal["", "weld", "join", "forge", "twist"]] = ""
    """What heat it is done at; `join`: a welding heat too, unless a weld follows."""

    id: GivenId = ""
    scale: Mm0 = Field(0.0, **shown("Scale lost", "mm", "off every long face, before this step", quiet=True))
    note: Note = Field("", **shown("Note", quiet=True))

    @abstractmethod
    def size(self, before: Bar) -> Change:
        """The bar after and the volumes lost or gained. Raises InputError with a field path."""

    def reaching_further(self, length: float, before: Bar) -> "Sequence[Otherwise]":
        """Ways to do it otherwise so that the same bar comes out `length` mm long or more, the least change first; none by default."""
        return ()

    def as_done(self, before: Bar, width: float, thickness: float) -> "Step":
        """The step as it was done, where the bar came out `width` x `thickness` mm; `before`: already without scale."""
        return self.model_copy(update={"width": width, "thickness": thickness}) if self.sized else self

    def off_plan(self) -> Sequence[OffPlan]:
        """Numbers of it that may come out otherwise and that the finished face shows; none by default."""
        return ()

    def made_off_plan(self, off: OffPlan, change: float, at: float) -> "Step":
        """The step with one of `off_plan` off by `change`: the field of its name. at: where the blade's middle lies, a share of the bar's
        length, for those that must leave the face there as it is."""
        return self.model_copy(update={off.name: off.made(change)})

    @abstractmethod
    def length_before(self, length: float, before: Bar) -> float:
        """The shortest bar, mm, of the section of `before` (already without scale; its own length does not count) that this step makes
        `length` mm long: the inverse of `size`. Raises InputError with the field when none does, and with what would."""

    def reaching(self, length: float, before: Bar) -> "Step":
        """The step as it must be done for a bar `length` mm long after it, where that takes more than a longer bar."""
        return self

    @abstractmethod
    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        """Carry points of the bar after back to the bar before, in place."""

    def ends(self, bad: Ends, before: Bar, after: Bar) -> Ends:
        """How much of either end of the bar after is not good steel, mm, from how much of the bar before was."""
        if self.cuts:
            return 0.0, 0.0
        longer = after.length / before.length
        return bad[0] * longer, bad[1] * longer

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        """What a smith should know of the step done to this bar; empty when there is nothing to say."""
        return []

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        """What it does to faces not yet welded: (what is open afterwards, what to be careful of). Loose ones stand no fire but a weld."""
        if joints.can and self.presses:
            return NONE, []
        if joints.bare and (self.fire or self.joins):
            return joints, [not_welded(self.title)]
        return (joints if joints.bare else NONE), []

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        """What it wants of the fire beyond the kind of heat (`fire`)."""
        return HeatDemand()

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        """The line through the layers after the step: see layer_line.py. Thinned with the bar, unless a step says otherwise."""
        return line.forged(before, after)

    @abstractmethod
    def instruction(self, before: Bar, after: Bar) -> str:
        """One or two sentences for the route card."""

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        """Fields of a new one that suit the bar it is put on: a mild change, to be adjusted."""
        return {}

    @classmethod
    def opposite(cls, step: dict[str, Any]) -> dict[str, Any]:
        """The same step of a mirrored bar, as JSON."""
        return step

    def sheet_between(self) -> tuple[str, float] | None:
        """(steel, thickness mm) of a sheet it lays between two pieces of the bar, flat in its middle."""
        return None

    def brief(self) -> str:
        """A word or two for what it does, beside its title."""
        return ""

    def unevenness(self) -> Unevenness | None:
        """Unevenness applied after the step's own movement, if any."""
        return None

    def steels(self) -> set[str]:
        """Steel this step brings in."""
        return set()

    def put_in(self, before: Bar) -> list[PutIn]:
        """Pieces of the rack that it brings in."""
        return []


def kind_of(part: "Step | Start") -> str:
    """How it is called in files: the field `kind` that every step and start has."""
    return str(part.kind)  # type: ignore[union-attr]


class ForgingStep(Step):
    """A step done hot under a tool: it may leave the layers uneven."""

    uneven: Unevenness | None = Field(None, **shown("Left uneven by hand", "", "a flat laminate shows figure because of it"))

    def unevenness(self) -> Unevenness | None:
        return self.uneven


def said(size: Bar) -> tuple[float, float, float]:
    """(length, width, thickness) as one would write them down, mm."""
    return round(size.length, 1), round(size.width, 1), round(size.thickness, 1)


class Start(Model):
    """What a bar begins as: flat piles of its own (`piles`), or other bars (`children`)."""

    title: ClassVar[str] = ""
    blurb: ClassVar[str] = ""
    seams: ClassVar[bool] = False
    """Whether bars meet in it: it then tells their joints (`Points.meet`)."""
    canned: ClassVar[bool] = False
    """Whether a can keeps the fire from it, its filling loose until it is pressed."""

    id: GivenId = ""
    note: Note = Field("", **shown("Note", quiet=True))

    @property
    def peels(self) -> bool:
        """Whether its can comes off as soon as it is pressed solid; else a step opens it."""
        return False

    @abstractmethod
    def size(self, bars: Sequence[Bar] = ()) -> Change:
        """The bar it begins as, from the finished bars that go into it."""

    def lengths(self, length: float, bars: Sequence[Bar]) -> Sequence[float]:
        """How long each bar that goes into it must be, mm, for it to begin `length` mm long; their sections as they are."""
        return [length] * len(bars)

    @abstractmethod
    def density(self, steels: Mapping[str, Steel], bars: Sequence[Bar] = (), densities: Sequence[float] = ()) -> float:
        """Volume-weighted, kg/m3, from those of the bars that go into it."""

    def work(self) -> int:
        """What carrying a point through it costs, in steps of forging."""
        return 1

    def checks(self, bar: Bar, bars: Sequence[Bar] = ()) -> list[Finding]:
        """What a smith should know of the bar as begun; `bars`: the finished ones that go into it."""
        return []

    @abstractmethod
    def instruction(self, bar: Bar) -> str:
        """One or two sentences for the route card."""

    def children(self) -> Sequence[Any]:
        """The recipes (BarRecipe) of the bars that go into it."""
        return ()

    def joints(self) -> Joints:
        """The faces in it that only lie on one another."""
        return NONE

    def piles(self) -> tuple[tuple[tuple[str, float], ...], ...]:
        """Layers of each of its own piles: (steel, thickness mm) from the bottom up."""
        return ()

    def one_steel(self) -> str | None:
        """Its steel, when it is of one."""
        return None

    def put_in(self, length: float, steels: Mapping[str, Steel]) -> list[PutIn]:
        """What goes in beside the layers of its piles, begun `length` mm long."""
        return []

    def line(self, lines: Sequence[LayerLine], bars: Sequence[Bar], shop: ShopData) -> LayerLine:
        """The line through the layers it begins with, from those of the bars that go into it."""
        return LayerLine.up(self.piles(), shop)

    def core_part(self, bars: Sequence[Bar], plain: bool, at_edge: Callable[[], Array]) -> CorePart | None:
        """The part meant for the edge, between or beside the others. plain: no step patterns it; at_edge:
        which bar is met along the edge."""
        return None

    @classmethod
    @abstractmethod
    def fresh(cls, bar: dict[str, Any], size: Bar, mirrored: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        """A bar (as JSON) that begins so, in place of one (its recipe as JSON, its finished size);
        `mirrored` makes a bar's mirror image."""

    @classmethod
    def opposite(cls, start: dict[str, Any], bar: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        """The same start of a mirrored bar, as JSON; `bar` mirrors a bar that goes into it."""
        return start

    def core(self, bars: Sequence[Bar] = ()) -> tuple[float, float] | None:
        """(bottom, top) of the core above the start's underside, mm, when it is clad, core and clad."""
        return None


class PileStart(Start):
    """A start with flat piles of its own."""

    @abstractmethod
    def heights(self, p: Points, bar: Bar) -> tuple[Array, NDArray[np.int16] | None]:
        """(height in the pile, which of its piles) of points of the bar; None: the only one."""


class JoinedStart(Start):
    """A start made of other bars."""

    @abstractmethod
    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        """Which child each point lies in; a joint belongs to the later one."""

    @abstractmethod
    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        """Carry points of that child from this bar's frame to the child's own, in place."""
