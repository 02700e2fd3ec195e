"""Sanding by hand after the belts: what each grit takes off, where it brings the bevel line and the edge, how long it takes.

docs/physics.md#grits.
"""

from dataclasses import dataclass

from varistrat.core.blade.areas import Areas
from varistrat.core.blade.belts import FIRST_PAPER, ON_BELTS, PAPERS, BeltStop, bevel_plan, sequence
from varistrat.core.blade.geometry import SIDES
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.figures import Numbers
from varistrat.core.finish.depth import surface_of
from varistrat.core.laws.numbers import SAND

HAND: dict[str, float] = {FIRST_PAPER: 40.0, "P400": 35.0, "P600": 20.0, "P800": 18.0, "P1000": 15.0, "P1500": 12.0, "P2000": 10.0}
"""Minutes by hand for 100 cm2 at 60 HRC; indicative."""
ON_BELT = 3.0
"""Minutes on each belt for 100 cm2; indicative."""
HARD, POWER = 60.0, 1.5
SOFT = 0.5
"""Mild and annealed clads take half the time, by their share on show."""
AWKWARD = 2.0
"""Fullers, swedges and plunges take twice the time of their area."""
UNHARDENED = 20.0
"""HRC of steel that no quench hardens."""
RULES: dict[str, str] = {
    "first": "One grit coarser than the belts ended: it shows what they left. Go on only when every scratch from before is gone.",
    "turn": "Turn the direction: the scratches of the grit before lie across, and are seen.",
    "hard": "A hard backing: a soft one digs out the layers that are worn faster.",
    "corner": "The edge of a hard stick into plunge and fuller.",
    "flats": "The flats last: they crisp the lines.",
    "last": "Last strokes lengthwise, one way, each from end to end.",
}
STOPS = (
    "400 to 600 for a deep etch, 800 to 1200 for contrast; finer only under coffee, or for steels that stay mirrors. A straight-edge "
    "and light show a hollow in a flat; heat in the fingers is heat in the edge."
)


@dataclass(frozen=True)
class Sanded:
    """One grit of the sequence: takes: mm off each face; right, left: where line and edge then are, None where the bevel has no line;
    minutes; rules: keys of those that apply."""

    grit: str
    by_hand: bool
    takes: float
    right: BeltStop | None
    left: BeltStop | None
    minutes: float
    rules: tuple[str, ...]


@dataclass(frozen=True)
class Sanding:
    """grits in their order; hardness: HRC it was reckoned with; soft: share of the face that is soft; minutes in all."""

    grits: tuple[Sanded, ...]
    areas: Areas
    hardness: float
    soft: float

    @property
    def minutes(self) -> float:
        """Belts and hand."""
        return sum(g.minutes for g in self.grits)


def pace(hardness: float) -> float:
    """Time to that at 60 HRC; soft steel is not below a fifth of it."""
    return float((max(hardness, UNHARDENED) / HARD) ** POWER)


def sanding(worked: Worked, numbers: Numbers | None = None) -> Sanding:
    """Of the design's blade, to the grit its finish ends with; numbers: the shop's if left out. Raises InputError without a blade."""
    geometry, plan = worked.blade.geometry, worked.document.finish
    belts = sequence(plan.last)
    areas = worked.areas
    hardness = _hardness(worked)
    soft = sum(s.share for s in surface_of(worked) if not s.steel.hardening)
    awkward = areas.fuller + areas.swedge + areas.plunge
    cm2 = (areas.faces + areas.spine + (AWKWARD - 1) * awkward) / 100
    slower = pace(hardness) * (1 - soft) + SOFT * soft
    own = (numbers or worked.shop.numbers).of(SAND) / SAND.usual
    lines: dict[str, list[BeltStop]] = {}
    for side in SIDES:
        try:
            lines[side] = bevel_plan(geometry, side, belts)
        except InputError:
            lines[side] = []  # a bevel up to the spine has no line to lift
    out = []
    for i, belt in enumerate(belts):
        by_hand = belt.name not in ON_BELTS
        hundred = HAND[belt.name] if by_hand else ON_BELT
        minutes = hundred * cm2 / 100 * slower * own
        right, left = (lines[side][i] if lines[side] else None for side in SIDES)
        out.append(Sanded(belt.name, by_hand, belt.takes, right, left, minutes, _rules(belt.name, belts[-1].name, awkward > 0)))
    return Sanding(tuple(out), areas, hardness, soft)


def _rules(name: str, last: str, corners: bool) -> tuple[str, ...]:
    if name in ON_BELTS:
        return ()
    told = ["first", "hard"] if name == FIRST_PAPER else ["turn"]
    if corners and name in (FIRST_PAPER, PAPERS[0]):
        told.append("corner")
    return (*told, *(("flats", "last") if name == last else ()))


def _hardness(worked: Worked) -> float:
    """HRC of what hardens on the face, as the hardening plan has it after its temper; steel that does not harden when none does."""
    planned = worked.hardening.planned
    return planned if planned is not None else (HARD if worked.hardening.hardeners else UNHARDENED)
