"""A piece has gone wrong: what is seen and a few readings are told; looks cost minutes; name the cause."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, TypeAdapter

from varistrat.core.errors import InputError
from varistrat.core.faults.inference import SURE, find
from varistrat.core.faults.knowledge import Cue, knowledge
from varistrat.core.model import Model
from varistrat.core.practice.exercise import Deed, Exercise, Result, Shown, State

WRONG_COSTS = 30.0
"""min: a cure of the wrong thing."""
MANY = 4
"""Causes that make a case worth looking into."""
TOLD = 3
"""Readings in the story."""


class LookFor(Model):
    """Look for a cause's sign."""

    do: Literal["look"]
    cause: Annotated[str, Field(max_length=60)]


class NameIt(Model):
    """It comes from this."""

    do: Literal["name"]
    cause: Annotated[str, Field(max_length=60)]


@dataclass(frozen=True, kw_only=True)
class Case(State):
    """seen; cause: hidden; figures: of the story, by what cues read; signs: what each look would show, hidden; answers: looks taken;
    wrong: causes that were named and were not it."""

    seen: str
    cause: str
    figures: Mapping[str, float]
    signs: Mapping[str, bool]
    answers: Mapping[str, bool]
    wrong: tuple[str, ...] = ()


def _figure(rng: np.random.Generator, cue: Cue, so: bool) -> float:
    """A reading clearly over or under the cue's limit, as the cue is or is not so."""
    over = (cue.over is not None) == so
    return float(cue.limit + (1 if over else -1) * cue.width * rng.uniform(1.0, 2.5))


@dataclass(frozen=True)
class CauseShown:
    """A cause that it may be: the look for its sign, min, and what that showed; wrong: it was named and was not it."""

    key: str
    says: str
    ask: str
    minutes: float
    answer: bool | None
    wrong: bool


@dataclass(frozen=True)
class CaseShown(Shown):
    """seen: its key; what is seen in words, how it looks, readings of the story."""

    seen: str
    says: str
    look: str
    readings: tuple[str, ...]
    causes: tuple[CauseShown, ...]
    minutes: float
    kind: Literal["find_fault"] = "find_fault"


class FindFault(Exercise[Case]):
    """Planted by the same odds and chances by which it is found."""

    key: ClassVar[str] = "find_fault"
    title: ClassVar[str] = "Find the fault"
    about: ClassVar[str] = (
        "Something has gone wrong. Choose your looks, each costs minutes, and name the cause before you cure the wrong thing."
    )
    action: ClassVar[TypeAdapter[Any]] = TypeAdapter(Annotated[LookFor | NameIt, Field(discriminator="do")])

    def begin(self, seed: int) -> Case:
        rng, known = np.random.default_rng(seed), knowledge()
        many = sorted(k for k, s in known.seen.items() if len(s.causes) >= MANY)
        seen = many[int(rng.integers(len(many)))]
        causes = known.seen[seen].causes
        odds = np.array(list(causes.values()))
        cause = list(causes)[int(rng.choice(len(odds), p=odds / odds.sum()))]
        figures: dict[str, float] = {}
        fits = [c for c in known.cues.values() if set(c.chance) & set(causes)]
        for i in rng.permutation(len(fits))[:TOLD]:
            cue = fits[int(i)]
            figures.setdefault(cue.reads, _figure(rng, cue, bool(rng.random() < cue.chance.get(cause, cue.other))))
        signs = {c: bool(rng.random() < known.chance(c, cause)) for c in causes}
        return Case(seed, seen=seen, cause=cause, figures=figures, signs=signs, answers={})

    def moved(self, state: Case, action: LookFor | NameIt) -> Case:
        known = knowledge()
        if action.cause not in known.seen[state.seen].causes:
            raise InputError.at("action.cause", f"{action.cause[:40]!r} is not among what it can come from", "choose one of them")
        cause = known.causes[action.cause]
        if isinstance(action, LookFor):
            if action.cause in state.answers:
                raise InputError.at("action.cause", "you looked there already", "choose another look")
            yes = state.signs[action.cause]
            move = Deed(f"{cause.sign.ask} {'Yes' if yes else 'No'}.", cause.sign.minutes)
            return replace(state, answers={**state.answers, action.cause: yes}, moves=(*state.moves, move), done=state.done + 1)
        if action.cause in state.wrong:
            raise InputError.at("action.cause", "it was not that", "choose another")
        if action.cause == state.cause:
            return replace(state, moves=(*state.moves, Deed(f"Named: {cause.says}.")), done=state.done + 1, ended=True)
        move = Deed(f"Cured the wrong thing: {cause.says}.", WRONG_COSTS)
        return replace(state, wrong=(*state.wrong, action.cause), moves=(*state.moves, move), done=state.done + 1)

    def shown(self, state: Case) -> CaseShown:
        known = knowledge()
        seen = known.seen[state.seen]
        cues = {c.reads: c for c in known.cues.values()}
        causes = tuple(
            CauseShown(c, k.says, k.sign.ask, k.sign.minutes, state.answers.get(c), c in state.wrong)
            for c in sorted(seen.causes)
            if (k := known.causes[c])
        )
        readings = tuple(cues[r].says.format(value=v) if "{value" in cues[r].says else _told(cues[r], v) for r, v in state.figures.items())
        return CaseShown(state.seen, seen.says, seen.look, readings, causes, state.minutes)

    def best(self, state: Case) -> tuple[Deed, ...]:
        """What the look that tells most would have come to, look by look."""
        known = knowledge()
        answers: dict[str, bool] = {}
        wrong: set[str] = set()
        moves: list[Deed] = []
        while True:
            found = find(state.seen, state.figures, answers)
            first = next(s for s in found.suspects if s.cause not in wrong)
            look = found.look
            if look is not None and first.odds < SURE:
                answers[look.cause] = state.signs[look.cause]
                moves.append(Deed(f"{look.ask} {'Yes' if answers[look.cause] else 'No'}.", look.minutes))
                continue
            if first.cause == state.cause:
                return (*moves, Deed(f"Named: {known.causes[first.cause].says}."))
            wrong.add(first.cause)
            moves.append(Deed(f"Cured the wrong thing: {known.causes[first.cause].says}.", WRONG_COSTS))

    def result(self, state: Case) -> Result:
        known, expert = knowledge(), self.best(state)
        best = sum(m.minutes for m in expert)
        quick = min(1.0, (best + 5) / (state.minutes + 5))
        named = max(0.0, 1 - len(state.wrong) / 2)
        cause = known.causes[state.cause]
        says = f"{state.minutes:.0f} min, the best look each time takes {best:.0f}." + (
            f" {len(state.wrong)} wrong cures." if state.wrong else ""
        )
        parts = (("named at once", 50.0, 50 * named), ("quickly", 50.0, 50 * quick))
        return Result(
            50 * named + 50 * quick,
            says,
            parts,
            (f"It was: {cause.says}.", f"Now: {cause.now}", f"Next time: {cause.avoid}"),
            state.moves,
            expert,
        )


def _told(cue: Cue, value: float) -> str:
    return cue.says if cue.degree(value) >= 0.5 else f"Not so: {cue.says[0].lower()}{cue.says[1:]}"
