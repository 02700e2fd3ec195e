"""Drafts worked out: the ledger, the findings, the pictures. Nothing is kept."""

import base64
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.accounts.services import shop_tones
from varistrat.api.auth import asker, signed_in
from varistrat.api.latest import still_wanted
from varistrat.api.schemas import (
    PROBLEMS,
    BarPictureIn,
    BladePictureIn,
    DocumentIn,
    FreshStepIn,
    FreshStepOut,
    LedgerOut,
    PortraitOut,
    PortraitsIn,
    ShapeOut,
)
from varistrat.core.starters import fresh_step
from varistrat.designs.services import predict

router = Router(tags=["predict"], auth=signed_in)
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}


@router.post("/ledger", response={200: LedgerOut, **PROBLEMS})
def ledger(request: HttpRequest, asked: DocumentIn) -> Any:
    worked = predict.work_out(asked.document)
    shape = None
    if worked.cut:
        geometry = worked.cut.placed.geometry
        low, high = geometry.curves.span()
        shape = ShapeOut(length=geometry.length, low=low, high=high, bar_thickness=geometry.bar_thickness)
    return {
        "rows": worked.rows(), "summary": worked.summary(), "shape": shape, "findings": worked.blade_findings(),
        "problems": [{"path": p.path, "wrong": p.wrong, "cure": p.cure} for p in worked.problems],
    }  # fmt: skip


@router.post("/fresh-step", response={200: FreshStepOut, **PROBLEMS})
def fresh(request: HttpRequest, asked: FreshStepIn) -> FreshStepOut:
    """Values that suit the bar the new step is put on (or the last one that is reached)."""
    worked = predict.work_out(asked.document)
    done = sum(1 for step in worked.steps if step < asked.at)
    bar = worked.forged.bars[min(done, len(worked.forged.stages))]
    return FreshStepOut(step=fresh_step(asked.kind, bar))


@router.post("/blade.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def blade(request: HttpRequest, asked: BladePictureIn) -> HttpResponse:
    picture = predict.BladePicture(asked.side, asked.px, asked.margin, asked.book, asked.quality)
    body = predict.blade_png(predict.work_out(asked.document), picture, shop_tones(asker(request)), still_wanted(request))
    return HttpResponse(body, content_type="image/png")


@router.post("/bar.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def bar(request: HttpRequest, asked: BarPictureIn) -> HttpResponse:
    picture = predict.BarPicture(asked.stages, asked.view, asked.px, asked.z, asked.x, asked.x0, asked.x1, asked.quality)
    body = predict.bar_png(predict.work_out(asked.document), picture, shop_tones(asker(request)), still_wanted(request))
    return HttpResponse(body, content_type="image/png")


@router.post("/portraits", response={200: list[PortraitOut], **PROBLEMS})
def portraits(request: HttpRequest, asked: PortraitsIn) -> list[PortraitOut]:
    worked, tones, wanted = predict.work_out(asked.document), shop_tones(asker(request)), still_wanted(request)
    found = []
    for stages, (bar, step) in enumerate(zip(worked.forged.bars, [None, *worked.steps], strict=False)):
        shown = min(bar.length, asked.max_mm)
        px = [min(1600, max(4, round(mm * asked.px_per_mm))) for mm in (shown, bar.width)]
        side = predict.BarPicture(stages, "side", px[0], x1=shown, quality="portrait")
        end = predict.BarPicture(stages, "end", px[1], x=bar.length * 0.5, quality="portrait")
        pictures = [_data_address(predict.bar_png(worked, p, tones, wanted)) for p in (side, end)]
        found.append(PortraitOut(step=step, side=pictures[0], end=pictures[1], shown_mm=shown))
    return found


def _data_address(png: bytes) -> str:
    return "data:image/png;base64," + base64.b64encode(png).decode()
