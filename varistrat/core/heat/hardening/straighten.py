"""Straightening: where the supports go, where the press or shim goes, how far past straight, and when not.

A bowed blade is straight again only when it is bent the other way and a little past straight. So it lies with its hollow side
up, a shim under the middle of the bulge, and its ends are pulled down. The other way up, a shim under the middle only holds
the bow. docs/physics.md#straightening.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log
from typing import Annotated, Literal

from pydantic import Field

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import RELAX
from varistrat.core.limits import MAX_MM
from varistrat.core.model import Model

Way = Literal["bow", "edgewise", "twist"]
State = Literal["soft", "window", "clamp"]
STIFFNESS = 206_000.0
"""Young's modulus of steel, MPa."""
YIELD: dict[State, float] = {"soft": 500.0, "window": 250.0, "clamp": 1500.0}
"""MPa: annealed; austenite at 200 to 300 C; hard steel under its temper. Indicative."""
STRAIN_CARE, STRAIN_STOP = 0.004, 0.008
"""Strain of the skin from which hard steel may break in the clamp, and from which it is likely to; it goes at about 0.9 %."""
SEEN = 0.1
"""mm over the length (and degrees, times ten) that are straight enough; indicative."""


class StraightPlace(Model):
    """Read at one place of the blade. x: mm from the heel; bow: how far the middle line lies towards the left face of a straight edge laid
    from heel to point, mm (negative: the right); edgewise: the same towards the spine (negative: the edge); twist:
    degrees against the heel, right-handed."""

    x: Annotated[float, Field(ge=0, le=MAX_MM)]
    bow: Annotated[float, Field(ge=-100, le=100)] = 0.0
    edgewise: Annotated[float, Field(ge=-100, le=100)] = 0.0
    twist: Annotated[float, Field(ge=-180, le=180)] = 0.0


class Straightness(Model):
    """Read at several places, heel to point."""

    places: Annotated[list[StraightPlace], Field(max_length=40)] = []


@dataclass(frozen=True)
class Move:
    """One thing to do. supports: mm from the heel where it is carried (on the bulging side) and `at` where the bend is greatest.

    up: the side that lies up (the hollow one), empty for a twist; size: mm (degrees) it is out; over: how far past straight, mm (degrees);
    strain: of the skin at the bend, share; grade: whether it may break.
    """

    way: Way
    at: float
    supports: tuple[float, float]
    up: str
    size: float
    over: float
    strain: float
    grade: Literal["note", "care", "stop"]


def moves(
    straight: Straightness, state: State, length: float, thickness: float, width: float, x0: float = 0.0, numbers: Numbers = USUAL
) -> list[Move]:
    """What to do, largest first; nothing that is too small to see. `thickness`, `width` of the blade at the bend, mm."""
    found: list[Move] = []
    places = sorted(straight.places, key=lambda p: p.x)
    for way, deep, faces in (("bow", thickness, ("left", "right")), ("edgewise", width, ("spine", "edge"))):
        out = [(p.x, getattr(p, way)) for p in places]
        worst = max(out, key=lambda v: abs(v[1]), default=(0.0, 0.0))
        if abs(worst[1]) > SEEN:
            # the line bulges towards the face it lies off to; the other face is hollow
            hollow = faces[1] if worst[1] > 0 else faces[0]
            low, high = _between(out, worst[0], length)
            found.append(bend(way, worst[0], (low, high), hollow, abs(worst[1]), deep, state, numbers))  # type: ignore[arg-type]
    turned = max(places, key=lambda p: abs(p.twist), default=None)
    if turned and abs(turned.twist) > 10 * SEEN:
        over = abs(turned.twist) * _past(state, numbers)
        found.append(
            Move(
                "twist",
                turned.x,
                (x0, turned.x),
                "",
                turned.twist,
                over,
                0.0,
                "stop" if state == "clamp" and abs(turned.twist) > 3 else "note",
            )
        )
    return sorted(found, key=lambda m: -abs(m.size))


def bend(
    way: Way, at: float, supports: tuple[float, float], hollow: str, size: float, deep: float, state: State, numbers: Numbers = USUAL
) -> Move:
    """Undo one bend of `size` mm at `at`, carried at `supports`; `deep`: mm of section in the plane of the bend."""
    long = max(supports[1] - supports[0], 1.0)
    # in the clamp the temper lets go of a share; else what springs back is the elastic part: sigma L^2 / (6 E t)
    over = size * (1 / numbers.of(RELAX) - 1) if state == "clamp" else YIELD[state] * long**2 / (6 * STIFFNESS * deep)
    strain = 4 * deep * (size + over) / long**2
    grade: Literal["note", "care", "stop"] = "note"
    if state == "clamp" and strain > STRAIN_CARE:
        grade = "stop" if strain > STRAIN_STOP else "care"
    return Move(way, at, supports, hollow, size, over, strain, grade)


def _past(state: State, numbers: Numbers) -> float:
    """Share past straight that a twist is taken."""
    return 1 / numbers.of(RELAX) - 1 if state == "clamp" else 0.5 if state == "soft" else 0.25


def _between(out: Sequence[tuple[float, float]], at: float, length: float) -> tuple[float, float]:
    """The nearest places on either side where it is straight again, or bends the other way; else heel and point."""
    sign = 1.0 if dict(out)[at] > 0 else -1.0
    low = max((x for x, v in out if x < at and sign * v <= SEEN), default=0.0)
    high = min((x for x, v in out if x > at and sign * v <= SEEN), default=length)
    return low, max(high, low + 1.0)


@dataclass(frozen=True)
class Window:
    """Temperatures while a blade can still be bent after the quench, C: easily down to `easy`, gently to `gently`, not at all under it."""

    start: float
    easy: float
    gently: float


EASY, STIFF = 0.1, 0.5
"""Share of martensite up to which it bends easily, and up to which gently; indicative."""


def window(ms: float, rate: float) -> Window:
    """From martensite start and rate (Koistinen and Marburger: f = 1 - exp(-rate (Ms - T)))."""
    return Window(ms, max(30.0, ms + log(1 - EASY) / rate), max(25.0, ms + log(1 - STIFF) / rate))
