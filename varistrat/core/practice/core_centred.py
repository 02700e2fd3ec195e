"""Keep the core centred: a hidden blade is ground until its core line lies in the band on both sides.

The blade's errors are drawn as the tolerance study draws them; its line is the law's own (docs/physics.md#tolerance-study); what an expert
would have done is the steering's own correction after each test etch.
"""

from dataclasses import dataclass, replace
from functools import cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, TypeAdapter

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES, Side
from varistrat.core.blade.model import Correction, Errors
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.instruments.simulated import Caliper
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.laminate.exposure import stations
from varistrat.core.laminate.readings import Reading, Readings
from varistrat.core.model import Model
from varistrat.core.practice.exercise import Deed, Exercise, Result, Shown, State
from varistrat.core.starters import STARTERS
from varistrat.core.study.correction import correct
from varistrat.core.study.inference import infer, line_of
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import DIMENSIONS, Blades, Sizes

N = 36
"""Stations along the blade."""
FLANK = 12.0
"""mm over which a belt's cut runs out."""
HAND = 0.1
"""Share by which a hand takes more or less than meant."""
READ = 0.25
"""mm that a line in a test etch is read to."""
ETCH_MINUTES, CALIPER_MINUTES, BELT_MINUTES, EACH_CM3 = 8.0, 0.5, 1.0, 2.5
WARMS, COOLS = 900.0, 6.0
"""C a mm ground off; min in which it loses two thirds of that."""
READ_AT = 9
LEFT = 0.3
"""mm that the blade is left too thick."""
AIM = Aim(school="bold")
ROUNDS = 3
SPARED = 0.12
"""mm ground off beyond the expert's, at the mean, that cost all the points of it."""
Depth = Annotated[float, Field(gt=0, le=0.5)]


class Grind(Model):
    """A belt on one side, about `at` mm from the heel, `wide` mm; depth: mm; where: more at the edge, at the spine, or even."""

    do: Literal["grind"]
    side: Side
    at: Annotated[float, Field(ge=0, le=400)]
    wide: Annotated[float, Field(ge=10, le=400)]
    depth: Depth
    where: Literal["edge", "even", "spine"] = "even"


class Etch(Model):
    """A test etch: both lines are seen."""

    do: Literal["etch"]


class Measure(Model):
    """Thickness a share of the height above the edge, mm from the heel."""

    do: Literal["measure"]
    at: Annotated[float, Field(ge=0, le=400)]
    up: Annotated[float, Field(ge=0.02, le=1)] = 0.5


class Finish(Model):
    """It is good. believe: how far right of the middle the core lies, % of the thickness."""

    do: Literal["finish"]
    believe: Annotated[float, Field(ge=-30, le=30)] | None = None


WHERE: dict[str, tuple[float, float]] = {"edge": (1.0, 0.3), "even": (1.0, 1.0), "spine": (0.3, 1.0)}
Rows = tuple[tuple[float, ...], tuple[float, ...]]
"""Taken off a side at the stations: at the edge, at the spine, mm."""
NOTHING: Rows = ((0.0,) * N, (0.0,) * N)


@dataclass(frozen=True)
class Seen:
    """A test etch: lines as read at the stations, mm; after so many actions."""

    right: tuple[float, ...]
    left: tuple[float, ...]
    after: int


@dataclass(frozen=True)
class Measured:
    """A caliper's word: thickness, mm; warm: how much above the shop it then was, C."""

    at: float
    up: float
    thickness: float
    warm: float


@dataclass(frozen=True, kw_only=True)
class Blank(State):
    """errors: hidden; right, left: taken off so far; warm: above the shop, C."""

    errors: Errors
    right: Rows = NOTHING
    left: Rows = NOTHING
    etches: tuple[Seen, ...] = ()
    measured: tuple[Measured, ...] = ()
    warm: float = 0.0
    believed: float | None = None

    @property
    def taken(self) -> float:
        """mm off both sides together, at the mean."""
        return float(np.mean([self.right, self.left])) * 2


@cache
def _planned() -> Cut:
    """The laminate as it ships, LEFT thicker all over: what is to be ground."""
    data = STARTERS["three_layer"].document()
    blade = data["blade"]
    blade["spine_thickness"] = {k: v + LEFT for k, v in blade["spine_thickness"].items()}
    for side in ("right", "left"):
        blade["grind"][side]["edge_thickness"] = blade["grind"][side].get("edge_thickness", 0.4) + LEFT
    return Worked.of(read_document(data)).blade


@cache
def _x() -> Array:
    return stations(_planned().geometry, N)


def _cut(state: Blank) -> Cut:
    def rows(of: Rows) -> list[list[float]]:
        return [[float(x), e, s] for x, e, s in zip(_x(), *of, strict=True)] if any(map(any, of)) else []

    cut = _planned()
    correction = Correction(right=rows(state.right), left=rows(state.left))
    blade = cut.geometry.blade.model_copy(update={"errors": state.errors, "correction": correction})
    return Cut.of(blade, cut.trace.forged)


def lines_of(cut: Cut) -> dict[Side, Array]:
    """Core line of both sides at the stations, mm: where G = kappa t/2 +- (eps t + w - z) passes zero."""
    lam = Lamina.of(cut, _x())
    p = lam.profiles
    half, off = lam.base_share[:, None] * p.forged / 2, lam.base_offset[:, None] * p.forged
    levels = {"right": half + off - p.right + p.warp, "left": half - off + p.left - p.warp}
    return {s: line_of(levels[s], lam.h) for s in SIDES}


def _errors(seed: int) -> Errors:
    lamina = Lamina.of(_planned(), _x())
    sizes = Sizes(flow=0.0)
    unit = np.random.default_rng(seed).random((1, DIMENSIONS))
    drawn = Blades(lamina, sizes).errors(unit)
    said: dict[str, Any] = {}
    for name, values in drawn.items():
        if name == "flow":
            continue
        row = values[0]
        said[name] = float(row[0]) if len(row) == 1 else [[round(float(x), 3), float(v)] for x, v in zip(_x(), row, strict=True)]
    return Errors.model_validate(said)


def _shape(at: float, wide: float) -> Array:
    """A belt's cut along the blade: full in its middle, running out over FLANK."""
    from_end = wide / 2 - np.abs(_x() - at)
    return 0.5 - 0.5 * np.cos(np.pi * np.clip(from_end / FLANK, 0, 1))


def _add(rows: Rows, edge: Array, spine: Array) -> Rows:
    return tuple(float(v) for v in np.array(rows[0]) + edge), tuple(float(v) for v in np.array(rows[1]) + spine)


@dataclass(frozen=True)
class BlankShown(Shown):
    """At the stations x, mm from the heel: height; right, left: lines as read in the last test etch, mm; ground_since: faces were ground
    after it; the true lines at the end."""

    x: tuple[float, ...]
    height: tuple[float, ...]
    length: float
    band: Band
    right: tuple[float, ...]
    left: tuple[float, ...]
    ground_since: bool
    etches: int
    measured: tuple[Measured, ...]
    moves: tuple[Deed, ...]
    minutes: float
    true_right: tuple[float, ...]
    true_left: tuple[float, ...]
    kind: Literal["core_centred"] = "core_centred"


def _told(values: Array) -> tuple[float, ...]:
    return tuple(float(v) for v in values)


class CoreCentred(Exercise[Blank]):
    """On the three-layer laminate as it ships."""

    key: ClassVar[str] = "core_centred"
    title: ClassVar[str] = "Keep the core centred"
    about: ClassVar[str] = (
        "A laminate whose core is not where it was meant to be. Grind, test-etch, measure: both lines in the band, no more."
    )
    action: ClassVar[TypeAdapter[Any]] = TypeAdapter(Annotated[Grind | Etch | Measure | Finish, Field(discriminator="do")])

    def begin(self, seed: int) -> Blank:
        return Blank(seed, errors=_errors(seed))

    def moved(self, state: Blank, action: Grind | Etch | Measure | Finish) -> Blank:
        match action:
            case Grind():
                return self._ground(state, action)
            case Etch():
                return self._etched(state)
            case Measure():
                return self._measured(state, action)
            case _:
                return replace(state, ended=True, done=state.done + 1, believed=action.believe, moves=(*state.moves, Deed("It is good.")))

    def _after(self, state: Blank, move: Deed, **more: Any) -> Blank:
        warm = more.pop("warm", 0.0) + state.warm * float(np.exp(-move.minutes / COOLS))
        return replace(state, moves=(*state.moves, move), done=state.done + 1, warm=warm, **more)

    def _ground(self, state: Blank, g: Grind) -> Blank:
        depth = _shape(g.at, g.wide) * g.depth * (1 + HAND * float(state.chance().normal()))
        edge, spine = WHERE[g.where]
        geometry = _planned().geometry
        cm3 = float(np.mean(depth) * geometry.length * np.mean(geometry.height(_x()))) * (edge + spine) / 2 / 1000
        where = "" if g.where == "even" else f"at the {g.where} "
        move = Deed(
            f"Ground {g.side}, {g.depth:.2f} mm {where}over {g.wide:.0f} mm about {g.at:.0f} mm.",
            BELT_MINUTES + EACH_CM3 * cm3,
        )
        rows = _add(getattr(state, g.side), edge * depth, spine * depth)
        return self._after(state, move, **{g.side: rows}, warm=WARMS * g.depth)

    def _etched(self, state: Blank) -> Blank:
        rng, found = state.chance(), lines_of(_cut(state))
        read = {s: tuple(float(max(0.0, v + READ * rng.normal())) if v > 0 else 0.0 for v in found[s]) for s in SIDES}
        return self._after(
            state, Deed("Test etch.", ETCH_MINUTES), etches=(*state.etches, Seen(read["right"], read["left"], state.done + 1))
        )

    def _measured(self, state: Blank, c: Measure) -> Blank:
        geometry = _cut(state).geometry
        x = np.array([min(c.at, geometry.length)])
        thick = float(geometry.faces(x, c.up * geometry.height(x)).thickness[0])
        read = Caliper(lambda: thick, warm=state.warm, seed=state.seed, draw=state.done).read().value
        found = Measured(float(x[0]), c.up, max(read, 0.0), state.warm)
        return self._after(state, Deed(f"Caliper: {found.thickness:.2f} mm.", CALIPER_MINUTES), measured=(*state.measured, found))

    def shown(self, state: Blank) -> BlankShown:
        geometry = _planned().geometry
        seen = state.etches[-1] if state.etches else None
        true = lines_of(_cut(state)) if state.ended else None
        return BlankShown(
            _told(_x()),
            _told(geometry.height(_x())),
            geometry.length,
            Band.of(AIM, geometry),
            seen.right if seen else (),
            seen.left if seen else (),
            seen is not None and any(m.says.startswith("Ground") for m in state.moves[seen.after :]),
            len(state.etches),
            state.measured,
            state.moves,
            state.minutes,
            _told(true["right"]) if true else (),
            _told(true["left"]) if true else (),
        )

    def expert(self, state: Blank) -> Blank:
        """From the beginning, by the steering: etch, infer, correct, until both lines are in the band or ROUNDS etches are done."""
        now = self.begin(state.seed)
        for _ in range(ROUNDS):
            now = self._etched(now)
            seen = now.etches[-1]
            # by what was read: the truth is hidden from an expert too
            if _within(np.array(seen.right), np.array(seen.left), 2.5 * READ) >= 1.0:
                break
            rows, least = self._planned_removal(now)
            move = Deed(f"Ground by the steering: {least}.", BELT_MINUTES * 2)
            hand = 1 + HAND * now.chance().normal(size=2)
            taken = {s: _add(getattr(now, s), np.array(rows[s][0]) * hand[i], np.array(rows[s][1]) * hand[i]) for i, s in enumerate(SIDES)}
            now = self._after(now, move, **taken)
        return replace(now, ended=True, moves=(*now.moves, Deed("It is good.")))

    def _planned_removal(self, state: Blank) -> tuple[dict[Side, Rows], str]:
        """What the steering takes off after the last etch, and that in words. It knows what was ground off, not how true the hand was."""
        seen = state.etches[-1]
        cut = _cut(replace(state, errors=Errors()))
        lamina, x = Lamina.of(cut, _x()), _x()
        plan = correct(infer(lamina, Readings(heights=_as_entered(lamina, seen), within=READ), Sizes(flow=0.0)), AIM)
        rows: dict[Side, Rows] = {}
        for s in SIDES:
            edge, spine = (tuple(float(v) for v in np.interp(x, plan.x, plan.removal[f"{s}_{p}"])) for p in ("edge", "spine"))
            rows[s] = edge, spine
        most = ", ".join(f"{max(map(max, rows[s])):.2f} mm {s}" for s in SIDES)
        return rows, f"at most {most}"

    def result(self, state: Blank) -> Result:
        expert = self.expert(state)
        within = in_band(state)
        more = max(0, len(state.etches) - len(expert.etches))
        etches = max(0.0, 1 - more / 3)
        steel = max(0.0, 1 - max(0.0, state.taken - expert.taken) / SPARED)
        # nothing is spared by what is not done: without a line in the band the rest counts as much less
        parts = (
            ("both lines in the band", 60.0, 60 * within),
            ("few test etches", 20.0, 20 * etches * within),
            ("steel left", 20.0, 20 * steel * within),
        )
        says = (
            f"{100 * within:.0f} % of the blade in its band, {len(state.etches)} test etches (the steering takes {len(expert.etches)}), "
            f"{state.taken:.2f} mm taken off at the mean ({expert.taken:.2f})."
        )
        return Result(sum(p[2] for p in parts), says, parts, _truth(state), state.moves, expert.moves)


def _as_entered(lamina: Lamina, seen: Seen) -> list[Reading]:
    """A test etch as the steering is told of it: there a height is measured square to the edge, here straight up."""
    square = np.cos(lamina.geometry.curves.edge_angle(lamina.x))
    entered = []
    for i in np.linspace(1, N - 3, READ_AT).round().astype(int):
        for s in SIDES:
            at, high = getattr(seen, s)[i], float(lamina.height[i])
            where: dict[str, Any] = {"x": float(lamina.x[i]), "side": s}
            if 0 < at < 0.98 * high:
                entered.append(Reading(height=at * float(square[i]), **where))
            else:
                entered.append(Reading(state="none" if at <= 0 else "spine", **where))
    return entered


def in_band(state: Blank) -> float:
    """Share of the judged stations where both lines truly are in the band and not too far apart, to what a line is read to."""
    lines = lines_of(_cut(state))
    return _within(lines["right"], lines["left"], READ)


def _within(right: Array, left: Array, give: float) -> float:
    band = Band.of(AIM, _planned().geometry)
    judged = band.judged(_x())
    right, left = right[judged], left[judged]
    low, high = np.minimum(right, left), np.maximum(right, left)
    return float(((high - low <= band.difference + give) & (low >= band.low - give) & (high <= band.high + give)).mean())


def _truth(state: Blank) -> tuple[str, ...]:
    e = state.errors
    offset = 100 * float(np.mean([v for _, v in e.core_offset])) if isinstance(e.core_offset, list) else 100 * float(e.core_offset)
    share = 100 * float(np.mean([v for _, v in e.core_share])) if isinstance(e.core_share, list) else 100 * float(e.core_share)
    uneven = float(np.mean([v for _, v in e.uneven])) if isinstance(e.uneven, list) else float(e.uneven)
    told = [
        f"The core lay {abs(offset):.1f} % of the thickness {'right' if offset > 0 else 'left'} of the middle at the mean.",
        f"It was {abs(share):.1f} % {'thicker' if share > 0 else 'thinner'} than planned.",
        f"{abs(uneven):.2f} mm more was off the {'right' if uneven > 0 else 'left'} before you began.",
    ]
    if state.believed is not None:
        side = "right" if state.believed > 0 else "left"
        told.insert(1, f"You believed {abs(state.believed):.1f} % {side}: {abs(state.believed - offset):.1f} % off.")
    return tuple(told)
