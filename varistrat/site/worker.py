"""The workers, one a lane, kept at work beside the server."""

import logging
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from varistrat.site.child import Supervisor

log = logging.getLogger(__name__)
T = TypeVar("T")
LANES = ("short", "long")


def log_of(folder: Path, lane: str) -> Path:
    return folder / f"worker-{lane}.log"


class Worker(Supervisor):
    """Of one lane: what one that died left behind is put back in the queue; one that hangs is ended."""

    def __init__(self, folder: Path, lane: str):
        command = [sys.executable, "manage.py", "db_worker", "--no-startup-delay", "--interval", "0.2", "--queue-name", lane]
        super().__init__(f"{lane} worker", command, log_of(folder, lane))
        self._lane = lane
        self._said: object = None
        self._heard = time.monotonic()

    def before(self) -> None:
        """What a worker that died left behind is put back in the queue, or told as failed; what is old goes."""

        def both() -> None:
            from varistrat.jobs.services.sweeping import sweep, throw_away

            sweep(self._lane)
            throw_away()

        _asked(both)

    def hangs(self) -> bool:
        """Whether what is under way has not said a word for too long, by this process's own clock: the wall's may be set meanwhile."""
        from varistrat.jobs.services.sweeping import SILENT, under_way

        said, now = _asked(lambda: under_way(self._lane)), time.monotonic()
        if said is None or said != self._said or not said:
            self._said, self._heard = said, now
        return now - self._heard > SILENT


def _asked(what: Callable[[], T]) -> T | None:
    """Of the database, whose trouble must not end the supervisor."""
    from django.db import close_old_connections

    try:
        return what()
    except Exception:
        log.exception("could not look after the workers")
        return None
    finally:
        close_old_connections()
