"""Reading jobs, always those of the asker's shop."""

from django.db.models import QuerySet

from varistrat.designs.models import Design
from varistrat.designs.selectors import NotFound
from varistrat.jobs.models import Job, JobFile
from varistrat.shop.models import Shop
from varistrat.shop.services.retiring import named_in

ACTIVE = (Job.State.WAITING, Job.State.RUNNING)
LISTED = 20


def jobs_of(shop: Shop, kind: str = "", design: Design | None = None) -> list[Job]:
    """The latest, newest first; what is None or empty is not asked for."""
    found: QuerySet[Job] = Job.objects.filter(shop=shop).defer("input")
    if kind:
        found = found.filter(kind=kind)
    if design is not None:
        found = found.filter(design=design)
    return list(found[:LISTED])


def job_of(shop: Shop, job_id: int) -> Job:
    """Raises NotFound."""
    found = Job.objects.filter(shop=shop, pk=job_id).defer("input").first()
    if found is None:
        raise NotFound("job")
    return found


def files_of(job: Job) -> list[JobFile]:
    return list(job.files.defer("content"))


def file_of(job: Job, index: int) -> JobFile:
    """Raises NotFound while it is not made."""
    found = job.files.filter(index=index, content__isnull=False).first()
    if found is None:
        raise NotFound("picture")
    return found


def jobs_name(shop: Shop, key: str) -> bool:
    """Whether the document of a job that is kept names this steel."""
    return named_in(Job.objects.filter(shop=shop), key, "input")
