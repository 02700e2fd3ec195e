"""Print-size faces: made by the task worker, with progress and cancel."""

import time

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from django_tasks import task

from varistrat.accounts.services.shop import shop_data
from varistrat.core.bars.trace import pool
from varistrat.core.design.document import Worked, read_document
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.pattern.picture import FULL, draw, png
from varistrat.core.pattern.views import BladeView
from varistrat.designs.models import Design, PrintJob
from varistrat.designs.services.jobs import check_room, told_when_it_breaks

ASK_EVERY = 0.3
"""Seconds between looks at whether the job was cancelled."""


@transaction.atomic
def order_print(*, actor: User, design: Design, side: str, width_px: int) -> PrintJob:
    check_room(actor, PrintJob)
    job = PrintJob.objects.create(owner=actor, design=design, revision=design.current, side=side, width_px=width_px)
    transaction.on_commit(lambda: make_print.enqueue(job.pk))
    return job


@transaction.atomic
def cancel_print(*, actor: User, job: PrintJob) -> None:
    PrintJob.objects.filter(pk=job.pk, state__in=("waiting", "running")).update(state=PrintJob.State.CANCELLED)


@task()
@told_when_it_breaks(PrintJob)
def make_print(job_id: int) -> None:
    """Draw the face and keep it in the job; states say how far it is."""
    if not PrintJob.objects.filter(pk=job_id, state="waiting").update(state="running", tries=F("tries") + 1):
        return
    job = PrintJob.objects.select_related("owner", "design").get(pk=job_id)
    watch = _Watch(job_id)
    try:
        revision = job.design.revisions.get(number=job.revision)
        with pool() as executor:
            worked = Worked.of(read_document(revision.document, shop_data(job.owner)))
            if worked.cut is None:
                raise InputError.at("blade", "there is no blade to print", "add one to the design")
            view = BladeView(worked.cut.placed, job.side, margin=4.0)  # type: ignore[arg-type]
            grey = draw(worked.cut.subject(), view, job.width_px, executor, FULL, watch.cancelled, watch.progress)
        picture = png(grey, job.width_px / view.size[0], f"{job.design.name}, {job.side} face")
        PrintJob.objects.filter(pk=job_id, state="running").update(state="done", progress=1.0, picture=picture)
    except Cancelled:
        return
    except InputError as e:
        PrintJob.objects.filter(pk=job_id).update(state="failed", problem=e.problems[0].line()[:400])


class _Watch:
    """Asks the database now and then whether to go on, and tells it how far we are."""

    def __init__(self, job_id: int):
        self._job, self._last, self._stop = job_id, 0.0, False

    def progress(self, share: float) -> None:
        if time.monotonic() - self._last < ASK_EVERY:
            return
        self._last = time.monotonic()
        self._stop = not PrintJob.objects.filter(pk=self._job, state="running").update(progress=share)

    def cancelled(self) -> bool:
        return self._stop
