"""What the fire does to a design's billet, and how its blade is hardened. Nothing is kept."""

from django.http import HttpRequest
from ninja import Router

from varistrat.api.auth import helper
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.stock import MadeSoOut
from varistrat.core.design.fire_sheet import FireSheet, fire_sheet
from varistrat.core.design.hardening_sheet import HardeningSheet, hardening_sheet
from varistrat.core.design.scale import counted
from varistrat.core.design.standing import against, made_worse
from varistrat.designs.services import predict

router = Router(tags=["heat"], auth=helper)


@router.post("/fire", response={200: FireSheet, **PROBLEMS})
def fire(request: HttpRequest, asked: DocumentIn) -> FireSheet:
    """Every heat of the recipe: how many, how hot, how long, and what they do."""
    return fire_sheet(predict.work_out(asked.document))


@router.post("/counted", response={200: MadeSoOut, **PROBLEMS})
def count_scale(request: HttpRequest, asked: DocumentIn) -> MadeSoOut:
    """The design with the scale of its fires counted in its steps."""
    worked = predict.work_out(asked.document)
    document = counted(asked.document)
    return MadeSoOut(document=document, worse=list(made_worse(against(worked), predict.work_out(document))))


@router.post("/hardening", response={200: HardeningSheet, **PROBLEMS})
def hardening(request: HttpRequest, asked: DocumentIn) -> HardeningSheet:
    """The hardening of the blade, step by step, with what the readings so far change."""
    return hardening_sheet(predict.work_out(asked.document))
