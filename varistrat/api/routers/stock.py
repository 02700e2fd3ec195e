"""From the blade back to the bars to cut: what a draft asks of the stock. Nothing is kept."""

import csv
import io

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.stock import CalendarIn, CutsIn, InSheetsIn, MadeSoIn, MadeSoOut, TimeIn, WayOutOut, WaysOut
from varistrat.core.design.document import Document
from varistrat.core.design.standing import against, made_worse
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.route.calendar import as_ics
from varistrat.core.route.money import TimeAndMoney, time_and_money
from varistrat.core.route.operation import Operation
from varistrat.core.route.route import route_of
from varistrat.core.route.schedule import Hours
from varistrat.core.stock.cut_plan import CutPlan, Laid, as_rows, cut_plan, in_sheets
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.risk import RiskCurve
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.told import StockTold, risk_told, told_of
from varistrat.core.stock.ways import made_so, ways_out, ways_to_save
from varistrat.designs.services import predict
from varistrat.rack.selectors import stocked

router = Router(tags=["stock"], auth=helper)


@router.post("/sheet", response={200: StockTold, **PROBLEMS})
def sheet(request: HttpRequest, asked: DocumentIn) -> StockTold:
    """What the bar must be, every pile as it must be, and where the steel goes."""
    return told_of(predict.work_out(asked.document))


@router.post("/risk", response={200: RiskCurve, **PROBLEMS})
def risk(request: HttpRequest, asked: DocumentIn) -> RiskCurve:
    """The chance of coming up short against the reserve."""
    return risk_told(predict.work_out(asked.document))


@router.post("/ways", response={200: WaysOut, **PROBLEMS})
def ways(request: HttpRequest, asked: DocumentIn) -> WaysOut:
    """What may give way: out of a bar that is short, or so that one that is long takes less steel."""
    worked = predict.work_out(asked.document)
    allowed = Allowance.planned(asked.document.stock, asked.document.shop.numbers)
    # some sixty designs are forged for it
    with heavy(request, HEAVY):
        out = ways_out(worked, allowed)
        found = out or ways_to_save(worked, allowed)
    return WaysOut(short=bool(out), ways=[WayOutOut(**{n: getattr(w, n) for n in WayOutOut.model_fields}) for w in found])


@router.post("/made-so", response={200: MadeSoOut, **PROBLEMS})
def make_so(request: HttpRequest, asked: MadeSoIn) -> MadeSoOut:
    """The design with its piles as they must be, and as many pieces cut as that takes."""
    worked = predict.work_out(asked.document)
    return _changed(worked, made_so(worked, stock_of(worked), asked.bars))


def _changed(worked: Worked, document: Document) -> MadeSoOut:
    return MadeSoOut(document=document, worse=list(made_worse(against(worked), predict.work_out(document))))


def _cuts(request: HttpRequest, asked: CutsIn) -> CutPlan:
    rack = stocked(asker(request).shop, asked.document.shop)
    laid = [Laid(one.item, tuple(one.pieces)) for one in asked.laid]
    worked = predict.work_out(asked.document)
    # an integer programme with a clock of its own, no more than two seconds of it
    with heavy(request, HEAVY):
        return cut_plan(worked, rack, laid, asked.kerf)


@router.post("/cuts", response={200: CutPlan, **PROBLEMS})
def cuts(request: HttpRequest, asked: CutsIn) -> CutPlan:
    """What to cut from which bar of the rack, and what to buy; bars laid out by hand stay so."""
    return _cuts(request, asked)


@router.post("/cuts.csv", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"text/csv": {}}}}})
def cuts_csv(request: HttpRequest, asked: CutsIn) -> HttpResponse:
    out = io.StringIO()
    writer = csv.DictWriter(out, ("bar", "cut", "for", "steel", "width", "thickness", "length", "how", "left"), lineterminator="\n")
    writer.writeheader()
    writer.writerows(as_rows(_cuts(request, asked)))
    return HttpResponse(out.getvalue(), content_type="text/csv; charset=utf-8")


@router.post("/in-sheets", response={200: MadeSoOut, **PROBLEMS})
def of_sheets(request: HttpRequest, asked: InSheetsIn) -> MadeSoOut:
    """The design with layers piled of several sheets each, as the rack has them; the picture shows what that does."""
    worked = predict.work_out(asked.document)
    return _changed(worked, in_sheets(worked, asked.wanted, asked.count, asked.sheet))


@router.post("/time", response={200: TimeAndMoney, **PROBLEMS})
def time(request: HttpRequest, asked: TimeIn) -> TimeAndMoney:
    """What the whole job takes: every operation in time, hours by kind of work, money by cause, when it is done."""
    with heavy(request, HEAVY):
        return time_and_money(predict.work_out(asked.document), asked.first)


@router.post("/route", response={200: list[Operation], **PROBLEMS})
def route(request: HttpRequest, asked: DocumentIn) -> list[Operation]:
    """Every operation of the job in order, with what to reach, to look at and to take care of."""
    worked = predict.work_out(asked.document)
    if worked.problems:
        raise InputError(worked.problems)
    with heavy(request, HEAVY):
        return list(route_of(worked).operations)


@router.post("/time.ics", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"text/calendar": {}}}}})
def time_ics(request: HttpRequest, asked: CalendarIn) -> HttpResponse:
    """Its days, its long waits and when it may be done, for a calendar."""
    worked = predict.work_out(asked.document)
    first = asked.begun.weekday()
    with heavy(request, HEAVY):
        told = time_and_money(worked, first)
    body = as_ics(told, asked.title, asked.begun, Hours.of(worked.shop.numbers, first), asked.said)
    return HttpResponse(body, content_type="text/calendar; charset=utf-8")
