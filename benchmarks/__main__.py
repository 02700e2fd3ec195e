"""`./run bench [PART ...]`: measure, print, and write docs/benchmarks.md, which keeps what was measured last of each part."""

import datetime
import os
import platform
import sys
from collections.abc import Callable
from pathlib import Path

from benchmarks import browser, build, engine, finish, heat, load, looks, mutants, path, proof, start, stock
from benchmarks.engine import Row
from benchmarks.quiet import machine

OUT = Path(__file__).resolve().parents[1] / "docs" / "benchmarks.md"
HEAD = """# Speed, as measured

Made by `./run bench`, or `./run bench PART` for one of these parts. Another machine gives other figures; the ratios should hold."""


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
    "tests": proof.run,
}


def main(asked: list[str]) -> None:
    """All parts, or those that are named; docs/benchmarks.md keeps what was measured last of each."""
    if asked[:1] == ["mutants"]:
        sys.exit(mutants.main(asked[1:]))
    if odd := [a for a in asked if a not in PARTS]:
        raise SystemExit(f"there is no part {odd[0]!r}: {', '.join(PARTS)}")
    kept = kept_of(OUT.read_text()) if OUT.exists() else {}
    for name in asked or PARTS:
        rows = PARTS[name]()
        print(*rows, sep="\n", flush=True)
        kept[name] = _section(name, rows)
        # what was measured stays, whatever becomes of the next
        OUT.write_text(page_of(kept))


def _section(name: str, rows: list[Row]) -> str:
    said = (
        f"{datetime.datetime.now(datetime.UTC).date()}, {_processor()}, {os.cpu_count()} cores, Python {platform.python_version()}. "
        f"{machine.said()}"
    )
    table = ["| what | measured | wanted | how |", "|---|---|---|---|", *(f"| {a} | **{b}** | {c} | {d} |" for a, b, c, d in rows)]
    return "\n".join([f"## {name}", "", said, "", *table])


def kept_of(page: str) -> dict[str, str]:
    """The sections of a page, by part."""
    parts = page.split("\n## ")[1:]
    return {part.partition("\n")[0].strip(): f"## {part.strip()}" for part in parts}


def page_of(kept: dict[str, str]) -> str:
    """The page, its parts in the order they are measured in."""
    return "\n\n".join([HEAD, *(kept[name] for name in PARTS if name in kept)]) + "\n"


if __name__ == "__main__":
    main(sys.argv[1:])
