"""`./run bench`: measure, print, and write docs/benchmarks.md."""

import datetime
import os
import platform
import sys
from collections.abc import Callable
from pathlib import Path

from benchmarks import browser, build, engine, finish, heat, load, looks, path, start, stock
from benchmarks.engine import Row
from benchmarks.quiet import machine

OUT = Path(__file__).resolve().parents[1] / "docs" / "benchmarks.md"


def _processor() -> str:
    try:
        lines = Path("/proc/cpuinfo").read_text().splitlines()
        return next(line.partition(":")[2].strip() for line in lines if line.startswith("model name"))
    except (OSError, StopIteration):
        return platform.machine()


PARTS: dict[str, Callable[[], list[Row]]] = {
    "start": start.run,
    "engine": engine.run,
    "path": path.server,
    "stock": stock.run,
    "study": engine.study_rows,
    "heat": heat.run,
    "memory": engine.memory,
    "build": build.run,
    "finish": finish.run,
    "looks": looks.run,
    "browser": browser.run,
    "load": load.run,
}


def main(asked: list[str]) -> None:
    """All parts and docs/benchmarks.md; or those that are named, only told."""
    if odd := [a for a in asked if a not in PARTS]:
        raise SystemExit(f"there is no part {odd[0]!r}: {', '.join(PARTS)}")
    rows: list[Row] = []
    for name in asked or PARTS:
        found = PARTS[name]()
        print(*found, sep="\n", flush=True)
        rows += found
    if asked:
        return
    text = [
        "# Speed, as measured",
        "",
        (
            f"Made by `./run bench` on {datetime.datetime.now(datetime.UTC).date()}: {_processor()}, {os.cpu_count()} cores, Python "
            f"{platform.python_version()}."
        ),
        "Another machine gives other figures; the ratios should hold.",
        machine.said(),
        "",
        "| what | measured | wanted | how |",
        "|---|---|---|---|",
        *(f"| {a} | **{b}** | {c} | {d} |" for a, b, c, d in rows),
        "",
    ]
    OUT.write_text("\n".join(text))
    print("\n".join(text))


if __name__ == "__main__":
    main(sys.argv[1:])
