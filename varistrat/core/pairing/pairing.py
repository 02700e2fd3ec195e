"""Whether steels go together: contrast, weld and forge window, flow, carbon, hardening in one heat, use.

Every aspect is a grade with its number and its reason; the verdict is the worst of those that count for
the purpose. Derived in docs/physics.md#pairing.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from math import ceil
from typing import Any, Literal, get_args

from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import reflectance
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.findings import Grade
from varistrat.core.laws.carbon import activity_factor, homogenised
from varistrat.core.laws.numbers import EDGES
from varistrat.core.laws.quench import QUENCHES, Quench
from varistrat.core.laws.ranges import outside
from varistrat.core.laws.transform import SOLUTION_SURE, ac1, austenite
from varistrat.core.steels.ceiling import SOLIDUS_CLEAR, ceiling, is_copper
from varistrat.core.steels.estimate import hardening_range
from varistrat.core.steels.flow import stress
from varistrat.core.steels.hardening import (
    EDGE_LEAST,
    TARGET,
    Quenched,
    can_harden,
    common,
    common_quench,
    core_of,
    hardening_heat,
    quenched,
)
from varistrat.core.steels.model import Etchant, Steel

Use = Literal["edge", "clad", "decoration"]
USES: tuple[Use, ...] = get_args(Use)
Aspect = Literal["contrast", "weld", "flow", "carbon", "harden", "quench", "hardness", "stress"]
Verdict = Literal["good", "care", "no"]

TEMPER_AT = 200.0
HRC_SURE = 1.5
"""How surely a tempered hardness is known, HRC: a verdict does not turn on less."""
WELD_SURE = 25.0
"""And a welding heat, C."""
ABOVE_AC1, OVERHEATED = 30.0, 50.0
"""C over where austenite begins from which a soak of minutes does, and over a steel's own range at which its grain is coarse."""


def lightness(steel: Steel, etchant: Etchant = "ferric") -> float:
    """L* (0 black to 100 white) of the etched steel."""
    y = reflectance(steel.tone[etchant])
    return 116 * y ** (1 / 3) - 16 if y > 0.008856 else 903.3 * y


@dataclass(frozen=True)
class Reason:
    """One aspect of a pairing: how it stands, in words, with the number that decides."""

    aspect: Aspect
    grade: Grade
    what: str
    why: str
    do: str = ""
    value: float | None = None
    unit: str = ""


@dataclass(frozen=True)
class Pairing:
    """Two or more steels in one bar. `shares` of the volume (equal when left out); `thickness`: of the blade at its spine, mm."""

    steels: tuple[Steel, ...]
    shares: tuple[float, ...] = ()
    thickness: float = 4.0
    etchant: Etchant = "ferric"
    temper: float = TEMPER_AT
    use: Use = "edge"
    """What it is for. In a clad blade layers are thick and keep their carbon; else fine ones share it."""
    numbers: Numbers = USUAL

    @classmethod
    def of(cls, steels: Sequence[Steel], shares: Sequence[float] = (), **more: Any) -> "Pairing":
        """Raises InputError for fewer than two steels, the same one twice, or shares that are none."""
        if len(steels) < 2:
            raise InputError.at("steels", "a pairing wants two steels or more", "choose another one")
        if len({s.key for s in steels}) < len(steels):
            raise InputError.at("steels", "the same steel is named twice", "choose different ones")
        if shares and (len(shares) != len(steels) or min(shares) <= 0):
            raise InputError.at("shares", "there is not one share above nothing for each steel", "give as many as there are steels")
        total = sum(shares) or 1.0
        return cls(tuple(steels), tuple(s / total for s in shares), **more)

    @cached_property
    def parts(self) -> tuple[float, ...]:
        """Share of each steel; alike when nothing is said."""
        return self.shares or (1 / len(self.steels),) * len(self.steels)

    @property
    def shared(self) -> bool:
        """Whether layers are fine enough for carbon to even out."""
        return self.use != "clad"

    @property
    def with_copper(self) -> Steel | None:
        """The copper in it, if there is any."""
        return next((s for s in self.steels if is_copper(s)), None)

    def names(self, *which: Steel) -> str:
        """Joined for a sentence."""
        return " and ".join(s.name for s in which)

    @cached_property
    def apart(self) -> float:
        """Difference of lightness between the darkest and the brightest, L*."""
        light = [lightness(s, self.etchant) for s in self.steels]
        return max(light) - min(light)

    # -- the fire ---------------------------------------------------------

    @cached_property
    def weld_window(self) -> tuple[float, float] | None:
        """(lowest, highest) welding temperature that suits all, C; below each solidus by SOLIDUS_CLEAR. None when there is none."""
        ranges = [s.weld for s in self.steels]
        if any(r is None for r in ranges):
            return None
        if self.with_copper:
            # bonded in a seal far below the steels' own welding heat
            assert self.with_copper.weld
            return self.with_copper.weld[0], min(self.with_copper.weld[1], self.ceiling)
        low = max(r[0] for r in ranges if r)
        high = min([r[1] for r in ranges if r] + [s.solidus - SOLIDUS_CLEAR for s in self.steels])
        return (low, high) if high >= low else None

    @cached_property
    def forge_window(self) -> tuple[float, float] | None:
        """Where all of them forge, C; None when there is no such heat."""
        low, high = max(s.forge[0] for s in self.steels), min(s.forge[1] for s in self.steels)
        return (low, high) if high > low else None

    @cached_property
    def stiffness(self) -> tuple[float, Steel, Steel]:
        """(ratio, softest, stiffest) at forging heat."""
        by = sorted(self.steels, key=stress)
        return stress(by[-1]) / stress(by[0]), by[0], by[-1]

    @cached_property
    def carbons(self) -> tuple[float, ...]:
        """Carbon of each once it has evened out by activity, %; its own when layers are coarse."""
        own = [s.share("C") for s in self.steels]
        if not self.shared:
            return tuple(own)
        return tuple(homogenised(own, [activity_factor(s.composition) for s in self.steels], self.parts))

    # -- hardening --------------------------------------------------------

    @cached_property
    def hardeners(self) -> tuple[int, ...]:
        """Which of them can harden: by themselves, or by the carbon they take up when layers are fine."""
        taken = self.carbons if self.shared else (0.0,) * len(self.steels)
        return tuple(i for i, s in enumerate(self.steels) if can_harden(s, taken[i]))

    @cached_property
    def asked(self) -> tuple[int, ...]:
        """Those the heat and the quench must suit: all that harden; in a clad blade the core alone, for a clad need not harden."""
        if self.use != "clad" or not self.hardeners:
            return self.hardeners
        core = core_of([self.steels[i] for i in self.hardeners])
        return (self.steels.index(core),)

    @cached_property
    def ceiling(self) -> float:
        """The hottest any of them may be, C."""
        return ceiling(self.steels)

    def range_of(self, i: int) -> tuple[float, float]:
        """Austenitising range, C: its own, or by its carbon for one that has none."""
        return self.steels[i].austenitise or hardening_range({**self.steels[i].composition, "C": self.carbons[i]})

    @cached_property
    def window(self) -> tuple[float, float] | None:
        """Austenitising range of all that are asked to harden: highest least to lowest most, and melting nothing, C;
        None when they do not overlap."""
        return common([self.range_of(i) for i in self.asked], self.ceiling)

    @cached_property
    def lead(self) -> int | None:
        """Which of them the heat goes by when there is no common one: the highest in carbon."""
        return max(self.asked, key=lambda i: self.carbons[i], default=None)

    @cached_property
    def soak(self) -> float:
        """Minutes at heat: what the slowest asks for."""
        return max([sum(s.soak) / 2 for i in self.asked if (s := self.steels[i]).soak] or [10.0])

    @cached_property
    def heat(self) -> float:
        """Temperature to harden from, C: in the common window where the carbon in solution lies best;
        without one, in that of `lead`, at the end that suits the rest better."""
        if self.window:
            low, high = self.window
            best = (low + high) / 2
        elif self.lead is not None:
            low, high = self.range_of(self.lead)
            others = [self.range_of(i) for i in self.asked if i != self.lead]
            best = high if others and max(r[0] for r in others) > high else low
            low, high = min(low, self.ceiling), min(high, self.ceiling)
        else:
            low, high, best = 800.0, 820.0, 810.0
        return hardening_heat(low, high, best, [(self.steels[i], self.carbons[i]) for i in self.asked], self.soak)

    def _astray(self, celsius: float) -> float:
        """How far the carbon in solution lies outside the target in the worst of them once it is shared, %; where it is not known it does
        not count."""
        now = [{**self.steels[i].composition, "C": self.carbons[i]} for i in self.asked]
        found = [austenite(c, celsius, self.soak).carbon for c in now if not outside(c, celsius)]
        return max((max(TARGET[0] - c, c - TARGET[1], 0.0) for c in found), default=0.0)

    @cached_property
    def dissolving(self) -> tuple[float, float] | None:
        """(lowest, highest) heat that puts 0.6 to 0.8 % carbon in solution in each that hardens after the soak, C.

        To the nearest five degrees, from a little over Ac1 to where grain grows coarse, and within what is known of the carbon
        (SOLUTION_SURE); None when no one heat does.
        """
        if not self.asked or any(outside({**self.steels[i].composition, "C": self.carbons[i]}) for i in self.asked):
            return None
        first = max(ac1(self.steels[i].composition) for i in self.asked) + ABOVE_AC1
        last = min(max(self.range_of(i)[1] for i in self.asked) + OVERHEATED, self.ceiling)
        fit = [t for t in range(5 * ceil(first / 5), int(last) + 1, 5) if self._astray(float(t)) <= SOLUTION_SURE]
        return (float(fit[0]), float(fit[-1])) if fit else None

    def _quenched(self, i: int, thickness: float, bath: Quench | None) -> Quenched:
        return quenched(self.steels[i], self.heat, self.soak, thickness, self.carbons[i], bath=bath, numbers=self.numbers)

    @cached_property
    def edge(self) -> float:
        """How thick an edge is usually left for the quench, mm."""
        return min(sum(EDGES[self.quench]) / 2, self.thickness) if self.quench else self.thickness

    @cached_property
    def quenched(self) -> dict[int, Quenched]:
        """Each that hardens, from `heat` in the common quench: at the edge."""
        return {i: self._quenched(i, self.edge, self.quench) for i in self.asked}

    @cached_property
    def section(self) -> dict[int, Quenched]:
        """The same at the spine: `thickness` mm."""
        return {i: self._quenched(i, self.thickness, self.quench) for i in self.asked}

    @cached_property
    def quench(self) -> Quench | None:
        """The bath for all that are asked to harden, as the plan of a blade takes it; None when nothing hardens."""
        return common_quench([self.steels[i] for i in self.asked]) if self.asked else None

    @cached_property
    def through(self) -> Quench | None:
        """The slowest quench that hardens all of them through `thickness`; None when one is too shallow for any, or not known."""
        found = [q.quench for q in self.section.values()]
        if not found or None in found:
            return None
        return min((q for q in found if q), key=QUENCHES.index)

    @cached_property
    def hrc(self) -> dict[int, float]:
        """Hardness of each that hardens after the common temper, at the edge; those of unknown hardness left out."""
        return {i: q.law.hrc(self.temper) for i, q in self.quenched.items() if q.hrc is not None}

    @property
    def unknown(self) -> list[int]:
        """Those whose hardness is not known here."""
        return [i for i, q in self.quenched.items() if q.hrc is None]

    @cached_property
    def reasons(self) -> tuple[Reason, ...]:
        """Every aspect, in the order of the work."""
        from varistrat.core.pairing.reasons import reasons_of

        return reasons_of(self)

    # -- verdict ----------------------------------------------------------

    @cached_property
    def verdict(self) -> Verdict:
        """Plain: goes together for this use, with care, or not.

        An edge wants all of them hard; a clad blade one that is; decoration contrast, weld and flow alone.
        """
        grades = [r.grade for r in self.reasons if r.aspect in self._counted]
        if self.use != "decoration" and not self.hardeners:
            return "no"
        if self.use == "edge" and len(self.hardeners) < len(self.steels):
            return "no"
        if self.use != "decoration" and self.softest is not None and self.softest < EDGE_LEAST:
            return "no"
        if "stop" in grades:
            return "no"
        return "care" if "care" in grades else "good"

    @property
    def softest(self) -> float | None:
        """HRC the softest of them may be at the most, its figure's width counted: what is out of doubt; None when none is known."""
        found = [h + min(self.quenched[i].sure, HRC_SURE) for i, h in self.hrc.items()]
        return min(found) if found else None

    @property
    def _counted(self) -> tuple[Aspect, ...]:
        """The aspects that count for its use."""
        if self.use == "decoration":
            return ("contrast", "weld", "flow")
        return tuple(a for a in get_args(Aspect) if not (self.use == "clad" and a == "hardness"))

    @cached_property
    def decides(self) -> str:
        """What decides the verdict, in a word or two; empty when all is well."""
        counted = [r for r in self.reasons if r.aspect in self._counted]
        worst = next((r for g in ("stop", "care") for r in counted if r.grade == g), None)
        if self.verdict == "no" and (worst is None or worst.grade != "stop"):
            return "not all harden" if self.use == "edge" else "none hardens"
        return worst.aspect if worst else ""

    def for_use(self, use: Use) -> "Pairing":
        """The same steels judged for another use."""
        return replace(self, use=use)

    @cached_property
    def uses(self) -> dict[Use, Verdict]:
        """The verdict for each use."""
        return {use: (self if use == self.use else self.for_use(use)).verdict for use in USES}

    @cached_property
    def points(self) -> float:
        """Higher is better, for ranking: the verdict first, then contrast, evenness, the width of its windows, little care; indicative."""
        rank = {"good": 200.0, "care": 100.0, "no": 0.0}[self.verdict]
        by = {r.aspect: r for r in self.reasons}
        contrast = min(by["contrast"].value or 0, 60.0)
        weld = min((self.weld_window[1] - self.weld_window[0]) / 4, 25.0) if self.weld_window else 0.0
        even = 15 - 3 * (by["hardness"].value or 0) if "hardness" in by and self.use == "edge" else 0.0
        cares = 12.0 * sum(r.grade == "care" for r in self.reasons)
        return rank + contrast + weld + even - cares - 20 * max(0.0, self.stiffness[0] - 1.1)


MOST_TRIED = 700
"""Pairs looked at whole; of more, those that promise most."""


def _promise(p: Pairing) -> float | None:
    """How much a pair promises, from what is worked out at once: contrast, and the widths of its fire; None when it cannot do."""
    if p.apart < 10 or p.weld_window is None or p.forge_window is None:
        return None
    if p.use == "edge" and any(s.hardens == "no" and s.share("C") < 0.3 for s in p.steels):
        return None
    return min(p.apart, 60.0) + min((p.weld_window[1] - p.weld_window[0]) / 4, 25.0)


def suggestions(steels: Sequence[Steel], use: Use, n: int = 12, **more: Any) -> list[Pairing]:
    """The best pairs of these for a purpose, best first; those that do not suit are left out."""
    pairs = [Pairing.of(p, use=use, **more) for p in combinations(steels, 2)]
    if len(pairs) > MOST_TRIED:
        promising = [(v, i) for i, p in enumerate(pairs) if (v := _promise(p)) is not None]
        pairs = [pairs[i] for _, i in sorted(promising, key=lambda x: -x[0])[:MOST_TRIED]]
    return sorted((p for p in pairs if p.verdict != "no"), key=lambda p: -p.points)[:n]
