"""Beginning an exercise, and moving it on. A state follows from seed and actions; it is remembered only so as not to be worked out anew."""

import json
import secrets
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Count, Max, Q

from varistrat.core.practice import EXERCISES, exercise_of
from varistrat.core.practice.exercise import SEEDS, State, seed_of
from varistrat.designs.selectors import NotFound
from varistrat.practice.models import Attempt

MOST_KEPT = 500
"""Of one user; the oldest go."""


class MovedOn(Exception):
    """Another page took an action in the meantime."""


@dataclass(frozen=True)
class Best:
    """Of one kind: how many were ended, the best score, and its seed; open: one that was left in the middle, the last."""

    ended: int
    score: float | None
    seed: int | None
    open: int | None


@lru_cache(256)
def _state(kind: str, seed: int, actions: tuple[str, ...]) -> State:
    exercise = exercise_of(kind)
    if not actions:
        return exercise.begin(seed)
    return exercise.advance(_state(kind, seed, actions[:-1]), json.loads(actions[-1]))


def _said(actions: Sequence[Any]) -> tuple[str, ...]:
    return tuple(json.dumps(a, sort_keys=True) for a in actions)


def state_of(attempt: Attempt) -> State:
    """As it now is."""
    return _state(attempt.kind, attempt.seed, _said(attempt.actions))


def begin(*, user: AbstractBaseUser, kind: str, seed: int | None = None) -> Attempt:
    """Raises InputError for a kind or seed there is not."""
    exercise_of(kind)
    seed = secrets.randbelow(SEEDS) if seed is None else seed_of(seed)
    made = Attempt.objects.create(user_id=user.pk, kind=kind, seed=seed)
    kept = Attempt.objects.filter(user_id=user.pk).values_list("pk", flat=True)[:MOST_KEPT]
    Attempt.objects.filter(user_id=user.pk).exclude(pk__in=list(kept)).delete()
    return made


def attempt_of(user: AbstractBaseUser, attempt_id: int) -> Attempt:
    """Raises NotFound, for another user's as well."""
    found = Attempt.objects.filter(user_id=user.pk, pk=attempt_id).first()
    if found is None:
        raise NotFound("exercise")
    return found


@transaction.atomic
def act(*, user: AbstractBaseUser, attempt_id: int, after: int, action: Any) -> Attempt:
    """after: how many actions it had when this one was chosen. Raises NotFound, MovedOn, InputError."""
    attempt = attempt_of(user, attempt_id)
    if after != len(attempt.actions):
        raise MovedOn
    # worked out before anything is written: what cannot be done is not kept
    state = exercise_of(attempt.kind).advance(state_of(attempt), action)
    attempt.actions = [*attempt.actions, action]
    if state.ended:
        result = exercise_of(attempt.kind).result(state)
        attempt.ended, attempt.score, attempt.result = True, result.score, asdict(result)
    attempt.save()
    return attempt


def bests_of(user: AbstractBaseUser) -> dict[str, Best]:
    """Of every kind."""
    rows = Attempt.objects.filter(user_id=user.pk).values("kind").order_by("kind")
    counted = {r["kind"]: r for r in rows.annotate(n=Count("pk", filter=Q(ended=True)), best=Max("score"))}
    left = dict(Attempt.objects.filter(user_id=user.pk, ended=False).order_by("pk").values_list("kind", "pk"))
    out = {}
    for kind in EXERCISES:
        row = counted.get(kind, {"n": 0, "best": None})
        first = Attempt.objects.filter(user_id=user.pk, kind=kind, score=row["best"]).first() if row["best"] is not None else None
        out[kind] = Best(int(row["n"] or 0), row["best"], first.seed if first else None, left.get(kind))
    return out
