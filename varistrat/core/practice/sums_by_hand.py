"""Sums of the bench worked by hand: what is wanted is asked, the working shown after."""

from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, TypeAdapter

from varistrat.core.errors import InputError
from varistrat.core.model import Model
from varistrat.core.practice.exercise import Deed, Exercise, Result, Shown, State
from varistrat.core.sums.fit_up import FIT_UP
from varistrat.core.sums.sum import Quantity, Sum

ROUNDS = 5
RIGHT, NEAR = 0.01, 0.05
"""Off by such a share: right; half right."""
BY_SUM: dict[str, Sum] = {s.key: s for s in FIT_UP}


class Answer(Model):
    """What one worked out, in the unit asked for."""

    do: Literal["answer"]
    value: Annotated[float, Field(ge=-1e7, le=1e7)]


@dataclass(frozen=True)
class Asked:
    """A sum, the quantity wanted, what is known, and what it comes to."""

    key: str
    wanted: str
    known: tuple[tuple[str, float], ...]
    value: float

    @property
    def quantity(self) -> Quantity:
        """The one wanted."""
        return next(q for q in BY_SUM[self.key].quantities if q.key == self.wanted)


@dataclass(frozen=True, kw_only=True)
class Sheet(State):
    """rounds: what is asked; said: answered so far."""

    rounds: tuple[Asked, ...]
    said: tuple[float, ...] = ()


def _rounded(value: float, whole: bool) -> float:
    return float(max(1, round(value))) if whole else float(f"{value:.2g}")


def _asked(rng: np.random.Generator, s: Sum) -> Asked | None:
    """Numbers near the usual ones, rounded as one would say them; None where they fit no sum."""
    usual = s.fill(None, {})  # type: ignore[arg-type]
    free = [q for q in s.quantities if not q.given]
    wanted = free[int(rng.integers(len(free)))]
    known = {}
    for q in s.quantities:
        if q.key == wanted.key:
            continue
        base = usual.get(q.key)
        if base is None:
            base = s.solve(usual, q.key)
        known[q.key] = min(max(_rounded(base * float(rng.uniform(0.8, 1.25)), q.whole), q.least), q.most)
    try:
        value = s.solve(known, wanted.key)
    except InputError:
        return None
    if wanted.whole and abs(value - round(value)) > 1e-6:
        return None
    return Asked(s.key, wanted.key, tuple(known.items()), value)


@dataclass(frozen=True)
class Known:
    """A quantity that is given."""

    label: str
    unit: str
    value: float


@dataclass(frozen=True)
class SumAsked:
    """A sum: its formula, what is known, what is wanted; value, said, points: once it is answered."""

    title: str
    formula: str
    label: str
    unit: str
    known: tuple[Known, ...]
    value: float | None = None
    said: float | None = None
    points: float | None = None


@dataclass(frozen=True)
class SumsShown(Shown):
    """now: the one to be worked; before: those that were."""

    now: SumAsked | None
    before: tuple[SumAsked, ...]
    rounds: int
    kind: Literal["sums"] = "sums"


class SumsByHand(Exercise[Sheet]):
    """A few of those that are done at the last bench."""

    key: ClassVar[str] = "sums"
    title: ClassVar[str] = "Sums"
    about: ClassVar[str] = (
        "Five sums of the bench on paper: the bevel's angle, drills for a slot, pins, glue in the cold. Then the working."
    )
    action: ClassVar[TypeAdapter[Any]] = TypeAdapter(Answer)

    def begin(self, seed: int) -> Sheet:
        rng = np.random.default_rng(seed)
        rounds: list[Asked] = []
        order = [FIT_UP[i] for i in rng.permutation(len(FIT_UP))]
        for n in range(40 * len(order)):
            if len(rounds) == ROUNDS:
                break
            if (found := _asked(rng, order[n % len(order)])) and all(found.key != r.key for r in rounds):
                rounds.append(found)
        return Sheet(seed, rounds=tuple(rounds))

    def moved(self, state: Sheet, action: Answer) -> Sheet:
        asked = state.rounds[state.done]
        said = (*state.said, action.value)
        unit = f" {asked.quantity.unit}".rstrip()
        move = Deed(f"{BY_SUM[asked.key].title}: {action.value:g}{unit}, it is {asked.value:.4g}{unit}")
        return replace(state, said=said, moves=(*state.moves, move), done=state.done + 1, ended=len(said) == len(state.rounds))

    def shown(self, state: Sheet) -> SumsShown:
        before = (
            replace(self._told(a), value=a.value, said=v, points=points(a, v)) for a, v in zip(state.rounds, state.said, strict=False)
        )
        return SumsShown(None if state.ended else self._told(state.rounds[state.done]), tuple(before), len(state.rounds))

    def _told(self, asked: Asked) -> SumAsked:
        s = BY_SUM[asked.key]
        by = {q.key: q for q in s.quantities}
        known = tuple(Known(by[k].label, by[k].unit, v) for k, v in asked.known)
        return SumAsked(s.title, s.formula, asked.quantity.label, asked.quantity.unit, known)

    def result(self, state: Sheet) -> Result:
        each = [points(a, v) for a, v in zip(state.rounds, state.said, strict=True)]
        right = sum(p == 1 for p in each)
        parts = tuple((BY_SUM[a.key].title, 1.0, p) for a, p in zip(state.rounds, each, strict=True))
        truth = tuple(f"{BY_SUM[a.key].title}: {BY_SUM[a.key].formula}. {BY_SUM[a.key].note}".strip() for a in state.rounds)
        return Result(100 * sum(each) / len(each), f"{right} of {len(each)} right to a hundredth.", parts, truth, state.moves)


def points(asked: Asked, said: float) -> float:
    """1 when it is right to RIGHT of it, a half to NEAR."""
    off = abs(said - asked.value) / max(abs(asked.value), 1e-9)
    return 1.0 if off <= RIGHT + 1e-12 else 0.5 if off <= NEAR else 0.0
