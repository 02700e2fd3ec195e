"""Running jobs, in a worker: whose turn it is, how far it is, what came of it.

The task queue carries no work of its own, only a ring for each order: whoever hears it takes the job whose turn it is.
"""

import logging
import time
from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import F, Max
from django.utils import timezone
from django_tasks import task

from varistrat.core.errors import Cancelled, InputError
from varistrat.jobs.kinds import KINDS
from varistrat.jobs.models import Job, JobFile, Lane
from varistrat.shop.services.own import shop_data

log = logging.getLogger(__name__)
State = Job.State
TELL_EVERY, KEEP_EVERY = 0.3, 0.4
"""Seconds between what is told of a job, and between writes of what it made."""
BROKE = "the program failed on it; the reason is in the server's log"


@task(queue_name=Lane.SHORT)
def take_short() -> None:
    run_next(Lane.SHORT)


@task(queue_name=Lane.LONG)
def take_long() -> None:
    run_next(Lane.LONG)


BELLS = {Lane.SHORT: take_short, Lane.LONG: take_long}


def ring(lane: str) -> None:
    """Tell the lane's worker that a job waits."""
    BELLS[Lane(lane)].enqueue()


@transaction.atomic
def claim(lane: str) -> Job | None:
    """Take the next job: of the shop that waited longest since one of its own was begun in this lane; of that, the oldest."""
    lately = dict(Job.objects.filter(lane=lane, began__isnull=False).order_by().values_list("shop").annotate(Max("began")))
    waiting = Job.objects.filter(lane=lane, state=State.WAITING).values_list("pk", "shop_id", "ordered")
    turns = [(lately[shop].timestamp() if shop in lately else 0.0, pk) for pk, shop, _ in waiting]
    if not turns:
        return None
    _, pk = min(turns)
    now = timezone.now()
    Job.objects.filter(pk=pk).update(state=State.RUNNING, tries=F("tries") + 1, began=now, heartbeat=now, progress=0.0)
    return Job.objects.select_related("shop").get(pk=pk)


def run_next(lane: str) -> Job | None:
    """Do the job whose turn it is; None when none waits. However it ends, it is never left running."""
    job = claim(lane)
    if job is None:
        return None
    watch = JobWatch(job)
    try:
        result = KINDS[job.kind].work(job.input, shop_data(job.shop), watch)
        watch.over(State.DONE, result=result, progress=1.0)
    except Cancelled:
        watch.over(State.STOPPED)
    except InputError as e:
        watch.over(State.FAILED, problem=e.problems[0].line()[:400])
    except Exception:
        log.exception("%s %s failed", job.kind, job.pk)
        watch.over(State.FAILED, problem=BROKE)
    return job


class JobWatch:
    """Tells the database now and then how far a job is, and asks it whether to go on."""

    def __init__(self, job: Job):
        # a job that was taken for dead and begun again elsewhere is no longer this one's to speak of
        self._mine = Job.objects.filter(pk=job.pk, state=State.RUNNING, tries=job.tries)
        self._job, self._told, self._kept, self._stop = job, 0.0, time.monotonic(), False
        self._made: list[JobFile] = []
        self._so_far: dict[str, Any] = {}

    def progress(self, share: float) -> None:
        if time.monotonic() - self._told < TELL_EVERY:
            return
        self._told = time.monotonic()
        self._stop = not self._mine.filter(stop_asked=False).update(progress=share, heartbeat=timezone.now(), **self._so_far)
        self._so_far = {}

    def stopped(self) -> bool:
        return self._stop

    def keep(self, index: int, content: bytes | None, *, values: Sequence[float] = (), problem: str = "", name: str = "") -> None:
        self._made.append(JobFile(job=self._job, index=index, content=content, values=list(values), problem=problem[:400], name=name))
        if time.monotonic() - self._kept > KEEP_EVERY:
            self._write()

    def tell(self, result: dict[str, Any]) -> None:
        self._so_far = {"result": result}

    def over(self, state: State, **more: object) -> None:
        """The end of it; one that was asked to stop and came to its end all the same is told as stopped."""
        with transaction.atomic():
            if self._mine.filter(stop_asked=True).exists():
                state, more = State.STOPPED, {}
            if state == State.DONE:
                self._write()
            self._mine.update(state=state, **more)

    def _write(self) -> None:
        self._kept = time.monotonic()
        if self._made and self._mine.exists():
            JobFile.objects.bulk_create(self._made)
        self._made = []
