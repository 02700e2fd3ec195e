"""Practice: exercises begun, moved on, looked at. What is hidden stays on this side until an exercise has ended."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import TypeAdapter

from varistrat.api.auth import asker, helper
from varistrat.api.errors import Refused
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.practice import ActIn, AttemptOut, ExerciseOut, PracticeIn
from varistrat.core.errors import InputError
from varistrat.core.practice import EXERCISES, exercise_of
from varistrat.core.practice.exercise import Result
from varistrat.designs.services import predict
from varistrat.practice import services
from varistrat.practice.models import Attempt

PX = 900
RESULT = TypeAdapter(Result)
router = Router(tags=["practice"], auth=helper)
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}


def _out(attempt: Attempt) -> AttemptOut:
    state = services.state_of(attempt)
    result = RESULT.validate_python(attempt.result) if attempt.result else None
    return AttemptOut(
        id=attempt.pk,
        kind=attempt.kind,
        title=exercise_of(attempt.kind).title,
        seed=attempt.seed,
        done=state.done,
        ended=state.ended,
        minutes=state.minutes,
        moves=list(state.moves),
        shown=exercise_of(attempt.kind).shown(state),  # type: ignore[arg-type]
        result=result,
        begun=attempt.begun,
    )


@router.get("", response={200: list[ExerciseOut], **PROBLEMS})
def exercises(request: HttpRequest) -> list[ExerciseOut]:
    """All there are, with one's own bests."""
    bests = services.bests_of(asker(request).user)
    return [
        ExerciseOut(
            key=k, title=e.title, about=e.about, ended=bests[k].ended, best=bests[k].score, best_seed=bests[k].seed, open=bests[k].open
        )
        for k, e in EXERCISES.items()
    ]


@router.post("", response={201: AttemptOut, **PROBLEMS})
def begin(request: HttpRequest, asked: PracticeIn) -> tuple[int, AttemptOut]:
    """A new one; with a seed: the same as whoever has it."""
    return 201, _out(services.begin(user=asker(request).user, kind=asked.kind, seed=asked.seed))


@router.get("/{attempt_id}", response={200: AttemptOut, **PROBLEMS})
def one(request: HttpRequest, attempt_id: int) -> AttemptOut:
    return _out(services.attempt_of(asker(request).user, attempt_id))


@router.post("/{attempt_id}/act", response={200: AttemptOut, **PROBLEMS})
def act(request: HttpRequest, attempt_id: int, asked: ActIn) -> AttemptOut:
    """One thing done."""
    try:
        with heavy(request, HEAVY):
            return _out(services.act(user=asker(request).user, attempt_id=attempt_id, after=asked.after, action=asked.action))
    except services.MovedOn:
        raise Refused(409, "stale", "This exercise was gone on with on another page. Look at it anew.") from None


@router.get("/{attempt_id}/{name}.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def picture(request: HttpRequest, attempt_id: int, name: str) -> HttpResponse:
    """One of its pictures."""
    attempt = services.attempt_of(asker(request).user, attempt_id)
    found = exercise_of(attempt.kind).picture(services.state_of(attempt), name)
    if found is None:
        raise InputError.at("name", f"there is no picture {name[:40]!r} of this exercise now", "use target, or guess once it was named")
    with heavy(request, HEAVY) as deadline:
        body = predict.drawn_png(found.subject, found.view, PX, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    response["Cache-Control"] = "no-store"
    return response
