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

    def stop(self) -> str:
        """End it; what it printed."""
        self.process.terminate()
        self.process.wait()
        return self.output.read_text()

    def memory(self) -> float:
        """The most it ever held, MB."""
        for line in Path(f"/proc/{self.process.pid}/status").read_text().splitlines():
            if line.startswith("VmHWM"):
                return int(line.split()[1]) / 1000
        return float("nan")
