"""Print-size faces: order one, watch it, stop it, fetch it."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, signed_in
from varistrat.api.errors import Refused
from varistrat.api.schemas import PROBLEMS, PrintIn, PrintJobOut
from varistrat.designs import selectors
from varistrat.designs.models import PrintJob
from varistrat.designs.services import printing

router = Router(tags=["printing"], auth=signed_in)


@router.post("", response={201: PrintJobOut, **PROBLEMS})
def order(request: HttpRequest, asked: PrintIn) -> tuple[int, PrintJob]:
    design = selectors.design_of(asker(request), asked.design)
    return 201, printing.order_print(actor=asker(request), design=design, side=asked.side, width_px=asked.width_px)


@router.get("/{job_id}", response={200: PrintJobOut, **PROBLEMS})
def watch(request: HttpRequest, job_id: int) -> PrintJob:
    return selectors.job_of(asker(request), job_id)


@router.delete("/{job_id}", response={204: None, **PROBLEMS})
def cancel(request: HttpRequest, job_id: int) -> tuple[int, None]:
    printing.cancel_print(actor=asker(request), job=selectors.job_of(asker(request), job_id))
    return 204, None


@router.get("/{job_id}/face.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}})
def fetch(request: HttpRequest, job_id: int) -> HttpResponse:
    job = selectors.job_of(asker(request), job_id)
    if job.state != PrintJob.State.DONE or job.picture is None:
        raise Refused(409, "not_ready", "The picture is not ready yet.")
    response = HttpResponse(bytes(job.picture), content_type="image/png")
    response["Content-Disposition"] = f'attachment; filename="face-{job.side}-{job.pk}.png"'
    return response
