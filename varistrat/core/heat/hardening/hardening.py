"""The hardening of one blade: which heat, quench and temper suit its steels, and what readings change.

Everything the smith leaves open is worked out from the steels as the fire left them (their carbon), the
section of the blade and the readings taken so far. The steps in words are in plan.py. docs/physics.md#hardening.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from varistrat.core.cached import cached_property
from varistrat.core.heat.hardening.edge import edge_left
from varistrat.core.heat.hardening.straighten import Move, State, Straightness, bend, moves
from varistrat.core.laws.numbers import HARDNESS, OVEN_OFF
from varistrat.core.laws.quench import Quench
from varistrat.core.laws.temper import RANGE, TABLE_HOURS, TemperLaw, together
from varistrat.core.laws.transform import ac1
from varistrat.core.model import Model, shown
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels import Steel
from varistrat.core.steels.ceiling import ceiling
from varistrat.core.steels.estimate import hardening_range
from varistrat.core.steels.hardening import Quenched, can_harden, common, common_quench, hardening_heat, quenched

Celsius = Annotated[float, Field(ge=0, le=1300)]
Hrc = Annotated[float, Field(ge=10, le=70)]
BY_LAW, BY_READING = 1.5, 1.0
"""How surely hardness is predicted, and read off one spot, HRC: the two are weighed by their squares."""
ELSEWHERE = 0.7
"""What readings do not tell of another temper or another spot, HRC."""
REACHED = 0.5
"""Within so much the hardness wanted counts as reached, HRC: half a point is what readings tell apart."""
COLD_FROM = 0.12
"""Retained austenite (the most reckoned with) from which the cold pays."""
MAGNET = 770.0
"""Iron loses its magnetism here, C; steel of 0.6 % carbon and more as it transforms, a little before."""
BY_EYE_MOST = 880.0
"""The hottest that is judged by eye from the magnet on, C: beyond it colours are too far from the mark; indicative."""
ENOUGH = 0.5
"""Carbon with which a steel that does not harden by itself makes an edge, %: martensite of 61 HRC."""


class Tempered(Model):
    """A temper that was done: at what the oven said (C), for how long in all (h); hardness read, run colour seen (C of it)."""

    celsius: Annotated[float, Field(ge=100, le=700)]
    hours: Annotated[float, Field(gt=0, le=48)] = 2.0
    hrc: Annotated[list[Hrc], Field(max_length=20)] = []
    colour: Annotated[float, Field(ge=190, le=360)] | None = None


class Hardened(Model):
    """What was found after the quench: hardness read at spots of the edge, what a file does, how it bent.

    `bow`: over the whole length, mm, `hollow` the face that is hollow; `straight`: read at several places (straighten.py).
    """

    hrc: Annotated[list[Hrc], Field(max_length=20)] = []
    file: Literal["skates", "slips", "bites"] | None = None
    bow: Annotated[float, Field(ge=0, le=100)] | None = None
    hollow: Literal["left", "right"] | None = None
    straight: Straightness = Straightness()


class Hardening(Model):
    """What the smith wants and has done; what is left out is worked out."""

    school: Literal["kiln", "magnet"] = Field("kiln", **shown("Heated"))
    bevels: Literal["before", "after"] = Field("before", **shown("Bevels ground"))
    back: Literal["even", "soft"] = Field("even", **shown("The back"))
    wanted: Annotated[float, Field(ge=40, le=67)] = Field(60.0, **shown("Hardness wanted at the edge", "HRC"))
    celsius: Celsius | None = Field(None, **shown("Harden from", "C"))
    soak: Annotated[float, Field(ge=0, le=240)] | None = Field(None, **shown("Soak at heat", "min"))
    quench: Quench | None = Field(None, **shown("Quench"))
    guarded: Literal["bare", "paste", "foil"] = Field("bare", **shown("In the kiln", "", "bare steel loses carbon in air"))
    edge: Annotated[float, Field(gt=0, le=30)] | None = Field(None, **shown("Edge left for hardening", "mm"))
    cold: Literal["auto", "yes", "no"] = Field("auto", **shown("Cold after the quench"))
    hardened: Hardened = Hardened()
    tempered: Annotated[list[Tempered], Field(max_length=12)] = []


@dataclass(frozen=True)
class Part:
    """One steel of the blade: its carbon as the fire left it, whether it lies at the edge, and how it hardens.

    `quenched`: in the bath of the plan, at the edge as thick as it is left there, elsewhere as thick as the spine; `middle`: at the spine.
    `hardens`: more than half of it becomes martensite.
    """

    steel: Steel
    carbon: float
    edge: bool
    hardens: bool
    quenched: Quenched | None
    middle: Quenched | None = None


@dataclass(frozen=True)
class BladeToHarden:
    """steels of the blade with the carbon they ended at; those at the edge; sizes when hardened, mm; mass g. materials:
    every one in it, also off the line; patterned: its layers are no core and clad, and any of them may come to the edge; finished: how
    thick the ground edge is, mm; whole: how long it is with its tang, mm; lopsided: how far what hardens lies to one side, 0 to 1."""

    carbon: Mapping[str, float]
    edge_steels: tuple[str, ...]
    spine: float
    length: float
    width: float
    mass: float
    materials: tuple[str, ...] = ()
    patterned: bool = False
    finished: float = 0.0
    whole: float = 0.0
    lopsided: float = 0.0


@dataclass(frozen=True)
class BladeHardening:
    """A hardening worked out, with the steels and numbers of one shop."""

    said: Hardening
    blade: BladeToHarden
    shop: ShopData = AS_SHIPS

    @cached_property
    def _carbons(self) -> dict[str, float]:
        return {
            k: self.blade.carbon.get(k, self.shop.steels[k].share("C"))
            for k in dict.fromkeys([*self.blade.carbon, *self.blade.edge_steels])
        }

    @cached_property
    def hardeners(self) -> tuple[str, ...]:
        """Keys of the steels in the blade that can harden with the carbon they have."""
        return tuple(k for k, c in self._carbons.items() if can_harden(self.shop.steels[k], c))

    @property
    def materials(self) -> list[Steel]:
        """Everything that goes into the fire, what does not harden too."""
        return [self.shop.steels[k] for k in dict.fromkeys([*self.blade.materials, *self._carbons])]

    @cached_property
    def ceiling(self) -> float:
        """The hottest any of it may be, C."""
        return ceiling(self.materials)

    @cached_property
    def taken_up(self) -> dict[str, float]:
        """Carbon of those that harden only by what they took up from the rest, %."""
        own = {k: self.shop.steels[k] for k in self.hardeners if not self.shop.steels[k].hardening}
        return {k: c for k, s in own.items() if (c := self._carbons[k]) >= ENOUGH and c > s.share("C") + 0.05}

    @cached_property
    def asked(self) -> tuple[str, ...]:
        """Those the heat and the quench must suit (see `asked_of`)."""
        at = tuple(k for k in self.hardeners if k in self.blade.edge_steels)
        return asked_of(at, self.hardeners if self.blade.patterned else (), self.ranges, self.ceiling) or self.hardeners

    @cached_property
    def ranges(self) -> dict[str, tuple[float, float]]:
        """Austenitising range of each that hardens, C: its own, or by its carbon for one that has none."""
        return {
            k: self.shop.steels[k].austenitise or hardening_range({**self.shop.steels[k].composition, "C": self._carbons[k]})
            for k in self.hardeners
        }

    @cached_property
    def window(self) -> tuple[float, float] | None:
        """That suits all that is asked to harden, and melts nothing; None when there is none."""
        return common([self.ranges[k] for k in self.asked], self.ceiling)

    @cached_property
    def lead(self) -> str | None:
        """The steel that decides: the hardenable one at the edge, of highest carbon."""
        at = [k for k in self.blade.edge_steels if k in self.hardeners] or list(self.hardeners)
        return max(at, key=lambda k: self._carbons[k]) if at else None

    @property
    def carbon_of_lead(self) -> float:
        """%, as the fire left it."""
        return self._carbons[self.lead] if self.lead else 0.0

    @cached_property
    def heat(self) -> float:
        """C: the smith's, or the multiple of five in the window where carbon in solution lies best; in the edge's own range without one."""
        if self.said.celsius is not None:
            return self.said.celsius
        low, high = self.window or self.ranges.get(self.lead or "", (800.0, 820.0))
        low, high = min(low, self.ceiling), min(high, self.ceiling)
        steels = [(self.shop.steels[k], self._carbons[k]) for k in self.asked]
        return hardening_heat(low, high, (low + high) / 2, steels, self.soak)

    @cached_property
    def soak(self) -> float:
        """Minutes at heat once it is there: what the slowest asks for."""
        if self.said.soak is not None:
            return self.said.soak
        asked = [sum(s) / 2 for k in self.asked if (s := self.shop.steels[k].soak)]
        return float(round(max(asked))) if asked else 8.0

    @property
    def to_cold(self) -> float:
        """How far down it is cooled, C."""
        return -75.0 if self.cold else 20.0

    @cached_property
    def cold(self) -> bool:
        """Whether it goes into the cold: only when the austenite left asks for it."""
        if self.said.cold != "auto":
            return self.said.cold == "yes"
        return any(self._much_left(k) and self.shop.steels[k].share("Cr") > 4 for k in self.asked)

    @cached_property
    def cold_would_help(self) -> bool:
        """Whether so much austenite is left at the edge that it is worth going into the cold."""
        return any(self._much_left(k) for k in self.asked)

    def _much_left(self, key: str) -> bool:
        left = self._quench_one(key, self.heat).retained
        return left is not None and left[1] > COLD_FROM

    def _quench_one(
        self, key: str, celsius: float, cold: float = 20.0, thickness: float | None = None, bath: Quench | None = None
    ) -> Quenched:
        return quenched(
            self.shop.steels[key], celsius, self.soak, thickness or self.blade.spine, self._carbons[key], cold, bath, self.shop.numbers
        )

    @cached_property
    def parts(self) -> tuple[Part, ...]:
        """What becomes of every steel of the blade, at the edge and in the middle of the spine."""
        out = []
        for k, c in self._carbons.items():
            edge = k in self.blade.edge_steels
            middle = self._quench_one(k, self.heat, self.to_cold, self.blade.spine, self.quench) if k in self.hardeners else None
            q = self._quench_one(k, self.heat, self.to_cold, self.edge, self.quench) if edge and middle else middle
            hardens = q is not None and q.austenite > 0.5 and q.martensite[0] > 0.5
            out.append(Part(self.shop.steels[k], c, edge, hardens, q, middle))
        return tuple(out)

    @cached_property
    def quench(self) -> Quench:
        """The smith's, or that of the steels which are asked to harden."""
        return self.said.quench or common_quench([self.shop.steels[k] for k in self.asked])

    @cached_property
    def edge(self) -> float:
        """How thick the edge is left for the quench, mm: the smith's, or as `edge_left` has it."""
        b = self.blade
        return self.said.edge or edge_left(self.said.bevels, self.quench, b.length, b.spine, b.finished)

    @cached_property
    def not_by_magnet(self) -> str:
        """Why its steels cannot be hardened by magnet and eye, in words; empty when they can."""
        lead = self.shop.steels[self.lead] if self.lead else None
        if lead is None:
            return ""
        if lead.share("Cr") > 4 or lead.quench == "air":
            return (
                f"{lead.name} wants {self.heat:.0f} C held within ten degrees for {self.soak:.0f} min; a magnet lets go some "
                f"{self.heat - MAGNET:.0f} C° before, and the eye is good to 20."
            )
        if self.heat > BY_EYE_MOST:
            return f"{self.heat:.0f} C is {self.heat - MAGNET:.0f} C° above where a magnet lets go: too far to judge by eye."
        return ""

    @cached_property
    def start(self) -> float:
        """Where the last of its steels begins to transform on heating, C."""
        return max((ac1(self.shop.steels[k].composition) for k in self.hardeners), default=727.0)

    @cached_property
    def first_start(self) -> float:
        """Where the first of them does: softening stays under it, C."""
        return min((ac1(self.shop.steels[k].composition) for k in self.hardeners), default=727.0)

    def bends(self, state: State) -> list[Move]:
        """What is bent, as read after the quench, and how to undo it cold and soft, in the window or in the clamp."""
        read, b = self.said.hardened, self.blade
        found = moves(read.straight, state, b.length, b.spine, b.width, numbers=self.shop.numbers)
        if read.bow and not any(m.way == "bow" for m in found):
            found.insert(0, bend("bow", b.length / 2, (0.0, b.length), read.hollow or "", read.bow, b.spine, state, self.shop.numbers))
        return found

    # -- hardness and readings --------------------------------------------

    @cached_property
    def expected(self) -> tuple[float, float] | None:
        """(HRC as quenched, how sure) at the edge."""
        part = next((p for p in self.parts if p.steel.key == self.lead), None)
        if not part or not part.quenched or part.quenched.hrc is None:
            return None
        return part.quenched.hrc, part.quenched.sure

    @property
    def unknown(self) -> str:
        """Why the hardness of the deciding steel is not known here, in words; empty when it is."""
        part = next((p for p in self.parts if p.steel.key == self.lead), None)
        return part.quenched.unknown if part and part.quenched and part.quenched.hrc is None else ""

    @cached_property
    def by_law(self) -> float:
        """How surely hardness is predicted: never surer than the quench itself, HRC."""
        return max(BY_LAW, self.expected[1] if self.expected else BY_LAW)

    @cached_property
    def _differ(self) -> list[float]:
        """What the newest readings say against the law, HRC: of the last temper that was read, else after the quench.

        Older ones tell of another state of the steel: a soft skin, austenite that has turned since.
        """
        if not self.lead or not self.expected:
            return []
        for i in reversed(range(len(self.said.tempered))):
            if read := self.said.tempered[i].hrc:
                law = self._law(self.lead).at(together(self.done[: i + 1]) or 0.0)
                return [h - law for h in read]
        return [h - self.expected[0] for h in self.said.hardened.hrc]

    @cached_property
    def by_shop(self) -> float:
        """What the shop's own number says its blades are harder (or softer) than the law, HRC."""
        return (self.shop.numbers.of(HARDNESS) - 1) * self.expected[0] if self.expected else 0.0

    @cached_property
    def shift(self) -> float:
        """What the readings say the edge is harder (or softer) than the law, HRC: law and readings weighed by their squares.

        What the shop's blades usually are stands in for the law where nothing was read.
        """
        n, usual = len(self._differ), self.by_shop
        return usual + (self.by_law**2 / (self.by_law**2 + BY_READING**2 / n) * (sum(self._differ) / n - usual) if n else 0.0)

    @cached_property
    def sure(self) -> float:
        """How far the tempered hardness may be off after the readings, HRC."""
        n = len(self._differ)
        left = 1 / (1 / self.by_law**2 + n / BY_READING**2)
        return float((left + ELSEWHERE**2) ** 0.5) if n else self.by_law

    @cached_property
    def oven(self) -> float:
        """How much hotter the temper oven is than it says, C: run colours seen, else the shop's own figure."""
        seen = [t.colour - t.celsius for t in self.said.tempered if t.colour is not None]
        return sum(seen) / len(seen) if seen else self.shop.numbers.of(OVEN_OFF)

    def _law(self, key: str) -> TemperLaw:
        part = next(p for p in self.parts if p.steel.key == key)
        assert part.quenched
        return part.quenched.law

    @cached_property
    def done(self) -> list[tuple[float, float]]:
        """(true temperature C, h) of every temper so far."""
        return [(t.celsius + self.oven, t.hours) for t in self.said.tempered]

    def hrc_after(self, key: str, celsius: float, hours: float = 2.0) -> float | None:
        """Of one steel after one temper at this true temperature, with what the readings say; None when it does not harden."""
        return self._hrc(key, [(celsius, hours)])

    def _hrc(self, key: str, tempers: Sequence[tuple[float, float]]) -> float | None:
        part = next(p for p in self.parts if p.steel.key == key)
        if not part.quenched or not part.hardens or part.quenched.hrc is None:
            return None
        m = together(tempers)
        return (part.quenched.hrc if m is None else part.quenched.law.at(m)) + self.shift

    @cached_property
    def now(self) -> float | None:
        """HRC of the edge after the tempers so far, law and readings weighed; None before the first, or when it does not harden."""
        return self._hrc(self.lead, self.done) if self.lead and self.done else None

    @property
    def planned(self) -> float | None:
        """HRC of the edge once it is tempered as wanted, or as it is when it needs no more; None when it does not harden."""
        return self.comes_to(self.lead, self.temper) if self.lead and (self.temper is not None or self.now is not None) else None

    @property
    def hours(self) -> float:
        """Of the next temper: two in all for the first two, one for any after."""
        return max(1.0, TABLE_HOURS - sum(h for _, h in self.done))

    @property
    def enough(self) -> bool:
        """Whether another temper would only make it softer than is wanted."""
        return self.now is not None and self.now <= self.said.wanted + REACHED

    def comes_to(self, key: str, celsius: float | None = None) -> float | None:
        """HRC of one steel once the next temper at this true temperature is done too, or as it is now without one."""
        return self._hrc(key, self.done + ([] if celsius is None else [(celsius, self.hours)]))

    @cached_property
    def temper(self) -> float | None:
        """True temperature of the next temper for the hardness wanted at the edge, C; the nearest end of the range if none gives it.

        None when it does not harden, or needs no more.
        """
        if not self.lead or not self.expected or self.enough:
            return None

        from scipy.optimize import brentq

        def over(celsius: float) -> float:
            return (self.comes_to(self.lead or "", celsius) or 0.0) - self.said.wanted

        low, high = RANGE
        if over(low) <= 0:
            return low
        return high if over(high) >= 0 else float(brentq(over, low, high, xtol=0.01))

    @property
    def set_oven(self) -> float | None:
        """What to set the oven to for the next temper, C, to the nearest five; None when there is none."""
        return None if self.temper is None else float(round((self.temper - self.oven) / 5) * 5)

    def curve(self, key: str) -> list[tuple[float, float]]:
        """(C, HRC) of one steel over the tempering range."""
        return [(t, h) for t in range(int(RANGE[0]), int(RANGE[1]) + 1, 10) if (h := self.hrc_after(key, float(t))) is not None]


def asked_of(at_edge: tuple[str, ...], pattern: tuple[str, ...], ranges: Mapping[str, tuple[float, float]], most: float) -> tuple[str, ...]:
    """Which steels one heat and one quench must suit: all of the pattern where one heat does, for any of its layers may come to the edge;
    else those that harden at the edge alone. A clad need not harden, and is not in `pattern`.
    """
    return pattern if pattern and common([ranges[k] for k in pattern], most) else at_edge


def of_design(
    said: Hardening,
    carbon: Mapping[str, float],
    edge: Sequence[str],
    spine: float,
    length: float,
    width: float,
    mass: float,
    materials: Sequence[str] = (),
    shop: ShopData = AS_SHIPS,
    patterned: bool = False,
    finished: float = 0.0,
    whole: float = 0.0,
    lopsided: float = 0.0,
) -> BladeHardening:
    """The hardening of a blade with these steels; carbon of each as the fire left it, %. `materials`: all that is in the bar; patterned
    and what follows: see BladeToHarden."""
    blade = BladeToHarden(dict(carbon), tuple(edge), spine, length, width, mass, tuple(materials), patterned, finished, whole, lopsided)
    return BladeHardening(said, blade, shop)
