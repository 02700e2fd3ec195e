"""The blade measured, its core line, the tolerance study, and steering by a test etch. Nothing is kept."""

import json
from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

import numpy as np
from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router

from varistrat.api.auth import helper
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.blade import (
    CoreOut,
    MeasuresIn,
    MeasuresOut,
    OffcutBarOut,
    OffcutIn,
    PhotoIn,
    PhotoOut,
    SectionOut,
    StationsIn,
    SteeredOut,
    StudyIn,
)
from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.belts import BELTS, Belt, bevel_plan
from varistrat.core.blade.geometry import SIDES
from varistrat.core.blade.measures import (
    FOR_USE,
    HANDLES,
    Handle,
    balance,
    behind_edge,
    included_angle,
    offcut_bar,
    offcuts,
    sections,
    stations_where_ground,
)
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.edge import edge_steels, stretches
from varistrat.core.design.document import Document, stations_json
from varistrat.core.errors import InputError
from varistrat.core.interchange.blade_outline import outline_rings
from varistrat.core.laminate.aim import Band, grade
from varistrat.core.laminate.exposure import Station, stations
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.laminate.readings import must_be_of
from varistrat.core.study.correction import correct
from varistrat.core.study.inference import infer
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import Study, study
from varistrat.designs.services import predict

router = Router(tags=["blade"], auth=helper)
STEER_STATIONS = 40
STUDY_MOST = 3_000_000
"""Blades times stations: some eight seconds and half a gigabyte."""


def _cut(document: Document) -> Cut:
    return predict.the_cut(predict.work_out(document))


def _flat(cut: Cut) -> bool:
    return bool(cut.geometry.blade.laminate) or cut.flat_core is not None


@router.post("/core", response={200: CoreOut, **PROBLEMS})
def core(request: HttpRequest, asked: StationsIn) -> Any:
    cut = _cut(asked.document)
    band = Band.of(asked.document.aim, cut.geometry)
    found: list[dict[str, Any]] = []
    judged = None
    if cut.geometry.blade.laminate or cut.part:
        found = stations_json(cut, asked.stations)
        judged = grade([_vertical(s) for s in found], band)
    edge = [
        {
            "start": s.start,
            "end": s.end,
            "steel": s.steel,
            "name": cut.trace.forged.shop.steels[s.steel].name,
            "hardens": cut.trace.forged.shop.steels[s.steel].hardens,
            "thinnest": s.thinnest,
        }
        for s in stretches(edge_steels(cut))
    ]
    return {"stations": found, "band": asdict(band), "grade": judged and asdict(judged), "flat": _flat(cut), "edge": edge}


def _vertical(s: dict[str, Any]) -> Station:
    shown = tuple((low / s["slant"], high / s["slant"]) for low, high in s["shown"])
    return Station(s["x"], s["side"], s["height"] / s["slant"], shown, s["core_at_edge"])


@router.post("/sections", response={200: list[SectionOut], **PROBLEMS})
def cut_across(request: HttpRequest, asked: StationsIn) -> Any:
    cut = _cut(asked.document)
    x = stations(cut.geometry, asked.stations)
    flat = (cut.geometry.blade.laminate.core.share, 0.0) if cut.geometry.blade.laminate else cut.flat_core
    return [asdict(s) for s in sections(cut.geometry, x, flat, points=25)]


@router.post("/measures", response={200: MeasuresOut, **PROBLEMS})
def measures(request: HttpRequest, asked: MeasuresIn) -> Any:
    cut = _cut(asked.document)
    geometry, handle = cut.geometry, asked.document.handle
    density = cut.trace.forged.density
    held = Handle(handle.length, handle.width, handle.thickness, HANDLES[handle.material]) if handle else None
    weighed = balance(geometry, density, held)
    x = stations_where_ground(geometry)
    # the mean density of the bar stands for its offcuts
    kept = [asdict(o) | {"mass": o.volume * density} for o in offcuts(cut.placed)]
    curves = geometry.curves
    drawn = cut.placed.forge_map
    stretch = drawn.stretch() if drawn else None
    return {
        "balance": asdict(weighed) | {"whole": weighed.whole},
        "behind": {
            "x": x.tolist(), "above": asked.above, "thickness": [behind_edge(geometry, x, a).tolist() for a in asked.above],
            "angle": included_angle(geometry, x).tolist(),
        },
        "offcuts": kept, "bevels": [_bevel(cut, side, asked.belts) for side in SIDES],
        "forged": {"stretch": stretch[0], "at": stretch[1], "heel": drawn.heel, "end": drawn.end} if drawn and stretch else None,
        "edge": np.column_stack([curves.edge_x, curves.edge_y]).round(3).tolist(),
        "spine": np.column_stack([curves.spine_x, curves.spine_y]).round(3).tolist(), "handles": list(HANDLES), "for_use": FOR_USE,
    }  # fmt: skip


@router.post("/offcut", response={200: OffcutBarOut, **PROBLEMS})
def offcut(request: HttpRequest, asked: OffcutIn) -> Any:
    """One of the offcuts that `measures` lists as the document of a bar of its own."""
    cut = _cut(asked.document)
    found = {o.name: o for o in offcuts(cut.placed)}
    if asked.name not in found:
        raise InputError.at("name", f"there is no offcut called {asked.name}", "choose one that is there")
    bar = offcut_bar(cut.placed, found[asked.name], asked.document.carried_out().bar, asked.document.shop)
    return {"document": Document(recipe=Recipe(name=f"{asked.document.recipe.name} {asked.name}".strip()[:200], bar=bar)).as_json()}


def _bevel(cut: Cut, side: str, takes: list[float] | None) -> dict[str, Any]:
    belts = BELTS if takes is None else [Belt(b.name, t) for b, t in zip(BELTS, takes, strict=False)]
    try:
        return {"side": side, "stages": [asdict(s) for s in bevel_plan(cut.geometry, side, belts)], "problem": ""}
    except InputError as e:
        return {"side": side, "stages": [], "problem": e.problems[0].wrong}


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


@router.post("/steer", response={200: SteeredOut, **PROBLEMS})
def steer(request: HttpRequest, asked: DocumentIn) -> Any:
    document = asked.document
    cut = _cut(document)
    must_be_of(document.readings, cut.geometry.blade)
    lamina = Lamina.of(cut, stations(cut.geometry, STEER_STATIONS))
    found = infer(lamina, document.readings, document.sizes)
    plan = correct(found, document.aim)
    blade = cut.geometry.blade
    as_read = plan.blade.model_copy(update={"correction": blade.correction}).as_json()
    forged = cut.geometry.faces(lamina.x, np.ones_like(lamina.x)).forged
    return {
        "x": lamina.x.tolist(), "share": found.share.tolist(), "share_sd": found.share_sd.tolist(), "offset": found.offset.tolist(),
        "offset_sd": found.offset_sd.tolist(), "thickness": forged.tolist(), "mean_share": list(found.mean_share), "mean_offset": list(found.mean_offset),
        "rest": found.rest, "rest_sd": found.rest_sd, "misfit": found.misfit, "helps": [asdict(h) for h in found.helps],
        "lines": {s: [v.tolist() for v in found.lines[s]] for s in SIDES},
        "plan_x": plan.x, "removal": plan.removal, "before": plan.before, "after": plan.after, "wanted": list(plan.wanted),
        "unmet": [asdict(u) for u in plan.unmet], "edge_left": plan.edge_left, "spine_left": plan.spine_left, "shorten": plan.shorten,
        "as_read": as_read, "corrected": plan.blade.as_json(),
    }  # fmt: skip


@router.post("/photo", response={200: PhotoOut, **PROBLEMS})
def photo(request: HttpRequest, asked: PhotoIn) -> Any:
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
    return {
        "worst": seen.worst,
        "points": [{"x": float(a), "height": float(b * c), "inside": bool(i)} for a, b, c, i in zip(x, h, cos, inside, strict=True)],
        "rim": rim.round(2).tolist() if np.isfinite(rim).all() else [],
    }
