"""What the proof costs: the whole run, the core alone, one module of the browser's tests, the checks.

Processor seconds do not hang on neighbours as the clock does; both are told, and how busy the cores were with other work meanwhile.
"""

import json
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks.engine import Row

ROOT = Path(__file__).resolve().parents[1]
MODULE = "tests.e2e.test_stock"
"""A module of the browser's tests, of the usual size."""


def _machine() -> tuple[float, float]:
    """Seconds that all cores were busy, and that all cores had, since the machine began."""
    user, nice, system, idle, waiting, *others = map(int, Path("/proc/stat").read_text().split("\n")[0].split()[1:9])
    busy = user + nice + system + sum(others)
    return busy / 100, (busy + idle + waiting) / 100


def _ran(*said: str) -> tuple[float, float, float, float, float]:
    """`python -m` so: seconds by the clock, processor seconds (as `time` tells them), those of its figures, the part of the cores' time
    that others had, tests that passed."""
    with tempfile.NamedTemporaryFile(suffix=".json") as figures:
        more = ["--figures", figures.name] if said[0] == "tests.everything" else []
        before, (busy, had), began = resource.getrusage(resource.RUSAGE_CHILDREN), _machine(), time.monotonic()
        done = subprocess.run([sys.executable, "-m", *said, *more], cwd=ROOT, capture_output=True, text=True, check=False)
        clock = time.monotonic() - began
        after, (busy_then, had_then) = resource.getrusage(resource.RUSAGE_CHILDREN), _machine()
        if done.returncode:
            raise SystemExit(f"{' '.join(said)} failed: what fails is not measured\n{done.stdout[-3000:]}{done.stderr[-1000:]}")
        by_time = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
        told = json.loads(Path(figures.name).read_text()) if more else {"processor": by_time, "tests": {}}
    others = max(0.0, busy_then - busy - told["processor"]) / max(1e-9, had_then - had)
    return clock, by_time, told["processor"], others, len(told["tests"])


def run() -> list[Row]:
    rows: list[Row] = []
    for what, said, clock_wanted, wanted in (
        ("./run check", ("tests.check",), "90 s", ""),
        ("the core's tests alone", ("tests.everything", "--no-checks", "tests.core"), "150 s", ""),
        (f"one module in the browser ({MODULE})", ("tests.everything", "--no-checks", MODULE), "60 s", ""),
        ("./run test, all of it", ("tests.everything",), "600 s", "700 s"),
    ):
        clock, by_time, processor, others, tests = _ran(*said)
        beside = f"{100 * others:.0f} % of the cores' time went to other work"
        rows.append((f"{what}: by the clock", f"{clock:.0f} s", clock_wanted, beside))
        how = f"{tests} tests; the browser's pages, which `time` leaves out, included: {processor:.0f} s" if tests else ""
        rows.append((f"{what}: processor, user and system of `time`", f"{by_time:.0f} s", wanted, how))
    return rows
