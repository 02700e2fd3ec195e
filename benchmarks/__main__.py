"""`./run bench`: measure, print, and write docs/benchmarks.md."""

import datetime
import platform
from pathlib import Path

from benchmarks import browser, engine, heat, load, path, start, stock
from benchmarks.quiet import machine

OUT = Path(__file__).resolve().parents[1] / "docs" / "benchmarks.md"


def _processor() -> str:
    try:
        lines = Path("/proc/cpuinfo").read_text().splitlines()
        return next(line.partition(":")[2].strip() for line in lines if line.startswith("model name"))
    except (OSError, StopIteration):
        return platform.machine()


def main() -> None:
    import os

    rows = start.run() + engine.run() + path.server() + stock.run() + engine.study_rows() + heat.run() + engine.memory()
    print(*rows, sep="\n", flush=True)
    rows += browser.run() + load.run()
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
    main()
