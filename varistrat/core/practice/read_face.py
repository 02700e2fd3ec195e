"""Read the face: which steps made it? First one of four, then its numbers, until a face of one's own is like it."""

from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, TypeAdapter

from varistrat.core.bars.points import Array
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError
from varistrat.core.looks.space import FAMILIES as WAYS
from varistrat.core.looks.space import Candidate, Number
from varistrat.core.model import Model
from varistrat.core.pattern.picture import PREVIEW, Subject, draw
from varistrat.core.pattern.views import FaceView
from varistrat.core.practice.exercise import Deed, Drawn, Exercise, Result, Shown, State

LONG = 90.0
"""mm of the bar that are shown."""
PX = 240
CHOICES = 4
TRY_MINUTES, NAME_MINUTES = 1.0, 2.0
FREE_TRIES = 4


GROUND = Number("ground", "Ground off, of half its thickness", "share", 0.05, 0.9, 0.01, 0.5)
ASKED: dict[str, tuple[str, ...]] = {
    "twist": ("turns", "hand"),
    "opposed": ("turns", "hand"),
    "random": ("pairs", "lift"),
    "ladder": ("pitch",),
    "dimples": ("pitch",),
    "tiled": ("angle",),
    "feather": ("drag",),
}
"""Those of the families that are told apart by eye, and what is asked of each; its other numbers are as usual."""
FAMILIES = {k: WAYS[k] for k in ASKED}


class NameFamily(Model):
    """Made so."""

    do: Literal["name"]
    family: Annotated[str, Field(max_length=40)]


class Try(Model):
    """A face with these numbers."""

    do: Literal["try"]
    values: Annotated[dict[Annotated[str, Field(max_length=20)], Annotated[float, Field(ge=-1e3, le=1e3)]], Field(max_length=8)]


class Done(Model):
    """Like enough."""

    do: Literal["done"]


@dataclass(frozen=True, kw_only=True)
class Face(State):
    """family, values: hidden until they are named, and to the end; choices: offered; named: wrong ones in order; tried: numbers last."""

    family: str
    values: Mapping[str, float]
    choices: tuple[str, ...]
    wrong: tuple[str, ...] = ()
    known: bool = False
    tried: Mapping[str, float] | None = None
    tries: int = 0


def numbers_of(family: str) -> tuple[Number, ...]:
    """Its own, and how deep it is ground."""
    return (*(n for n in FAMILIES[family].numbers if n.key in ASKED[family]), GROUND)


@lru_cache(64)
def _view(family: str, values: tuple[tuple[str, float], ...]) -> tuple[Subject, FaceView]:
    said = dict(values)
    worked = Candidate(family=family, values={k: v for k, v in said.items() if k != GROUND.key}).worked()
    bar = worked.forged.bar
    middle, half = bar.length / 2, min(LONG, bar.length) / 2
    view = FaceView(bar, bar.thickness / 2 * (1 - said["ground"]), middle - half, middle + half)
    return Subject(Trace(worked.forged)), view


def drawn(family: str, values: Mapping[str, float]) -> Drawn:
    """The face of it."""
    return Drawn(*_view(family, tuple(sorted(values.items()))))


@lru_cache(64)
def _pixels(family: str, values: tuple[tuple[str, float], ...]) -> Array:
    subject, view = _view(family, values)
    with ThreadPoolExecutor(1) as pool:
        return draw(subject, view, PX, pool, PREVIEW).astype(np.float64)


def likeness(a: Array, b: Array) -> float:
    """Correlation of two faces over what both have; 0 where either is even."""
    rows = min(a.shape[0], b.shape[0])
    x, y = (v[(v.shape[0] - rows) // 2 :][:rows].ravel() for v in (a, b))
    x, y = x - x.mean(), y - y.mean()
    return float((x * y).sum() / max(np.sqrt((x * x).sum() * (y * y).sum()), 1e-9))


@dataclass(frozen=True)
class Choice:
    """One of four; tells: by what one knows it, told at the end."""

    key: str
    title: str
    tells: str
    wrong: bool


@dataclass(frozen=True)
class Slider(Number):
    """A number to be set."""

    value: float


@dataclass(frozen=True)
class FaceShown(Shown):
    """family: once it was named; like: correlation of the last try; truth: at the end."""

    choices: tuple[Choice, ...]
    family: str
    numbers: tuple[Slider, ...]
    tries: int
    like: float | None
    truth: Mapping[str, float]
    kind: Literal["read_face"] = "read_face"


class ReadFace(Exercise[Face]):
    """Families first, then numbers."""

    key: ClassVar[str] = "read_face"
    title: ClassVar[str] = "Read the face"
    about: ClassVar[str] = "A face is shown. Which steps made it? Name them, then set their numbers until your face is like it."
    action: ClassVar[TypeAdapter[Any]] = TypeAdapter(Annotated[NameFamily | Try | Done, Field(discriminator="do")])

    def begin(self, seed: int) -> Face:
        rng = np.random.default_rng(seed)
        keys = list(FAMILIES)
        choices = tuple(keys[i] for i in rng.permutation(len(keys))[:CHOICES])
        family = choices[int(rng.integers(CHOICES))]
        values = {}
        for n in numbers_of(family):
            steps = round((n.high - n.low) / n.step)
            # away from the ends: there the sliders would tell it
            first, last = (0, steps) if steps == 1 else (1, steps - 1)
            values[n.key] = round(n.low + n.step * int(rng.integers(first, last + 1)), 4)
        return Face(seed, family=family, values=values, choices=choices)

    def moved(self, state: Face, action: NameFamily | Try | Done) -> Face:
        match action:
            case NameFamily():
                return self._named(state, action.family)
            case Try():
                return self._tried(state, action.values)
            case _:
                if not state.known:
                    raise InputError.at("action.do", "what it is was not named yet", "name it first")
                return replace(state, ended=True, done=state.done + 1)

    def _named(self, state: Face, family: str) -> Face:
        if state.known or family in state.wrong or family not in state.choices:
            raise InputError.at("action.family", f"{family[:40]!r} cannot be named now", f"choose one of {', '.join(state.choices)}")
        title = FAMILIES[family].title
        if family == state.family:
            move = Deed(f"Named: {title}.", NAME_MINUTES)
            middle = {n.key: n.low + n.step * round((n.high - n.low) / n.step / 2) for n in numbers_of(family)}
            return replace(state, known=True, tried=middle, moves=(*state.moves, move), done=state.done + 1)
        move = Deed(f"Named: {title}. It is not.", NAME_MINUTES)
        return replace(state, wrong=(*state.wrong, family), moves=(*state.moves, move), done=state.done + 1)

    def _tried(self, state: Face, values: Mapping[str, float]) -> Face:
        if not state.known:
            raise InputError.at("action.do", "what it is was not named yet", "name it first")
        found = {}
        for n in numbers_of(state.family):
            value = values.get(n.key)
            if value is None or not n.low <= value <= n.high:
                raise InputError.at(f"action.values.{n.key}", f"{n.label.lower()} is {value}", f"use {n.low:g} to {n.high:g}")
            # in its steps: -1 or 1, half a turn
            found[n.key] = round(n.low + n.step * round((value - n.low) / n.step), 4)
        _view(state.family, tuple(sorted(found.items())))
        says = ", ".join(f"{n.label.lower()} {found[n.key]:g}" for n in numbers_of(state.family))
        return replace(
            state, tried=found, tries=state.tries + 1, moves=(*state.moves, Deed(f"Tried: {says}.", TRY_MINUTES)), done=state.done + 1
        )

    def shown(self, state: Face) -> FaceShown:
        choices = tuple(Choice(k, FAMILIES[k].title, FAMILIES[k].tells if state.ended else "", k in state.wrong) for k in state.choices)
        tried = state.tried or {}
        numbers = tuple(
            Slider(n.key, n.label, n.unit, n.low, n.high, n.step, n.usual, tried[n.key])
            for n in (numbers_of(state.family) if state.known else ())
        )
        like = self._like(state) if state.known and state.tries else None
        return FaceShown(
            choices, state.family if state.known else "", numbers, state.tries, like, dict(state.values) if state.ended else {}
        )

    def _like(self, state: Face) -> float:
        a, b = (_pixels(state.family, tuple(sorted((v or {}).items()))) for v in (state.values, state.tried))
        return likeness(a, b)

    def picture(self, state: Face, name: str) -> Drawn | None:
        if name == "target":
            return drawn(state.family, state.values)
        return drawn(state.family, state.tried) if name == "guess" and state.known and state.tried else None

    def near(self, state: Face) -> float:
        """How near the numbers are, 0 to 1: nothing a third of a range away."""
        tried = state.tried or {}
        each = []
        for n in numbers_of(state.family):
            off = abs(tried[n.key] - state.values[n.key]) / (n.high - n.low)
            each.append(max(0.0, 1 - 3 * off))
        return float(np.mean(each))

    def result(self, state: Face) -> Result:
        named = max(0.0, 1 - len(state.wrong) / (CHOICES - 1))
        like, near = max(0.0, self._like(state)), self.near(state)
        few = min(1.0, FREE_TRIES / max(state.tries, 1)) if near > 0 else 0.0
        parts = (
            ("named at once", 40.0, 40 * named),
            ("like it", 25.0, 25 * like),
            ("its numbers", 25.0, 25 * near),
            ("few tries", 10.0, 10 * few * near),
        )
        family = FAMILIES[state.family]
        truth = [f"{family.title}: {family.tells}."]
        truth += [f"{n.label}: {state.values[n.key]:g}; yours {(state.tried or {})[n.key]:g}." for n in numbers_of(state.family)]
        named_as = f"Named after {len(state.wrong)} wrong" if state.wrong else "Named at once"
        says = f"{named_as}, likeness {like:.2f} after {state.tries} {'try' if state.tries == 1 else 'tries'}."
        return Result(sum(p[2] for p in parts), says, parts, tuple(truth), state.moves)
