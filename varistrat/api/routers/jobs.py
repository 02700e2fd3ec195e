"""Work that outlasts a request: order it, watch it, stop it, fetch what it made."""

import json
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, Query, Router
from pydantic import TypeAdapter

from varistrat.api.auth import asker, helper
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.jobs import JobFileOut, JobOut
from varistrat.designs.selectors import any_design_of
from varistrat.jobs import selectors
from varistrat.jobs.kinds import AnyOrder, AnyResult
from varistrat.jobs.models import Job
from varistrat.jobs.services import ordering

RESULT: TypeAdapter[Any] = TypeAdapter(AnyResult)
router = Router(tags=["jobs"], auth=helper)


def _out(job: Job) -> JobOut:
    files = [JobFileOut(index=f.index, values=f.values, problem=f.problem, name=f.name) for f in selectors.files_of(job)]
    return JobOut(
        id=job.pk,
        about=job.about,
        design=job.design_id,
        state=Job.State(job.state),
        progress=job.progress,
        wanted=job.wanted,
        problem=job.problem,
        stop_asked=job.stop_asked,
        ordered=job.ordered,
        by=job.by.get_username() if job.by else "",
        result=RESULT.validate_json(json.dumps(job.result)) if job.result else None,
        files=files,
    )


@router.post("", response={201: JobOut, **PROBLEMS})
def order(request: HttpRequest, asked: Annotated[AnyOrder, Body()]) -> tuple[int, JobOut]:
    return 201, _out(ordering.order(actor=asker(request), asked=asked))


@router.get("", response={200: list[JobOut], **PROBLEMS})
def latest(
    request: HttpRequest, kind: Annotated[str, Query(max_length=30)] = "", design: Annotated[int | None, Query(ge=1, le=2**62)] = None
) -> list[JobOut]:
    """The shop's latest, newest first; of one kind, of one design."""
    of = None if design is None else any_design_of(asker(request).shop, design)
    return [_out(job) for job in selectors.jobs_of(asker(request).shop, kind, of)]


@router.get("/{job_id}", response={200: JobOut, **PROBLEMS})
def watch(request: HttpRequest, job_id: int) -> JobOut:
    return _out(selectors.job_of(asker(request).shop, job_id))


@router.post("/{job_id}/stop", response={200: JobOut, **PROBLEMS})
def stop(request: HttpRequest, job_id: int) -> JobOut:
    return _out(ordering.stop(actor=asker(request), job=selectors.job_of(asker(request).shop, job_id)))


@router.get("/{job_id}/files/{index}", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}})
def fetch(request: HttpRequest, job_id: int, index: int) -> HttpResponse:
    """One thing that the job made: as soon as it is there, whether or not the job is over."""
    found = selectors.file_of(selectors.job_of(asker(request).shop, job_id), index)
    response = HttpResponse(bytes(found.content or b""), content_type=found.media)
    if found.name:
        stem, _, ending = found.name.rpartition(".")
        response["Content-Disposition"] = f'attachment; filename="{stem}-{job_id}.{ending}"'
    response["Cache-Control"] = "private, max-age=86400, immutable"
    return response
