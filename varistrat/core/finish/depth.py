"""How deep each steel is etched, and what follows: relief, what a nail feels, layers that lose their edges. docs/physics.md#etch-depth."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from varistrat.core.design.worked import Worked
from varistrat.core.etch.bath import RENEW_AT, Bath
from varistrat.core.figures import Numbers
from varistrat.core.findings import Code, Finding, Grade
from varistrat.core.laws.numbers import ETCH_MOVED, ETCH_R0, GALVANIC_NOBLE, GALVANIC_PLAIN
from varistrat.core.steels import Steel

FELT, CATCHES = 8.0, 25.0
"""um: a nail feels a step; a step holds dirt and wears down."""
DARKENS = 1.2
"""um etched off when a face has gone two thirds of the way from bright to its dark; indicative."""
NOBLE_NICKEL, NOBLE_CHROMIUM = 1.5, 10.0
"""%: from here on a steel stands by while the one beside it is eaten."""
CARBON_SLOWS = ((0.0, 0.70), (0.20, 0.80), (0.75, 1.0))
"""[carbon %, rate to the same steel with 0.75 % and more]: pure iron and mild steel against carbon steel; indicative."""
SLOW_APART, PLAIN_NICKEL = 0.25, 0.5
"""um/min in fresh ferric chloride: slower, and without nickel (%), a relief is long in coming."""

BATH_WORN = Code("bath_worn", "finish", ("care", "stop"), {
    "care": "The bath is {used:.0f} % used up: it bites slowly and leaves sludge.",
    "stop": "The bath is used up: nothing more dissolves in it.",
})  # fmt: skip
ETCH_UNDERCUT = Code("etch_undercut", "finish", ("care",), "The finest layers lose their edges: {depth:.0f} µm deep is as far sideways.")
ETCH_SLOW_PAIR = Code("etch_slow_pair", "finish", ("note",), "This pair parts slowly in the bath.")
ETCH_TOO_DEEP = Code("etch_too_deep", "finish", ("care",), "A relief of {relief:.0f} µm holds dirt and wears down bright on its tops.")
COPPER_IN_BATH = Code("copper_in_bath", "finish", ("stop",), "Copper goes into the bath and plates out on the steel.")
ETCH_HYDROGEN = Code("etch_hydrogen", "finish", ("care",), "Acid drives hydrogen into hard steel.")
ETCH_PITS = Code("etch_pits", "finish", ("care",), "Stainless layers may pit in chloride.")


@dataclass(frozen=True)
class Surface:
    """A steel that meets the bath: rate in um/min (fresh ferric 10 %, 20 C, by itself, as the fire left it); noble: it stands by beside
    plain steel; share: of the face."""

    steel: Steel
    rate: float
    noble: bool
    share: float


def is_noble(steel: Steel) -> bool:
    """Nickel or chromium enough that its neighbour is eaten in its place."""
    return steel.share("Ni") >= NOBLE_NICKEL or steel.share("Cr") >= NOBLE_CHROMIUM


def fired_rate(steel: Steel, carbon: float, numbers: Numbers) -> float:
    """um/min of a steel that now has `carbon` %, in fresh ferric chloride of 10 % at 20 C; nickel and chromium stay where they are."""
    own = steel.etch_rate * numbers.of(ETCH_R0) / ETCH_R0.usual
    if is_noble(steel) or steel.share("Cu") > 50:
        return own
    c, k = zip(*CARBON_SLOWS, strict=True)
    return own * float(np.interp(carbon, c, k) / np.interp(steel.share("C"), c, k))


def surface_of(worked: Worked) -> list[Surface]:
    """The steels on the faces of a design's blade and their shares; of a bare bar: all it has, evenly."""
    forged, steels = worked.forged, worked.shop.steels
    carbon = worked.fire.carbon
    shares = worked.face_shares if worked.cut else {key: 1 / len(forged.steels) for key in forged.steels}
    out = []
    for key, share in shares.items():
        rate = fired_rate(steels[key], carbon.get(key, steels[key].share("C")), worked.shop.numbers)
        out.append(Surface(steels[key], rate, is_noble(steels[key]), share))
    return out


@dataclass(frozen=True)
class Etched:
    """depths: um of each steel after each cycle; dissolved: g of metal in all, by element that the waste is told of; bath: afterwards."""

    depths: Mapping[str, tuple[float, ...]]
    dissolved: Mapping[str, float]
    bath: Bath

    @property
    def relief(self) -> float:
        """um between the deepest and the shallowest at the end."""
        return self.relief_after(-1)

    def relief_after(self, cycle: int) -> float:
        """um after this cycle, 0 the first."""
        ends = [d[cycle] for d in self.depths.values() if d]
        return max(ends) - min(ends) if ends else 0.0

    @property
    def deepest(self) -> float:
        """um."""
        return max((d[-1] for d in self.depths.values() if d), default=0.0)

    @property
    def felt(self) -> bool:
        """Whether a nail feels the steps."""
        return self.relief >= FELT


def etch(bath: Bath, surface: Sequence[Surface], minutes: Sequence[float], area: float, numbers: Numbers, moved: float = 1.0) -> Etched:
    """Cycles of so many minutes, one after the other; the bath wears with what each dissolves. area: mm2 that it meets, or 0.

    d = r0 k (c/10)^0.6 exp(-Ea/R (1/T - 1/293.15)) t (1 - used), times the galvanic factors; moved: 1 still, more when it is kept moving.
    Within a cycle the wear is followed exactly: d(used)/dt is proportional to 1 - used.
    """
    speeds = {s.steel.key: s.rate * factor for s, factor in zip(surface, galvanic(surface, numbers), strict=True)}
    at = dict.fromkeys(speeds, 0.0)
    depths: dict[str, list[float]] = {key: [] for key in speeds}
    elements: dict[str, float] = {}
    for each in minutes:
        # g of metal a minute while it bites as it does now
        grams = {s.steel.key: speeds[s.steel.key] * bath.speed * moved * 1e-3 * area * s.share * s.steel.density * 1e-6 for s in surface}
        gone = _worn(bath, sum(grams.values()), each)
        for s in surface:
            key = s.steel.key
            at[key] += speeds[key] * bath.speed * moved * gone
            depths[key].append(at[key])
            for element, share in _elements(s.steel).items():
                elements[element] = elements.get(element, 0.0) + grams[key] * gone * share
        bath = bath.after(sum(grams.values()) * gone)
    return Etched({k: tuple(v) for k, v in depths.items()}, elements, bath)


def _worn(bath: Bath, grams: float, minutes: float) -> float:
    """Minutes at the speed it began with that do as much as these: with dm/dt = g (1 - m/M), m = M (1 - exp(-g t/M))."""
    left = bath.capacity - bath.iron if bath.capacity else 0.0
    if left <= 0 or grams <= 0:
        return minutes
    return float(-np.expm1(-grams * minutes / left) * left / grams)


def galvanic(surface: Sequence[Surface], numbers: Numbers) -> list[float]:
    """Factor of each: only where plain and noble steel meet, the plain is eaten faster and the noble slower."""
    both = {s.noble for s in surface} == {True, False}
    plain, noble = numbers.of(GALVANIC_PLAIN), numbers.of(GALVANIC_NOBLE)
    return [(noble if s.noble else plain) if both else 1.0 for s in surface]


def _elements(steel: Steel) -> dict[str, float]:
    told = {e: steel.share(e) / 100 for e in ("Ni", "Cr", "Cu", "Co") if steel.share(e)}
    return told | {"Fe": 1 - sum(told.values())}


def agitation(worked: Worked) -> float:
    """How much faster the bath is by being moved, as the design's finish has it."""
    return worked.shop.numbers.of(ETCH_MOVED) if worked.document.finish.moved else 1.0


def etch_of(worked: Worked, bath: Bath, minutes: Sequence[float]) -> Etched:
    """A design's blade (or bare bar) in this bath, moved as its finish has it."""
    area = worked.areas.wet if worked.cut else 0.0
    return etch(bath, surface_of(worked), minutes, area, worked.shop.numbers, agitation(worked))


def etch_findings(worked: Worked, bath: Bath, etched: Etched, surface: Sequence[Surface]) -> list[Finding]:
    """What to be careful of with this blade in this bath, so long."""
    found = []
    used = bath.used
    if used >= RENEW_AT:
        grade: Grade = "stop" if used >= 1 else "care"
        found.append(
            BATH_WORN.found(
                f"{bath.iron:.0f} of {bath.capacity:.0f} g of iron are in it.",
                "Make a new one; collect the old one as your local rules say.",
                grade=grade,
                field="iron",
                value=100 * used,
                limit=100 * RENEW_AT,
                unit="%",
                **({"used": 100 * used} if grade == "care" else {}),
            )
        )
    if any(s.steel.share("Cu") > 50 for s in surface) and bath.what != "coffee":
        found.append(
            COPPER_IN_BATH.found(
                "Copper is more noble than iron, and is eaten several times as fast as steel by chloride.",
                "Mask the copper, or etch this blade in a bath that no other blade goes into.",
                field="what",
            )
        )
    thin = worked.thinnest if worked.cut else None
    if thin is not None and 2e-3 * etched.deepest > thin:
        found.append(
            ETCH_UNDERCUT.found(
                f"The finest layers of this blade are {1000 * thin:.0f} µm wide, less than twice that. Indicative.",
                "Etch less deep, or make fewer, thicker layers.",
                depth=etched.deepest,
                field="minutes",
                value=etched.deepest,
                limit=500 * thin,
                unit="um",
            )
        )
    if etched.relief > CATCHES:
        found.append(
            ETCH_TOO_DEEP.found(
                "Steps from about 25 µm hold dirt. Indicative.",
                "Fewer or shorter cycles, or a weaker bath.",
                relief=etched.relief,
                field="minutes",
                value=etched.relief,
                limit=CATCHES,
                unit="um",
            )
        )
    return found + _by_steels(bath, surface)


def _by_steels(bath: Bath, surface: Sequence[Surface]) -> list[Finding]:
    found = []
    rates = [s.rate for s in surface]
    if len(surface) > 1 and max(rates) - min(rates) < SLOW_APART and all(s.steel.share("Ni") < PLAIN_NICKEL for s in surface):
        found.append(
            ETCH_SLOW_PAIR.found(
                f"Without nickel, {min(rates):.2f} against {max(rates):.2f} µm/min is all that parts them. Indicative.",
                "Etch it for tone, some minutes; each µm of relief costs five µm and more of the blade.",
                field="minutes",
                value=max(rates) - min(rates),
                limit=SLOW_APART,
                unit="um/min",
            )
        )
    if bath.what == "muriatic" and any(s.steel.hardening for s in surface):
        found.append(
            ETCH_HYDROGEN.found(
                "Steel of 55 HRC and more can crack by it, hours later.",
                "Rinse, neutralise, then bake it at 190 C (no hotter than its temper) for 1 to 2 hours.",
                field="what",
            )
        )
    if bath.what in ("ferric", "ferric+muriatic", "muriatic") and any(s.steel.share("Cr") >= NOBLE_CHROMIUM for s in surface):
        why = "Chloride breaks through the skin of stainless steel here and there."
        found.append(ETCH_PITS.found(why, "Short cycles; look after each.", field="what"))
    return found
