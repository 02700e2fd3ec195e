"""The task worker: a child of the server that never outlives it, started again when it dies, its errors kept in a log."""

import ctypes
import logging
import os
import signal
import subprocess
import sys
import threading
import time
from io import FileIO
from pathlib import Path

log = logging.getLogger(__name__)
LOG, MOST_LOG = "worker.log", 2_000_000
PAUSES = (1.0, 2.0, 5.0, 15.0, 60.0)
"""Seconds before it is started again, the more often it died lately."""
STEADY = 120.0
"""After so many seconds at work it counts as sound again."""


def _die_with_parent() -> None:
    """In the child: Linux ends it when the server's thread that made it ends, however that came about."""
    ctypes.CDLL(None, use_errno=True).prctl(1, signal.SIGTERM)


class Supervisor(threading.Thread):
    """Keeps one worker at work until told to stop."""

    def __init__(self, folder: Path):
        super().__init__(name="worker-supervisor", daemon=True)
        self._folder, self._over = folder, threading.Event()
        self.process: subprocess.Popen[bytes] | None = None
        self.starts = 0

    def run(self) -> None:
        died = 0
        while not self._over.is_set():
            began = time.monotonic()
            self._sweep()
            with self._log() as out:
                self.process = subprocess.Popen(
                    [sys.executable, "manage.py", "db_worker", "--no-startup-delay", "--interval", "0.2"],
                    stdout=out, stderr=out, stdin=subprocess.DEVNULL, preexec_fn=_die_with_parent,
                )  # fmt: skip
            self.starts += 1
            code = self.process.wait()
            if self._over.is_set():
                return
            died = 0 if time.monotonic() - began > STEADY else min(died + 1, len(PAUSES))
            log.error("the task worker ended with %s; it is started again (its log: %s)", code, self._folder / LOG)
            self._over.wait(PAUSES[max(0, died - 1)])

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
        path = self._folder / LOG
        if path.exists() and path.stat().st_size > MOST_LOG:
            path.replace(path.with_suffix(".log.1"))
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
        return FileIO(handle, "a")

    def _sweep(self) -> None:
        """What a worker that died left behind is put back in the queue, or told as failed."""
        from django.db import close_old_connections

        from varistrat.designs.services.jobs import sweep

        try:
            sweep()
        except Exception:
            log.exception("could not sweep up after the worker")
        finally:
            close_old_connections()
