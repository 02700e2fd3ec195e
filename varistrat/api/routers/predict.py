"""Drafts worked out: the ledger, the findings, the pictures. Nothing is kept."""

import base64
from typing import Any, NamedTuple

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper
from varistrat.api.gate import heavy
from varistrat.api.latest import still_wanted
from varistrat.api.schemas import (
    PROBLEMS,
    BarIn,
    BarPictureIn,
    BladePictureIn,
    DocumentIn,
    FindingOut,
    FreshBarIn,
    FreshBarOut,
    FreshStepIn,
    FreshStepOut,
    LayersIn,
    LayersOut,
    LedgerOut,
    ParameterOut,
    PlanBarOut,
    PortraitOut,
    PortraitsIn,
    ShapeOut,
    SolvedOut,
    SolveIn,
    SumOut,
    SumsIn,
    WayOut,
    WaysIn,
)
from varistrat.core.bars.fresh import WORDS, fresh_start, fresh_step, opposite
from varistrat.core.bars.recipe import bar_as_json, in_order
from varistrat.core.bars.trace import Trace
from varistrat.core.cutting.layers import layers_across, on_show, through
from varistrat.core.design.document import label
from varistrat.core.errors import InputError
from varistrat.core.laminate.readings import surface_of
from varistrat.core.pattern.cuts import Plane
from varistrat.core.pattern.views import BladeWindow
from varistrat.core.sums import sum_of, sums_for
from varistrat.core.sums.counting import ways
from varistrat.core.sweep import parameters
from varistrat.designs.services import predict
from varistrat.shop.services import own

router = Router(tags=["predict"], auth=helper)
PORTRAITS_MOST = 600e6
"""Points times steps of all portraits of a bar together: some three seconds."""
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}


@router.post("/ledger", response={200: LedgerOut, **PROBLEMS})
def ledger(request: HttpRequest, asked: BarIn) -> Any:
    worked = predict.work_out(asked.document)
    shape = None
    if worked.cut:
        geometry = worked.cut.placed.geometry
        low, high = geometry.curves.span()
        shape = ShapeOut(
            length=geometry.length, low=low, high=high, bar_thickness=geometry.bar_thickness, surface=surface_of(geometry.blade)
        )
    return {
        "rows": worked.rows(asked.bar), "children": worked.children(asked.bar), "summary": worked.summary(), "shape": shape, "findings": worked.blade_findings(),
        "problems": [{"path": p.path, "wrong": p.wrong, "cure": p.cure} for p in worked.problems],
    }  # fmt: skip


@router.post("/fired-findings", response={200: list[FindingOut], **PROBLEMS})
def fired_findings(request: HttpRequest, asked: DocumentIn) -> Any:
    """What the fires add to the ledger's findings of the blade: asked when the hands rest, for the fires take as long as all the rest."""
    return predict.work_out(asked.document).fired_findings()


@router.post("/plan", response={200: list[PlanBarOut], **PROBLEMS})
def plan(request: HttpRequest, asked: DocumentIn) -> Any:
    """Every step of every bar in the order of the work, for paper."""
    worked = predict.work_out(asked.document)
    out = []
    for recipe in in_order(asked.document.recipe.bar):
        if recipe.id not in worked.bars:
            continue
        rows = [
            {**{k: r[k] for k in ("step", "instruction", "form", "length", "width", "thickness", "findings")},
             "title": WORDS[r["kind"]]["name"] + (f" {r['brief']}" if r["brief"] else "")}
            for r in worked.rows(recipe.id)
        ]  # fmt: skip
        out.append({"bar": recipe.id, "label": label(recipe), "rows": rows})
    return out


@router.post("/fresh-step", response={200: FreshStepOut, **PROBLEMS})
def fresh(request: HttpRequest, asked: FreshStepIn) -> FreshStepOut:
    """Values that suit the bar the new step is put on (or the last one that is reached)."""
    worked = predict.work_out(asked.document)
    forged, off = worked.bar(asked.bar), set(asked.document.off)
    done = sum(1 for step in asked.document.bar(asked.bar).steps[: asked.at] if step.id not in off)
    return FreshStepOut(step=fresh_step(asked.kind, forged.bars[min(done, len(forged.stages))], own.shop_hands(asker(request).shop)))


@router.post("/fresh-bar", response={200: FreshBarOut, **PROBLEMS})
def fresh_bar(request: HttpRequest, asked: FreshBarIn) -> FreshBarOut:
    """A bar whose start is of another kind, or (kind `opposite`) the bar with its twists the other way."""
    bar = bar_as_json(asked.document.bar(asked.bar))
    if asked.kind == "opposite":
        return FreshBarOut(bar=opposite(bar))
    return FreshBarOut(bar=fresh_start(asked.kind, bar, predict.work_out(asked.document).bar(asked.bar).bar))


@router.post("/blade.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def blade(request: HttpRequest, asked: BladePictureIn) -> HttpResponse:
    window = BladeWindow(**asked.window.dict()) if asked.window else None
    picture = predict.BladePicture(
        asked.side, asked.px, asked.view, asked.ground, window, asked.x, asked.turn, asked.margin, asked.book, asked.quality
    )
    worked = predict.work_out(asked.document)
    with heavy(request, predict.blade_cost(worked, picture), still_wanted(request)) as deadline:
        body = predict.blade_png(worked, picture, worked.fired_look if asked.fired else None, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    if asked.view == "section":
        size = predict.blade_section_size(predict.work_out(asked.document), asked.x, asked.turn)
        response["X-Section-Mm"] = " ".join(f"{v:.4f}" for v in size)
    return response


@router.post("/bar.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def bar(request: HttpRequest, asked: BarPictureIn) -> HttpResponse:
    plane = Plane(asked.plane.x, asked.plane.turn, asked.plane.lean) if asked.plane else None
    window = predict.Window(**asked.window.dict()) if asked.window else None
    picture = predict.BarPicture(
        asked.stages, asked.view, asked.px, asked.z, asked.x, asked.x0, asked.x1, asked.quality, asked.bar,
        plane, window, asked.yaw, asked.pitch,
    )  # fmt: skip
    worked = predict.work_out(asked.document)
    with heavy(request, predict.bar_cost(worked, picture), still_wanted(request)) as deadline:
        body = predict.bar_png(worked, picture, worked.fired_look if asked.fired else None, deadline.stop)
    return HttpResponse(body, content_type="image/png")


class Shot(NamedTuple):
    """One portrait: a bar after so many stages; the step that made it, or the child of the open bar that it is."""

    bar: str
    stages: int
    step: str | None
    child: str | None


@router.post("/portraits", response={200: list[PortraitOut], **PROBLEMS})
def portraits(request: HttpRequest, asked: PortraitsIn) -> list[PortraitOut]:
    worked = predict.work_out(asked.document)
    recipe = asked.document.bar(asked.bar)
    shots: list[Shot] = []
    for child in recipe.start.children():
        if child.id in worked.bars:
            shots.append(Shot(child.id, len(worked.bars[child.id].stages), None, child.id))
    if recipe.id in worked.bars:
        ids = [None, *(s.step.id for s in worked.bars[recipe.id].stages)]
        shots += [Shot(recipe.id, n, step, None) for n, step in enumerate(ids)]

    def pair(shot: Shot, per_mm: float) -> tuple[predict.BarPicture, predict.BarPicture, float]:
        at, stages = shot.bar, shot.stages
        bar = worked.bars[at].bars[stages]
        shown = min(bar.length, asked.max_mm)
        px = [min(1600, max(4, round(mm * per_mm))) for mm in (shown, bar.width)]
        side = predict.BarPicture(stages, "side", px[0], x1=shown, quality="portrait", bar=at)
        return side, predict.BarPicture(stages, "end", px[1], x=bar.length * 0.5, quality="portrait", bar=at), shown

    cost = sum(predict.bar_cost(worked, p) for s in shots for p in pair(s, asked.px_per_mm)[:2])
    # a row of many portraits is drawn smaller rather than late
    per_mm = asked.px_per_mm * min(1.0, (PORTRAITS_MOST / max(cost, 1.0)) ** 0.5)
    found = []
    with heavy(request, min(cost, PORTRAITS_MOST), still_wanted(request)) as deadline:
        for shot in shots:
            side, end, shown = pair(shot, per_mm)
            pictures = [_data_address(predict.bar_png(worked, p, None, deadline.stop)) for p in (side, end)]
            found.append(PortraitOut(step=shot.step, child=shot.child, side=pictures[0], end=pictures[1], shown_mm=shown))
            deadline.check()
    return found


@router.post("/layers", response={200: LayersOut, **PROBLEMS})
def layers(request: HttpRequest, asked: LayersIn) -> Any:
    worked = predict.work_out(asked.document)
    if worked.cut is None:
        raise InputError(worked.problems) if worked.problems else InputError.at("blade", "there is no blade in this design", "add one")
    shown = on_show(worked.cut)
    runs = [{"steel": s, "thickness": t} for s, t in through(worked.cut, asked.x, asked.h)]
    return {
        "x": asked.x, "h": asked.h, "runs": runs, "steels": shown.steels, "edges": shown.edges, "shares": shown.shares, "thinnest": worked.thinnest,
    }  # fmt: skip


@router.post("/sums", response={200: list[SumOut], **PROBLEMS})
def sums(request: HttpRequest, asked: SumsIn) -> Any:
    worked = predict.work_out(asked.document)
    recipe, forged = asked.document.bar(asked.bar), worked.bar(asked.bar)
    ids = [s.id for s in recipe.steps]
    if asked.step is not None and asked.step not in ids:
        raise InputError.at("step", f"there is no step {asked.step[:24]!r}", "choose one that is there")
    index = None if asked.step is None else ids.index(asked.step)
    part = recipe.start if index is None else recipe.steps[index]
    done = sum(1 for i in ids[:index] if i not in asked.document.off) if index is not None else 0
    before = forged.upto(min(done, len(forged.stages)))
    fields = part.model_dump(by_alias=True) | {"layers_before": layers_across(Trace(before))}
    return [
        {
            "key": s.key, "title": s.title, "formula": s.formula, "note": s.note, "unknown": s.unknown,
            "quantities": [
                {"key": q.key, "label": q.label, "unit": q.unit, "whole": q.whole, "fills": q.fills, "given": q.given, "value": known.get(q.key)}
                for q in s.quantities
            ],
        }
        for s, known in sums_for(part.kind, before.bar, fields)  # type: ignore[union-attr]
    ]  # fmt: skip


@router.post("/solve", response={200: SolvedOut, **PROBLEMS})
def solve(request: HttpRequest, asked: SolveIn) -> Any:
    found = sum_of(asked.key)
    value = found.solve(asked.values, asked.unknown)
    known = {q.key: asked.values.get(q.key) for q in found.quantities} | {asked.unknown: value}
    complete = {k: v for k, v in known.items() if v is not None}
    lines = found.lines(complete) if len(complete) == len(known) else []
    return {"value": value, "lines": [{"label": line.label, "value": line.value, "unit": line.unit} for line in lines]}


@router.post("/layer-ways", response={200: list[WayOut], **PROBLEMS})
def layer_ways(request: HttpRequest, asked: WaysIn) -> Any:
    """Ways to come to a wanted number of layers."""
    return [
        {"layers": w.layers, "pieces": list(w.pieces), "count": w.count} for w in ways(asked.wanted, like_meets_like=asked.like_meets_like)
    ]


@router.post("/parameters", response={200: list[ParameterOut], **PROBLEMS})
def varied(request: HttpRequest, asked: DocumentIn) -> Any:
    """The numbers of a draft that a what-if sheet can vary."""
    return [{"path": p.path, "label": p.label, "value": p.value, "unit": p.unit, "whole": p.whole} for p in parameters(asked.document)]


def _data_address(png: bytes) -> str:
    return "data:image/png;base64," + base64.b64encode(png).decode()
