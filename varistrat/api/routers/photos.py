"""A photo of a build held against the prediction: laid over it, and what it tells of how the blade was made. Nothing is kept."""

import json
from collections.abc import Callable, Generator
from concurrent.futures import ThreadPoolExecutor, wait
from functools import lru_cache, partial
from threading import Event
from typing import Annotated, Any
from uuid import UUID

import numpy as np
from django.conf import settings
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router

from varistrat.api.auth import asker, helper
from varistrat.api.errors import Refused
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.photos import (
    FaceToMarkOut,
    FitIn,
    FittedOut,
    MadeFaceIn,
    PhotoFitOut,
    PhotoLaidIn,
    TakenOverOut,
    TakeOverIn,
    ToMarkOut,
)
from varistrat.api.shop import shop_of
from varistrat.builds import selectors
from varistrat.builds.services import photos
from varistrat.core.blade.geometry import Side
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.limits import MAX_DRAW_SECONDS
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.bench import OnBench, as_it_comes_out
from varistrat.core.photo.face import PredictedFace
from varistrat.core.photo.fit import PhotoFit, fit_photo
from varistrat.core.photo.flat import evened, grey_of, laid_flat, to_mark
from varistrat.core.photo.numbers import numbers_of, taken_over, usual_of
from varistrat.core.photo.words import word
from varistrat.designs.services import predict

router = Router(tags=["builds"], auth=helper)
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}
JPEG: dict[str, Any] = {"responses": {200: {"content": {"image/jpeg": {}}}}}
LINES: dict[str, Any] = {"responses": {200: {"content": {"application/x-ndjson": {}}}}}
Station = Annotated[float | None, Query(ge=0, le=5000)]
TOLD_EVERY = 0.15
"""s."""


def _made(request: HttpRequest, build_id: int) -> Worked:
    """The blade of a build as it is being made."""
    worked = selectors.made(selectors.build_of(asker(request).shop, build_id), shop_of(request)).worked
    worked.blade  # noqa: B018  says what keeps it from being cut
    return worked


def _photo(request: HttpRequest, build_id: int, uid: UUID) -> bytes:
    return photos.open_photo(selectors.build_of(asker(request).shop, build_id), uid, small=False).read_bytes()


@router.get("/{build_id}/face-to-mark", response={200: FaceToMarkOut, **PROBLEMS})
def face_to_mark(request: HttpRequest, build_id: int, side: Side = "right", station: Station = None) -> FaceToMarkOut:
    """What is marked on a photo of one face, and what it may tell; station: mm from the heel, where edge and spine are marked."""
    worked = _made(request, build_id)
    curves = worked.blade.geometry.curves
    low, high = curves.span()
    numbers = numbers_of(worked, side)
    places = [ToMarkOut(name=name, x=x, y=y) for name, x, y in to_mark(curves, station)]
    return FaceToMarkOut(marks=places, width=curves.length, height=high - low, numbers=numbers, usual=usual_of(numbers))


@router.get("/{build_id}/stand-in-photo.jpg", response={200: None, **PROBLEMS}, openapi_extra=JPEG)
def stand_in_photo(request: HttpRequest, build_id: int, side: Side = "right") -> HttpResponse:
    """In the demo: what the camera that stands in for a real one sees of the finished blade, a little otherwise than planned."""
    if not settings.DEMO:
        raise Refused(404, "no_stand_in", "Only the demo has a camera that stands in for a real one: take a photo of the blade.")
    worked = _made(request, build_id)
    with heavy(request, HEAVY):
        bench = OnBench(as_it_comes_out(worked, side, build_id), side, predict.executor())
        return HttpResponse(bench.camera(build_id).read().jpeg, content_type="image/jpeg")


@router.post("/{build_id}/photos/{uid}/laid", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def laid(request: HttpRequest, build_id: int, uid: UUID, asked: PhotoLaidIn) -> HttpResponse:
    """The photo on the blade's own frame, to the scale of its prediction; even: with its light taken out."""
    worked, body = _made(request, build_id), _photo(request, build_id, uid)
    seen_by = sight([Mark(m.px, m.py, m.x, m.y) for m in asked.marks])
    with heavy(request, HEAVY):
        face = PredictedFace(worked, asked.side, [], asked.px)
        grey, seen = laid_flat(grey_of(body), seen_by, BladeView(worked.blade.placed, asked.side), face.a, face.b)
        if asked.even:
            grey = np.clip(0.45 * (1 + evened(grey, seen & face.steel, face.wide)), 0, 1)
        picture = (np.clip(grey, 0, 1) * 255 + 0.5).astype(np.uint8)
    shown = np.stack([picture, np.where(seen & face.on_blade, 255, 0).astype(np.uint8)], axis=-1)
    return HttpResponse(png(shown, 1 / face.pixel), content_type="image/png")


@router.post("/{build_id}/made-face", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def made_face(request: HttpRequest, build_id: int, asked: MadeFaceIn) -> HttpResponse:
    """The predicted face of the blade as it is being made, with what a photo told."""
    worked = _made(request, build_id)
    if asked.changes:
        worked = predict.work_out(taken_over(worked, asked.side, asked.changes))
    picture = predict.BladePicture(asked.side, asked.px, margin=0.0, book=False)
    with heavy(request, predict.blade_cost(worked, picture)) as deadline:
        body = predict.blade_png(worked, picture, worked.fired_tones, deadline.stop)
    return HttpResponse(body, content_type="image/png")


@lru_cache(maxsize=1)
def _fitter() -> ThreadPoolExecutor:
    """One at a time: it is seconds of work, and others want pictures meanwhile."""
    return ThreadPoolExecutor(1, thread_name_prefix="photo")


@router.post("/{build_id}/photos/{uid}/fit", response={200: None, **PROBLEMS}, openapi_extra=LINES)
def fit(request: HttpRequest, build_id: int, uid: UUID, asked: FitIn) -> StreamingHttpResponse:
    """Lines of JSON: {"done": 0..1} while it works, then {"fit": ...} or {"problem": ...}. Going away stops it."""
    worked, body = _made(request, build_id), _photo(request, build_id, uid)
    marks = [Mark(m.px, m.py, m.x, m.y) for m in asked.marks]
    sight(marks)
    work = partial(fit_photo, worked, asked.side, grey_of(body), marks, asked.numbers)
    response = StreamingHttpResponse(_lines(work), content_type="application/x-ndjson")
    response["Cache-Control"] = "no-store"
    return response


def _lines(work: Callable[..., PhotoFit]) -> Generator[str, None, None]:
    far, gone = [0.0], Event()

    def say(done: float) -> None:
        far[0] = done

    running = _fitter().submit(work, progress=say, cancelled=gone.is_set)
    try:
        waited = 0.0
        while not wait([running], TOLD_EVERY).done:
            waited += TOLD_EVERY if far[0] else 0.0
            if waited > 3 * MAX_DRAW_SECONDS:
                raise InputError.at("numbers", "this takes too long", "look for fewer numbers at once")
            yield json.dumps({"done": round(far[0], 3)}) + "\n"
        found = running.result()
        yield json.dumps({"fit": _out(found).dict()}) + "\n"
    except InputError as e:
        yield json.dumps({"problem": f"{e.problems[0].wrong}; {e.problems[0].cure}"}) + "\n"
    except Cancelled:
        return
    finally:
        gone.set()


def _out(found: PhotoFit) -> PhotoFitOut:
    numbers = []
    for n in found.numbers:
        made, low, high = n.made
        numbers.append(FittedOut(fitted=n, made=made, made_low=min(low, high), made_high=max(low, high), words=word(n)))
    return PhotoFitOut(numbers=numbers, like_planned=found.like_planned, like=found.like)


@router.post("/{build_id}/take-over", response={200: TakenOverOut, **PROBLEMS})
def take_over(request: HttpRequest, build_id: int, asked: TakeOverIn) -> TakenOverOut:
    """The design of this build as its photo shows it; amending the build with it is another question."""
    document = taken_over(_made(request, build_id), asked.side, asked.changes)
    return TakenOverOut(document=document.as_json(), why=f"as the photo of the {asked.side} face shows it")
