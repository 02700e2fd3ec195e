"""The blade measured, its core line, the tolerance study, and steering by a test etch. Nothing is kept."""

import json
from collections.abc import Iterator
from dataclasses import asdict

import numpy as np
from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router

from varistrat.api.auth import helper
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.blade import (
    MeasuresIn,
    OffcutBarOut,
    OffcutIn,
    PhotoIn,
    PhotoOut,
    PickedOut,
    StationsIn,
    StudyIn,
)
from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.measures import Section, offcut_bar, offcuts, sections
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.core_sheet import CoreSheet, core_sheet
from varistrat.core.design.document import Document
from varistrat.core.design.inference_sheet import InferenceSheet, inference_sheet
from varistrat.core.design.measures_sheet import MeasuresSheet, measures_sheet
from varistrat.core.errors import InputError
from varistrat.core.interchange.blade_outline import outline_rings
from varistrat.core.laminate.aim import Band
from varistrat.core.laminate.exposure import stations
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import Study, study
from varistrat.designs.services import predict

router = Router(tags=["blade"], auth=helper)
STUDY_MOST = 3_000_000
"""Blades times stations: some eight seconds and half a gigabyte."""


def _cut(document: Document) -> Cut:
    return predict.work_out(document).blade


@router.post("/core", response={200: CoreSheet, **PROBLEMS})
def core(request: HttpRequest, asked: StationsIn) -> CoreSheet:
    return core_sheet(predict.work_out(asked.document), asked.stations)


@router.post("/sections", response={200: list[Section], **PROBLEMS})
def cut_across(request: HttpRequest, asked: StationsIn) -> list[Section]:
    cut = _cut(asked.document)
    x = stations(cut.geometry, asked.stations)
    flat = (cut.geometry.blade.laminate.core.share, 0.0) if cut.geometry.blade.laminate else cut.flat_core
    return sections(cut.geometry, x, flat, points=25)


@router.post("/measures", response={200: MeasuresSheet, **PROBLEMS})
def measures(request: HttpRequest, asked: MeasuresIn) -> MeasuresSheet:
    return measures_sheet(predict.work_out(asked.document), asked.above, asked.belts)


@router.post("/offcut", response={200: OffcutBarOut, **PROBLEMS})
def offcut(request: HttpRequest, asked: OffcutIn) -> OffcutBarOut:
    """One of the offcuts that `measures` lists as the document of a bar of its own."""
    cut = _cut(asked.document)
    found = {o.name: o for o in offcuts(cut.placed)}
    if asked.name not in found:
        raise InputError.at("name", f"there is no offcut called {asked.name}", "choose one that is there")
    bar = offcut_bar(cut.placed, found[asked.name], asked.document.carried_out().bar, asked.document.shop)
    name = f"{asked.document.recipe.name} {asked.name}".strip()[:200]
    return OffcutBarOut(document=Document(recipe=Recipe(name=name, bar=bar)).as_json())


@router.post("/study", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/x-ndjson": {}}}}})
def tolerance(request: HttpRequest, asked: StudyIn) -> StreamingHttpResponse:
    """Lines of JSON: {"done": 0..1} while it works, the study last. Going away stops it."""
    if asked.blades * asked.stations > STUDY_MOST:
        raise InputError.at(
            "blades",
            f"{asked.blades} blades at {asked.stations} stations are too many",
            f"keep blades times stations within {STUDY_MOST / 1e6:g} million",
        )
    cut = _cut(asked.document)
    lamina = Lamina.of(cut, stations(cut.geometry, asked.stations))
    band = Band.of(asked.document.aim, cut.geometry)
    steps = study(lamina, asked.document.sizes, band, predict.study_executor(), blades=asked.blades)
    response = StreamingHttpResponse(_told(steps), content_type="application/x-ndjson")
    response["Cache-Control"] = "no-store"
    return response


def _told(steps: Iterator[float | Study]) -> Iterator[str]:
    while True:
        step = next(steps, None)
        if step is None:
            return
        yield json.dumps({"done": step} if isinstance(step, float) else {"study": asdict(step)}) + "\n"


@router.post("/inference", response={200: InferenceSheet, **PROBLEMS})
def steer(request: HttpRequest, asked: DocumentIn) -> InferenceSheet:
    return inference_sheet(predict.work_out(asked.document))


@router.post("/photo", response={200: PhotoOut, **PROBLEMS})
def photo(request: HttpRequest, asked: PhotoIn) -> PhotoOut:
    """Places picked on a photograph as heights above the edge; the photograph itself never leaves the browser."""
    geometry = _cut(asked.document).geometry
    seen = sight([Mark(m.px, m.py, m.x, m.y) for m in asked.marks])
    places = seen.blade(np.array(asked.points, float).reshape(-1, 2))
    if not np.isfinite(places).all():
        raise InputError.at("points", "a picked place lies beyond the horizon of these marks", "check the marks")
    x, y = places[:, 0], places[:, 1]
    at = np.clip(x, 0, geometry.length)
    h = y - geometry.curves.edge(at)
    cos = np.cos(geometry.curves.edge_angle(at))
    inside = (x >= 0) & (x <= geometry.length) & (h >= 0) & (h <= geometry.height(at))
    rim = seen.picture(outline_rings(geometry)["blade"][::4])
    picked = [PickedOut(x=float(a), height=float(b * c), inside=bool(i)) for a, b, c, i in zip(x, h, cos, inside, strict=True)]
    return PhotoOut(worst=seen.worst, points=picked, rim=rim.round(2).tolist() if np.isfinite(rim).all() else [])
