"""A real server in a process and a folder of its own, to be measured."""

import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
STARTS = 60.0
"""Seconds it may take."""


class Served:
    """`mode`: as VARISTRAT_MODE; `first`: manage.py commands before it starts, whose output is kept in `said`."""

    def __init__(self, mode: str, *first: list[str]):
        self.mode, self.first = mode, first

    def __enter__(self) -> "Served":
        self.folder = tempfile.TemporaryDirectory()
        env = os.environ | {"VARISTRAT_MODE": self.mode, "VARISTRAT_DATA": self.folder.name, "VARISTRAT_BIND": "127.0.0.1"}
        self.said = ""
        for command in (["migrate", "-v", "0"], *self.first):
            done = subprocess.run(
                [sys.executable, "manage.py", *command],
                cwd=ROOT,
                env=env,
                check=True,
                capture_output=True,
                text=True,
                stdin=subprocess.DEVNULL,
            )
            self.said += done.stdout
        with socket.socket() as s:
            s.bind(("127.0.0.1", 0))
            self.port = int(s.getsockname()[1])
        self.output = Path(self.folder.name) / "server.out"
        with self.output.open("wb") as out:
            self.process = subprocess.Popen([sys.executable, "-m", "varistrat.site.server", str(self.port)], cwd=ROOT, env=env, stdout=out)
        self.address = f"http://localhost:{self.port}"
        until = time.monotonic() + STARTS
        while time.monotonic() < until and self.process.poll() is None:
            try:
                urllib.request.urlopen(f"{self.address}/api/session", timeout=5).close()
                return self
            except urllib.error.HTTPError as e:
                self.__exit__()
                raise SystemExit(f"the server answers {e.code}") from e
            except OSError:
                time.sleep(0.1)
        self.__exit__()
        raise SystemExit("the server did not start")

    def __exit__(self, *_: object) -> None:
        self.stop()
        self.folder.cleanup()

    @property
    def pid(self) -> int:
        """Of the server."""
        return self.process.pid

    def stop(self) -> str:
        """End it; what it printed."""
        self.process.terminate()
        self.process.wait()
        return self.output.read_text()

    def family(self, word: bytes = b"") -> list[int]:
        """Process numbers of the server and of its children, or of those with this word in their command."""
        found = [] if word else [self.pid]
        for status in Path("/proc").glob("[0-9]*/status"):
            try:
                if f"PPid:\t{self.pid}\n" in status.read_text() and word in (status.parent / "cmdline").read_bytes():
                    found.append(int(status.parent.name))
            except OSError:
                continue
        return found

    def memory(self, field: str = "VmHWM", word: bytes = b"") -> float:
        """The most that it and its children ever held, MB; field VmRSS: what they hold. word: see `family`."""
        held = 0.0
        for pid in self.family(word):
            try:
                status = Path(f"/proc/{pid}/status").read_text()
            except OSError:
                continue
            held += sum(int(line.split()[1]) / 1000 for line in status.splitlines() if line.startswith(field))
        return held
