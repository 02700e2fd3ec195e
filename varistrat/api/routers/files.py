"""Open formats in and out: sections as drawings, bars and blades as solids, outlines read from drawings."""

import math
from collections.abc import Callable
from typing import Any, Literal, TypeVar

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from varistrat.api import uploads
from varistrat.api.auth import helper
from varistrat.api.gate import Busy, heavy
from varistrat.api.latest import still_wanted
from varistrat.api.schemas import PROBLEMS, DrawingIn, OutlinesOut, SolidIn
from varistrat.api.schemas.blade import BladeOutlineOut, OutlineFileIn
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError
from varistrat.core.interchange.apart import ReadersBusy, read_apart
from varistrat.core.interchange.blade_outline import Asked, read_blade_outline, write_blade_outline
from varistrat.core.interchange.drawing import draw_section, section_points
from varistrat.core.interchange.glb import bar_glb, blade_glb
from varistrat.core.interchange.outline import read_outlines
from varistrat.core.limits import MAX_DRAWING_BYTES
from varistrat.core.pattern.cuts import Plane, SectionView
from varistrat.core.pattern.picture import Subject
from varistrat.designs.services import predict

Read = TypeVar("Read")
router = Router(tags=["files"], auth=helper)
TYPES = {"svg": "image/svg+xml", "dxf": "image/vnd.dxf", "tiff": "image/tiff"}
DRAWN: dict[str, Any] = {"responses": {200: {"content": {t: {} for t in TYPES.values()}}}}
GLB: dict[str, Any] = {"responses": {200: {"content": {"model/gltf-binary": {}}}}}


@router.post("/section", response={200: None, **PROBLEMS}, openapi_extra=DRAWN)
def section(request: HttpRequest, asked: DrawingIn) -> HttpResponse:
    forged = predict.bar_after(predict.work_out(asked.document), asked.bar, asked.stages)
    x = min(max(asked.plane.x, 0.0), forged.bar.length)
    view = SectionView(forged.bar, Plane(x, asked.plane.turn, asked.plane.lean))
    title = f"{asked.document.recipe.name or 'Section'} at {x:.2f} mm"
    with heavy(request, section_points(view, asked.kind) * predict.steps_deep(forged)) as deadline:
        body = draw_section(Trace(forged), view, asked.kind, title, deadline.check)
    response = HttpResponse(body, content_type=TYPES[asked.kind])
    response["Content-Disposition"] = f'attachment; filename="section.{asked.kind}"'
    return response


@router.post("/solid.glb", response={200: None, **PROBLEMS}, openapi_extra=GLB)
def solid(request: HttpRequest, asked: SolidIn) -> HttpResponse:
    worked, wanted = predict.work_out(asked.document), still_wanted(request)
    if asked.blade:
        if worked.cut is None:
            raise InputError(worked.problems) if worked.problems else InputError.at("blade", "there is no blade in this design", "add one")
        with heavy(request, asked.px**2 * 4 * predict.steps_deep(worked.forged), wanted) as deadline:
            body = blade_glb(worked.cut, worked.cut.subject(), predict.executor(), asked.px, deadline.stop)
    else:
        forged = predict.bar_after(worked, asked.bar, asked.stages)
        with heavy(request, asked.px**2 * 6 * predict.steps_deep(forged), wanted) as deadline:
            body = bar_glb(Subject(Trace(forged)), predict.executor(), asked.px, asked.x1, deadline.stop)
    response = HttpResponse(body, content_type="model/gltf-binary")
    response["Content-Disposition"] = 'attachment; filename="solid.glb"'
    return response


SIMPLER = "save the drawing simpler"


def _read(reader: Callable[..., Read], *given: Any) -> Read:
    """Nothing in a drawing is trusted: it is read apart, few at a time."""
    try:
        return read_apart(reader, *given)
    except ReadersBusy:
        raise Busy from None


@router.post("/outlines", response={200: OutlinesOut, **PROBLEMS})
def outlines(request: HttpRequest, file: UploadedFile = File(...)) -> OutlinesOut:  # type: ignore[type-arg]  # noqa: B008
    return OutlinesOut(outlines=_read(read_outlines, file.name or "", uploads.content(file, MAX_DRAWING_BYTES, SIMPLER)))


@router.post("/blade-outline", response={200: BladeOutlineOut, **PROBLEMS})
def blade_outline(
    request: HttpRequest,
    file: UploadedFile = File(...),  # type: ignore[type-arg]  # noqa: B008
    tip: Literal["right", "left"] = "right",
    edge: Literal["down", "up"] = "down",
    length: float | None = None,
    heel: float = 0.0,
) -> BladeOutlineOut:
    """A blade's outline from a drawing; query: how it lies, its true length (mm), how much of that is tang (mm)."""
    data = uploads.content(file, MAX_DRAWING_BYTES, SIMPLER)
    if not all(math.isfinite(v) for v in (length or 0.0, heel)):
        raise InputError.at("length", "this is no length", "give it in mm")
    found = _read(read_blade_outline, file.name or "", data, Asked(tip, edge, length, heel))
    return BladeOutlineOut(outline=found.outline.model_dump(mode="json"), length=found.length, height=found.height, notes=list(found.notes))


@router.post("/outline", response={200: None, **PROBLEMS}, openapi_extra=DRAWN)
def outline(request: HttpRequest, asked: OutlineFileIn) -> HttpResponse:
    """The blade's outline, and its tang's, to scale."""
    geometry = predict.work_out(asked.document).blade.geometry
    body = write_blade_outline(geometry, asked.kind, asked.document.recipe.name or "Blade")
    response = HttpResponse(body, content_type=TYPES[asked.kind])
    response["Content-Disposition"] = f'attachment; filename="blade.{asked.kind}"'
    return response
