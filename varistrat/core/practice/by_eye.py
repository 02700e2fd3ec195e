"""Name the heat of what is shown: glow in a dark and a light shop, run colours on bright steel."""

from dataclasses import dataclass, replace
from math import exp
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, TypeAdapter

from varistrat.core.heat.colours import GLOW, GLOW_SURE, RUN, RUN_SURE, Colour
from varistrat.core.model import Model
from varistrat.core.practice.exercise import Deed, Exercise, Result, Shown, State

Light = Literal["dark shop", "light shop", "daylight"]
ROUNDS = 8
WEAK = 3.0
"""So many times as far off as colours are sure: no points."""
SECOND = 14_388.0
"""Second radiation constant, um K."""
GREEN = 0.555
"""um, where the eye is best."""
AMBIENT: dict[Light, float] = {"dark shop": 640.0, "light shop": 820.0}
"""C at which steel glows as bright as what it reflects; indicative."""
GREY = (96, 94, 92)
"""Scaled steel that does not glow, by that light."""


class Say(Model):
    """What one takes it for, C."""

    do: Literal["say"]
    celsius: Annotated[float, Field(ge=20, le=1500)]


@dataclass(frozen=True)
class Heat:
    """One round: C, in which light."""

    celsius: float
    light: Light


@dataclass(frozen=True, kw_only=True)
class Eyes(State):
    """rounds: what is shown; said: what was answered so far, C."""

    rounds: tuple[Heat, ...]
    said: tuple[float, ...] = ()


def between(table: tuple[Colour, ...], celsius: float) -> tuple[int, int, int]:
    """Of a table's colours, mixed by how near they are."""
    at = [c for c, _, _ in table]
    parts = np.array([[int(h[i : i + 2], 16) for i in (1, 3, 5)] for _, _, h in table], float)
    r, g, b = (round(float(np.interp(celsius, at, parts[:, k]))) for k in range(3))
    return r, g, b


def glow_share(celsius: float, light: Light) -> float:
    """How much of what the eye gets is glow and not reflected light, 0 to 1: Wien's law at the eye's best, against AMBIENT."""
    if light not in AMBIENT:
        return 1.0
    times = exp(SECOND / GREEN * (1 / (AMBIENT[light] + 273.15) - 1 / (celsius + 273.15)))
    return times / (1 + times)


def colour_of(shown: Heat) -> str:
    """As the screen shows it."""
    if shown.light == "daylight":
        return "#{:02x}{:02x}{:02x}".format(*between(RUN, shown.celsius))
    hot, share = between(GLOW, shown.celsius), glow_share(shown.celsius, shown.light)
    return "#{:02x}{:02x}{:02x}".format(*(round(h * share + c * (1 - share)) for h, c in zip(hot, GREY, strict=True)))


@dataclass(frozen=True)
class EyesBefore:
    """A round that is over: what was shown, what it was, what was said."""

    colour: str
    light: Light
    celsius: float
    said: float


@dataclass(frozen=True)
class EyesShown(Shown):
    """colour: on the screen, and in which light; None once all rounds are over."""

    colour: str | None
    light: Light | None
    before: tuple[EyesBefore, ...]
    rounds: int
    kind: Literal["by_eye"] = "by_eye"


class ByEye(Exercise[Eyes]):
    """Glow and run colours by turns."""

    key: ClassVar[str] = "by_eye"
    title: ClassVar[str] = "By eye"
    about: ClassVar[str] = "A heat is shown, in a dark or a light shop, or as a run colour on bright steel. Name it."
    action: ClassVar[TypeAdapter[Any]] = TypeAdapter(Say)

    def begin(self, seed: int) -> Eyes:
        rng = np.random.default_rng(seed)
        rounds = []
        for n in range(ROUNDS):
            light: Light = ("dark shop", "light shop", "daylight")[n % 3]
            low, high = (205, 340) if light == "daylight" else (700, 1230)
            rounds.append(Heat(float(rng.integers(low // 5, high // 5 + 1) * 5), light))
        return Eyes(seed, rounds=tuple(rounds))

    def moved(self, state: Eyes, action: Say) -> Eyes:
        said = (*state.said, action.celsius)
        shown = state.rounds[state.done]
        moves = (*state.moves, Deed(f"{action.celsius:.0f} C for {shown.celsius:.0f} C, {shown.light}"))
        return replace(state, said=said, moves=moves, done=state.done + 1, ended=len(said) == ROUNDS)

    def shown(self, state: Eyes) -> EyesShown:
        now = None if state.ended else state.rounds[state.done]
        before = tuple(EyesBefore(colour_of(s), s.light, s.celsius, v) for s, v in zip(state.rounds, state.said, strict=False))
        return EyesShown(colour_of(now) if now else None, now.light if now else None, before, ROUNDS)

    def points(self, shown: Heat, said: float) -> float:
        """1 within what colours are sure to, nothing at WEAK times that and more."""
        sure = RUN_SURE if shown.light == "daylight" else GLOW_SURE
        return min(1.0, max(0.0, (WEAK - abs(said - shown.celsius) / sure) / (WEAK - 1)))

    def result(self, state: Eyes) -> Result:
        each = [self.points(s, v) for s, v in zip(state.rounds, state.said, strict=True)]
        parts = []
        for light in ("dark shop", "light shop", "daylight"):
            mine = [p for p, s in zip(each, state.rounds, strict=True) if s.light == light]
            parts.append((light, float(len(mine)), sum(mine)))
        off = [v - s.celsius for s, v in zip(state.rounds, state.said, strict=True)]
        says = (
            f"{sum(abs(o) for o in off) / ROUNDS:.0f} C off at the mean, {'too hot' if sum(off) > 0 else 'too cold'} more often than not."
        )
        truth = (
            "The same heat looks colder in a light shop: what it reflects drowns the glow. Judge heats in the dark, always the same dark.",
            "Screens differ: this trains the order of colours, not your eye's zero. Prove yours on a thermocouple.",
        )
        return Result(100 * sum(each) / ROUNDS, says, tuple(parts), truth, state.moves)
