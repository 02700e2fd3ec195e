"""What an exercise is: begun from a seed, moved on by actions, its hidden truth told only once it has ended.

A state follows from seed and actions alone, so that those are all that is kept, and whoever has the seed has the same exercise.
"""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar, Generic, TypeVar

import numpy as np
from pydantic import TypeAdapter, ValidationError

from varistrat.core.errors import InputError, Problem
from varistrat.core.pattern.picture import Subject
from varistrat.core.pattern.views import View
from varistrat.core.reading import let_go

MOST_ACTIONS = 200
"""In one exercise."""
SEEDS = 1_000_000


@dataclass(frozen=True)
class Deed:
    """One thing done: in words, and what it cost, min."""

    says: str
    minutes: float = 0.0


@dataclass(frozen=True)
class Result:
    """score: 0 to 100; says: in a sentence; parts: what it is made of, (what, of how many, points); truth: in sentences; yours, expert:
    move by move."""

    score: float
    says: str
    parts: tuple[tuple[str, float, float], ...]
    truth: tuple[str, ...]
    yours: tuple[Deed, ...] = ()
    expert: tuple[Deed, ...] = ()


@dataclass(frozen=True)
class Drawn:
    """A picture of something in an exercise."""

    subject: Subject
    view: View


@dataclass(frozen=True)
class Shown:
    """What may be seen of an exercise; each has its own."""


@dataclass(frozen=True)
class State:
    """seed; done: how many actions were taken; ended: nothing more can be done."""

    seed: int
    done: int = 0
    ended: bool = False
    moves: tuple[Deed, ...] = field(default=())

    @property
    def minutes(self) -> float:
        """Of all moves."""
        return sum(m.minutes for m in self.moves)

    def chance(self, more: int = 0) -> np.random.Generator:
        """The luck of the next action: alike every time it is taken from here."""
        return np.random.default_rng([self.seed, self.done, more])


S = TypeVar("S", bound=State)


class Exercise(ABC, Generic[S]):
    """key; title; about: what is asked of one; teaches: what one learns by it; action: how an action is written."""

    key: ClassVar[str]
    title: ClassVar[str]
    about: ClassVar[str]
    action: ClassVar[TypeAdapter[Any]]

    @abstractmethod
    def begin(self, seed: int) -> S:
        """Raises nothing: every seed is an exercise."""

    @abstractmethod
    def moved(self, state: S, action: Any) -> S:
        """The state after an action. Raises InputError for one that cannot be."""

    @abstractmethod
    def shown(self, state: S) -> "Shown":
        """All that may be seen of it now: never what is hidden before its end."""

    @abstractmethod
    def result(self, state: S) -> Result:
        """Once it has ended."""

    def picture(self, state: S, name: str) -> Drawn | None:
        """One of its pictures by name; None where it has none of that name."""
        return None

    def advance(self, state: S, action: object) -> S:
        """Pure. Raises InputError for what is no action of this exercise, or comes after its end."""
        if state.ended:
            raise InputError.at("action", "this exercise has ended", "begin another, or this one anew with its seed")
        if state.done >= MOST_ACTIONS:
            raise InputError.at("action", f"{MOST_ACTIONS} actions are enough", "end it")
        try:
            return self.moved(state, self.action.validate_python(action))
        except ValidationError as e:
            let_go(e)
            raise InputError(
                [Problem(".".join(["action", *map(str, p["loc"])]), p["msg"], "see what this exercise takes") for p in e.errors()]
            ) from e

    def replayed(self, seed: int, actions: Sequence[object]) -> S:
        """From its beginning through all of these."""
        state = self.begin(seed)
        for action in actions:
            state = self.advance(state, action)
        return state


def seed_of(value: int) -> int:
    """Raises InputError for one out of range."""
    if not 0 <= value < SEEDS:
        raise InputError.at("seed", f"{value} is no seed", f"use 0 to {SEEDS - 1}")
    return value
