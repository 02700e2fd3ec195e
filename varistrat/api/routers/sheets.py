"""What-if sheets: order one, watch it fill, stop it, fetch its pictures."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, signed_in
from varistrat.api.schemas import PROBLEMS, SheetIn, SheetOut
from varistrat.designs import selectors
from varistrat.designs.models import Sheet
from varistrat.designs.services import sheets

router = Router(tags=["sheets"], auth=signed_in)


def _out(sheet: Sheet) -> dict[str, Any]:
    cells = [{"index": c.index, "values": c.values, "problem": c.problem} for c in selectors.cells_of(sheet)]
    return {"id": sheet.pk, "state": sheet.state, "wanted": sheet.wanted, "axes": sheet.axes, "problem": sheet.problem, "cells": cells}


@router.post("", response={201: SheetOut, **PROBLEMS})
def order(request: HttpRequest, asked: SheetIn) -> tuple[int, Any]:
    return 201, _out(sheets.order_sheet(actor=asker(request), document=asked.document, axes=asked.axes))


@router.get("/{sheet_id}", response={200: SheetOut, **PROBLEMS})
def watch(request: HttpRequest, sheet_id: int) -> Any:
    return _out(selectors.sheet_of(asker(request), sheet_id))


@router.delete("/{sheet_id}", response={204: None, **PROBLEMS})
def cancel(request: HttpRequest, sheet_id: int) -> tuple[int, None]:
    sheets.cancel_sheet(actor=asker(request), sheet=selectors.sheet_of(asker(request), sheet_id))
    return 204, None


@router.get("/{sheet_id}/{index}.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}})
def picture(request: HttpRequest, sheet_id: int, index: int) -> HttpResponse:
    cell = selectors.cell_of(selectors.sheet_of(asker(request), sheet_id), index)
    response = HttpResponse(bytes(cell.picture or b""), content_type="image/png")
    response["Cache-Control"] = "private, max-age=86400, immutable"
    return response
