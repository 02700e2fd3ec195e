"""After a worker died, and at every start: what it had under way is begun again once; what is old is thrown away."""

from datetime import timedelta

from django.contrib.sessions.models import Session
from django.db import transaction
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from varistrat.designs.services.keep import empty_bin
from varistrat.jobs.models import Job, JobFile, Lane
from varistrat.jobs.selectors import ACTIVE
from varistrat.jobs.services.runner import BELLS, ring

State = Job.State
KEPT_DAYS = 30
TRIES = 2
"""A job that lost its worker is begun once more; then it is told as failed."""
SILENT = 180.0
"""Seconds without a word after which a worker counts as hung, by a clock that nobody sets."""
CUT_OFF = "it was cut off twice; try it smaller, or tell whoever looks after the server"


@transaction.atomic
def sweep(lane: str) -> int:
    """What the dead worker of a lane left: put back, told as failed or as stopped; how many wait now.
    Call it while no worker of the lane lives."""
    bell = BELLS[Lane(lane)]
    DBTaskResult.objects.filter(queue_name=lane, status="RUNNING").delete()
    # of versions before
    DBTaskResult.objects.filter(status="READY").exclude(task_path__in=[b.module_path for b in BELLS.values()]).delete()
    cut_off = Job.objects.filter(lane=lane, state=State.RUNNING)
    cut_off.filter(stop_asked=True).update(state=State.STOPPED)
    cut_off.filter(tries__gte=TRIES).update(state=State.FAILED, problem=CUT_OFF)
    JobFile.objects.filter(job__in=cut_off).delete()
    cut_off.update(state=State.WAITING, progress=0.0)
    waiting = Job.objects.filter(lane=lane, state=State.WAITING).count()
    rung = DBTaskResult.objects.filter(task_path=bell.module_path, status="READY").count()
    for _ in range(waiting - rung):
        ring(lane)
    return waiting


def under_way(lane: str) -> frozenset[tuple[int, int, object]]:
    """(job, try, last heartbeat) of what a lane's worker does: as long as this changes it lives, whatever the clock does."""
    running = Job.objects.filter(lane=lane, state=State.RUNNING)
    return frozenset(running.values_list("pk", "tries", "heartbeat"))


@transaction.atomic
def throw_away() -> None:
    """What is older than KEPT_DAYS: jobs that are over with what they made, rings, sessions that ran out, the bin."""
    since = timezone.now() - timedelta(days=KEPT_DAYS)
    Job.objects.filter(ordered__lt=since).exclude(state__in=ACTIVE).delete()
    DBTaskResult.objects.filter(finished_at__lt=since).delete()
    Session.objects.filter(expire_date__lt=timezone.now()).delete()
    empty_bin()
