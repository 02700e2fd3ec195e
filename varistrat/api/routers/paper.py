"""PDF: the shop sheet as the screen says it, the blade to its own size."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router

from varistrat.api.auth import helper
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.paper import SheetIn, TemplateIn
from varistrat.core.paper.one_to_one import one_to_one_pdf
from varistrat.core.paper.sheath import sheath_pdf
from varistrat.core.paper.sheet import CheckSaid, OperationSaid, PieceSaid, TargetSaid, sheet_pdf
from varistrat.designs.services import predict

router = Router(tags=["paper"], auth=helper)
PDF: dict[str, Any] = {"responses": {200: {"content": {"application/pdf": {}}}}}


@router.post("/sheet.pdf", response={200: None, **PROBLEMS}, openapi_extra=PDF)
def sheet(request: HttpRequest, asked: SheetIn) -> HttpResponse:
    """Operations in the words and units in which they are read on the screen."""
    said = [
        OperationSaid(
            **o.dict(exclude={"targets", "checks"}),
            targets=[TargetSaid(**t.dict()) for t in o.targets],
            checks=[CheckSaid(**c.dict()) for c in o.checks],
        )
        for o in asked.operations
    ]
    pieces = [PieceSaid(**p.dict()) for p in asked.pieces]
    with heavy(request, HEAVY):
        body = sheet_pdf(asked.title, said, asked.paper, pieces, asked.lines, asked.about, timezone.now().date())
    return HttpResponse(body, content_type="application/pdf")


@router.post("/template.pdf", response={200: None, **PROBLEMS}, openapi_extra=PDF)
def template(request: HttpRequest, asked: TemplateIn) -> HttpResponse:
    """The blade 1:1, to glue on the steel."""
    worked = predict.work_out(asked.document)
    with heavy(request, HEAVY):
        body = one_to_one_pdf(worked, asked.title, asked.paper)
    return HttpResponse(body, content_type="application/pdf")


@router.post("/sheath.pdf", response={200: None, **PROBLEMS}, openapi_extra=PDF)
def sheath(request: HttpRequest, asked: TemplateIn) -> HttpResponse:
    """Half a sheath 1:1, to be cut through folded leather."""
    worked = predict.work_out(asked.document)
    with heavy(request, HEAVY):
        body = sheath_pdf(worked, asked.title, asked.paper)
    return HttpResponse(body, content_type="application/pdf")
