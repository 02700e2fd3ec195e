"""Processes beside the server: children that never outlive it, started again when they die or hang, their errors kept in a log."""

import ctypes
import logging
import os
import signal
import subprocess
import threading
import time
from collections.abc import Sequence
from io import FileIO
from pathlib import Path

log = logging.getLogger(__name__)
MOST_LOG = 2_000_000
PAUSES = (1.0, 2.0, 5.0, 15.0, 60.0)
"""Seconds before it is started again, the more often it died lately."""
STEADY = 120.0
"""After so many seconds at work it counts as sound again."""
LOOK_EVERY = 20.0
"""Seconds between looks at whether it hangs."""


def _die_with_parent() -> None:
    """In the child: Linux ends it when the server's thread that made it ends, however that came about."""
    ctypes.CDLL(None, use_errno=True).prctl(1, signal.SIGTERM)


class Supervisor(threading.Thread):
    """Keeps one child at work until told to stop. files: open ones that it is handed."""

    def __init__(self, name: str, command: Sequence[str], log_file: Path, files: Sequence[int] = ()):
        super().__init__(name=f"{name}-supervisor", daemon=True)
        self._called, self._command, self._log_file, self._files = name, list(command), log_file, tuple(files)
        self._over = threading.Event()
        self.process: subprocess.Popen[bytes] | None = None
        self.starts = 0

    def run(self) -> None:
        died = 0
        while not self._over.is_set():
            began = time.monotonic()
            self.before()
            with self._log() as out:
                self.process = subprocess.Popen(
                    self._command, stdout=out, stderr=out, stdin=subprocess.DEVNULL, pass_fds=self._files, preexec_fn=_die_with_parent
                )
            self.starts += 1
            code = self._watched(self.process)
            if self._over.is_set():
                return
            died = 0 if time.monotonic() - began > STEADY else min(died + 1, len(PAUSES))
            log.error("the %s ended with %s; it is started again (its log: %s)", self._called, code, self._log_file)
            self._over.wait(PAUSES[max(0, died - 1)])

    def before(self) -> None:
        """What is to be done before each start."""

    def hangs(self) -> bool:
        """Whether it is at work and does nothing; asked now and then."""
        return False

    def _watched(self, process: "subprocess.Popen[bytes]") -> int:
        """Until it ends, by itself or because it hung."""
        while True:
            try:
                return process.wait(LOOK_EVERY)
            except subprocess.TimeoutExpired:
                if self.hangs():
                    log.error("the %s hangs; it is ended", self._called)
                    process.kill()

    def stop(self) -> None:
        self._over.set()
        if self.process and self.process.poll() is None:
            # SIGTERM lets it finish what it does; a second one, or a short wait, does not
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
