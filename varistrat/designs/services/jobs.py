"""What print jobs and sheets share: how many a user may have under way, what becomes of one that was cut off, how long they are kept."""

import logging
from collections.abc import Callable
from datetime import timedelta
from functools import wraps
from typing import Any

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from varistrat.core.errors import InputError
from varistrat.designs.models import PrintJob, Sheet
from varistrat.designs.services import keep

log = logging.getLogger(__name__)
State = PrintJob.State
ACTIVE = (State.WAITING, State.RUNNING)
MOST_EACH = 3
"""Of one user, waiting and under way; more would keep the others waiting."""
KEPT_DAYS = 30
TRIES = 2
"""A job that was cut off is begun once more; then it is told as failed."""
CUT_OFF = "it was cut off twice; try it smaller, or tell whoever looks after the server"
BROKE = "the program failed on it; the reason is in the server's log"


def check_room(user: User, kind: type[PrintJob] | type[Sheet]) -> None:
    """Raises InputError when the user has as many under way as one may have."""
    if kind.objects.filter(owner=user, state__in=ACTIVE).count() >= MOST_EACH:
        raise InputError.at("", f"{MOST_EACH} are under way already", "wait for one of them, or stop it")


def told_when_it_breaks(kind: type[PrintJob] | type[Sheet]) -> Callable[[Callable[[int], None]], Callable[[int], None]]:
    """Around a task: an unexpected error leaves its job failed, never running for ever."""

    def around(task: Callable[[int], None]) -> Callable[[int], None]:
        @wraps(task)
        def run(job_id: int) -> None:
            try:
                task(job_id)
            except Exception:
                log.exception("%s %s failed", kind.__name__, job_id)
                kind.objects.filter(pk=job_id, state__in=ACTIVE).update(state=State.FAILED, problem=BROKE)

        return run

    return around


@transaction.atomic
def sweep() -> int:
    """Begin again what a worker that died had under way (once), and throw away what is old; how many were begun again."""
    from varistrat.designs.services.printing import make_print
    from varistrat.designs.services.sheets import make_sheet

    DBTaskResult.objects.filter(status="RUNNING").delete()
    again = 0
    queued = {(str(t.task_path), tuple(t.args_kwargs.get("args", ()))) for t in DBTaskResult.objects.filter(status="READY")}
    kinds: tuple[tuple[type[PrintJob] | type[Sheet], Any], ...] = ((PrintJob, make_print), (Sheet, make_sheet))
    for kind, task in kinds:
        kind.objects.filter(state=State.RUNNING, tries__gte=TRIES).update(state=State.FAILED, problem=CUT_OFF)
        for job in kind.objects.filter(state__in=ACTIVE):
            if job.state == State.WAITING and (task.module_path, (job.pk,)) in queued:
                continue
            if isinstance(job, Sheet):
                job.cells.all().delete()
            kind.objects.filter(pk=job.pk).update(state=State.WAITING)
            task.enqueue(job.pk)
            again += 1
    throw_away()
    return again


def throw_away() -> None:
    """What is older than KEPT_DAYS: finished jobs with their pictures, tasks, sessions that ran out, the bin."""
    since = timezone.now() - timedelta(days=KEPT_DAYS)
    for kind in (PrintJob, Sheet):
        kind.objects.filter(created__lt=since).exclude(state__in=ACTIVE).delete()
    DBTaskResult.objects.filter(finished_at__lt=since).delete()
    Session.objects.filter(expire_date__lt=timezone.now()).delete()
    keep.empty_bin()
