"""How long it takes to begin: the command line, and the demo when everything is already there."""

import json
import os
import signal
import socket
import subprocess
import tempfile
import time
import urllib.request
from pathlib import Path

from benchmarks.engine import Row
from benchmarks.quiet import timed, tries
from benchmarks.recipes import TWELVE

ROOT = Path(__file__).resolve().parents[1]
COMMAND = ROOT / ".venv" / "bin" / "varistrat"
STARTS = 90.0


def _demo(folder: str) -> float:
    """Seconds from the command to the first answer."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    began = time.perf_counter()
    at_work = subprocess.Popen(
        [str(ROOT / "run"), "demo", "--port", str(port), "--data", folder],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    try:
        while time.perf_counter() - began < STARTS:
            try:
                urllib.request.urlopen(f"http://localhost:{port}/bench", timeout=5).close()
                return time.perf_counter() - began
            except OSError:
                time.sleep(0.02)
        raise SystemExit("the demo did not start")
    finally:
        os.killpg(at_work.pid, signal.SIGTERM)
        at_work.wait()


def run() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        recipe = Path(folder) / "twelve.json"
        recipe.write_text(json.dumps(TWELVE))
        rows: list[Row] = []
        for args, wanted in ((["--help"], "0.3 s"), (["size", str(recipe)], "0.6 s")):
            took = tries(timed(lambda a=args: subprocess.run([COMMAND, *a], capture_output=True, check=True)))  # type: ignore[misc]
            rows.append((f"varistrat {args[0]}", f"{took.median():.2f} s", wanted, took.how))
        data = str(Path(folder) / "data")
        first = _demo(data)
        took = tries(lambda _: (_demo(data),), 5, 9)
    return [
        *rows,
        ("second ./run demo answers", f"{took.median():.1f} s", "3 s", f"{took.how}; the first, with its data made: {first:.1f} s"),
    ]
