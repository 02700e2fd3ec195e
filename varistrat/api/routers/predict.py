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
    FacesIn,
    FacesOut,
    FreshBarIn,
    FreshBarOut,
    FreshStepIn,
    FreshStepOut,
    LayersIn,
    LayersOut,
    LedgerOut,
    PortraitOut,
    PortraitsIn,
    QuantityOut,
    RunOut,
    SolvedOut,
    SolveIn,
    SumOut,
    SumsIn,
    WaysIn,
)
from varistrat.core.bars.fresh import fresh_start, fresh_step, opposite
from varistrat.core.bars.model import kind_of
from varistrat.core.bars.recipe import bar_as_json
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.geometry import Side
from varistrat.core.cutting.layers import layers_across, on_show, through
from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.ledger import children_of, ledger_of
from varistrat.core.design.plan import PlanBar, plan_of
from varistrat.core.design.scale import scale_of_new
from varistrat.core.design.summary import shape_of, summary_of
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding
from varistrat.core.pattern.cuts import Plane
from varistrat.core.pattern.views import BladeWindow
from varistrat.core.steels.weldable import wants_seal
from varistrat.core.sums import sum_of, sums_for
from varistrat.core.sums.counting import Way, ways
from varistrat.core.sweep import Parameter, parameters
from varistrat.designs.services import predict
from varistrat.shop.services import own

router = Router(tags=["predict"], auth=helper)
SIDES: tuple[Side, Side] = ("right", "left")
PORTRAITS_MOST = 600e6
"""Points times steps of all portraits of a bar together: some three seconds."""
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}


@router.post("/ledger", response={200: LedgerOut, **PROBLEMS})
def ledger(request: HttpRequest, asked: BarIn) -> LedgerOut:
    worked = predict.work_out(asked.document)
    return LedgerOut(
        rows=ledger_of(worked, asked.bar),
        children=children_of(worked, asked.bar),
        summary=summary_of(worked),
        shape=shape_of(worked),
        findings=findings_of(worked),
        problems=list(worked.problems),
    )


@router.post("/fired-findings", response={200: list[Finding], **PROBLEMS})
def fired_findings(request: HttpRequest, asked: DocumentIn) -> list[Finding]:
    """What the fires add to the ledger's findings of the blade: asked when the hands rest, for the fires take as long as all the rest."""
    return late_findings_of(predict.work_out(asked.document))


@router.post("/plan", response={200: list[PlanBar], **PROBLEMS})
def plan(request: HttpRequest, asked: DocumentIn) -> list[PlanBar]:
    """Every step of every bar in the order of the work, for paper."""
    return plan_of(predict.work_out(asked.document))


@router.post("/fresh-step", response={200: FreshStepOut, **PROBLEMS})
def fresh(request: HttpRequest, asked: FreshStepIn) -> FreshStepOut:
    """Values that suit the bar the new step is put on (or the last one that is reached)."""
    worked = predict.work_out(asked.document)
    forged, off = worked.bar(asked.bar), set(asked.document.off)
    done = sum(1 for step in asked.document.bar(asked.bar).steps[: asked.at] if step.id not in off)
    sealed = any(wants_seal(forged.shop.steels[k]) for k in forged.steels)
    step = fresh_step(asked.kind, forged.bars[min(done, len(forged.stages))], own.shop_hands(asker(request).shop), sealed)
    if scale := scale_of_new(worked, asked.bar, asked.at, step):
        step["scale"] = scale
    return FreshStepOut(step=step)


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
        body = predict.blade_png(worked, picture, worked.fired_tones if asked.fired else None, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    if asked.view == "section":
        size = predict.blade_section_size(predict.work_out(asked.document), asked.x, asked.turn)
        response["X-Section-Mm"] = " ".join(f"{v:.4f}" for v in size)
    return response


@router.post("/faces", response={200: FacesOut, **PROBLEMS})
def faces(request: HttpRequest, asked: FacesIn) -> FacesOut:
    """Both faces in one question: while the hand moves, what a question costs beside its picture is half of it."""
    right, left = (predict.BladePicture(s, asked.px, margin=asked.margin, book=asked.book, quality=asked.quality) for s in SIDES)
    worked = predict.work_out(asked.document)
    tones = worked.fired_tones if asked.fired else None
    with heavy(request, 2 * predict.blade_cost(worked, right), still_wanted(request)) as deadline:
        return FacesOut(
            right=_data_address(predict.blade_png(worked, right, tones, deadline.stop)),
            left=_data_address(predict.blade_png(worked, left, tones, deadline.stop)),
        )


@router.post("/bar.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def bar(request: HttpRequest, asked: BarPictureIn) -> HttpResponse:
    plane = Plane(asked.plane.x, asked.plane.turn, asked.plane.lean) if asked.plane else None
    window = predict.Window(**asked.window.dict()) if asked.window else None
    picture = predict.BarPicture(
        asked.stages,
        asked.view,
        asked.px,
        asked.z,
        asked.x,
        asked.x0,
        asked.x1,
        asked.quality,
        asked.bar,
        plane,
        window,
        asked.yaw,
        asked.pitch,
    )
    worked = predict.work_out(asked.document)
    with heavy(request, predict.bar_cost(worked, picture), still_wanted(request)) as deadline:
        body = predict.bar_png(worked, picture, worked.fired_tones if asked.fired else None, deadline.stop)
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
def layers(request: HttpRequest, asked: LayersIn) -> LayersOut:
    worked = predict.work_out(asked.document)
    shown = on_show(worked.blade)
    runs = [RunOut(steel=s, thickness=t) for s, t in through(worked.blade, asked.x, asked.h)]
    return LayersOut(x=asked.x, h=asked.h, runs=runs, steels=shown.steels, edges=shown.edges, shares=shown.shares, thinnest=worked.thinnest)


@router.post("/sums", response={200: list[SumOut], **PROBLEMS})
def sums(request: HttpRequest, asked: SumsIn) -> list[SumOut]:
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
        SumOut(
            key=s.key,
            title=s.title,
            formula=s.formula,
            note=s.note,
            unknown=s.unknown,
            quantities=[
                QuantityOut(key=q.key, label=q.label, unit=q.unit, whole=q.whole, fills=q.fills, given=q.given, value=known.get(q.key))
                for q in s.quantities
            ],
        )
        for s, known in sums_for(kind_of(part), before.bar, fields)
    ]


@router.post("/solve", response={200: SolvedOut, **PROBLEMS})
def solve(request: HttpRequest, asked: SolveIn) -> SolvedOut:
    found = sum_of(asked.key)
    value = found.solve(asked.values, asked.unknown)
    known = {q.key: asked.values.get(q.key) for q in found.quantities} | {asked.unknown: value}
    complete = {k: v for k, v in known.items() if v is not None}
    return SolvedOut(value=value, lines=found.lines(complete) if len(complete) == len(known) else [])


@router.post("/layer-ways", response={200: list[Way], **PROBLEMS})
def layer_ways(request: HttpRequest, asked: WaysIn) -> list[Way]:
    """Ways to come to a wanted number of layers."""
    return ways(asked.wanted, like_meets_like=asked.like_meets_like)


@router.post("/parameters", response={200: list[Parameter], **PROBLEMS})
def varied(request: HttpRequest, asked: DocumentIn) -> list[Parameter]:
    """The numbers of a draft that a what-if sheet can vary."""
    return parameters(asked.document)


def _data_address(png: bytes) -> str:
    return "data:image/png;base64," + base64.b64encode(png).decode()
