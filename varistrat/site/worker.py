"""The workers, one a lane: children of the server that never outlive it, started again when they die or hang, their errors kept in a
log."""

import ctypes
import logging
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from io import FileIO
from pathlib import Path
from typing import TypeVar

log = logging.getLogger(__name__)
T = TypeVar("T")
MOST_LOG = 2_000_000
LANES = ("short", "long")
PAUSES = (1.0, 2.0, 5.0, 15.0, 60.0)
"""Seconds before it is started again, the more often it died lately."""
STEADY = 120.0
"""After so many seconds at work it counts as sound again."""
LOOK_EVERY = 20.0
"""Seconds between looks at whether it hangs."""


def _die_with_parent() -> None:
    """In the child: Linux ends it when the server's thread that made it ends, however that came about."""
    ctypes.CDLL(None, use_errno=True).prctl(1, signal.SIGTERM)


def log_of(folder: Path, lane: str) -> Path:
    return folder / f"worker-{lane}.log"


class Supervisor(threading.Thread):
    """Keeps the worker of one lane at work until told to stop."""

    def __init__(self, folder: Path, lane: str):
        super().__init__(name=f"{lane}-supervisor", daemon=True)
        self._log_file, self._lane, self._over = log_of(folder, lane), lane, threading.Event()
        self.process: subprocess.Popen[bytes] | None = None
        self.starts = 0
        self._said: object = None
        self._heard = time.monotonic()

    def run(self) -> None:
        died = 0
        while not self._over.is_set():
            began = time.monotonic()
            self._sweep()
            with self._log() as out:
                self.process = subprocess.Popen(
                    [sys.executable, "manage.py", "db_worker", "--no-startup-delay", "--interval", "0.2", "--queue-name", self._lane],
                    stdout=out,
                    stderr=out,
                    stdin=subprocess.DEVNULL,
                    preexec_fn=_die_with_parent,
                )
            self.starts += 1
            code = self._watched(self.process)
            if self._over.is_set():
                return
            died = 0 if time.monotonic() - began > STEADY else min(died + 1, len(PAUSES))
            log.error("the %s worker ended with %s; it is started again (its log: %s)", self._lane, code, self._log_file)
            self._over.wait(PAUSES[max(0, died - 1)])

    def _watched(self, process: "subprocess.Popen[bytes]") -> int:
        """Until it ends, by itself or because it hung."""
        while True:
            try:
                return process.wait(LOOK_EVERY)
            except subprocess.TimeoutExpired:
                if self._hangs():
                    log.error("the %s worker hangs; it is ended", self._lane)
                    process.kill()

    def stop(self) -> None:
        self._over.set()
        if self.process and self.process.poll() is None:
            # SIGTERM lets it finish its task; a second one, or a short wait, does not
            self.process.terminate()
            try:
                self.process.wait(3)
            except subprocess.TimeoutExpired:
                self.process.kill()

    def _log(self) -> FileIO:
        path = self._log_file
        if path.exists() and path.stat().st_size > MOST_LOG:
            path.replace(path.with_suffix(".log.1"))
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
        return FileIO(handle, "a")

    def _sweep(self) -> None:
        """What a worker that died left behind is put back in the queue, or told as failed; what is old goes."""

        def both() -> None:
            from varistrat.jobs.services.sweeping import sweep, throw_away

            sweep(self._lane)
            throw_away()

        _asked(both)

    def _hangs(self) -> bool:
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
