"""Fifty people at once for ten minutes: readers, sliders, savers, sheets by the fire; what they wait, what fails, what memory does.

`python -m benchmarks.soak [MINUTES]`; writes docs/soak.md. `./run bench` has the minute of it (benchmarks/load.py).
"""

import json
import random
import sys
import threading
import time
from datetime import UTC, datetime
from pathlib import Path
from uuid import uuid4

import numpy as np

from benchmarks.load import _SEED, Smith, _waits
from benchmarks.quiet import machine
from benchmarks.served import Served

MINUTES, PEOPLE, THINK = 10.0, 50, 2.0
OUT = Path(__file__).resolve().parents[1] / "docs" / "soak.md"
WANTED_P95 = 0.5
MIX = {"reader": 15, "slider": 15, "saver": 10, "fire": 10}
KINDS = ("bench", "design", "ledger", "faces", "save", "sheet", "entries")
_BUILDS = """
from uuid import uuid4
from varistrat.builds.services.begin import begin
from varistrat.core.design.worked import Worked
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import made_so
from varistrat.shop.models import Membership
short = Worked.of(read_document(STARTERS["bold_twist"].document()))
worked = Worked.of(made_so(short, stock_of(short)))
builds = []
for i in range(USERS):
    actor = Membership.objects.get(user__username=f"smith-{i}")
    builds.append(begin(actor=actor, uid=uuid4(), worked=worked, design=None, title=f"Build {i}").pk)
print("BUILDS" + json.dumps(builds))
"""


class Person(Smith):
    """A smith with something of his own to do, over and over, with a pause to think."""

    build: int = 0
    does: str = "reader"
    written: int = 0

    def work(self, until: float, rng: random.Random) -> None:
        time.sleep(rng.uniform(0, THINK))
        while time.monotonic() < until:
            getattr(self, f"_{self.does}")(rng)
            time.sleep(rng.expovariate(1 / THINK))

    def _reader(self, rng: random.Random) -> None:
        if rng.random() < 0.5:
            self.ask("bench", "GET", "/api/designs")
        else:
            self.ask("design", "GET", f"/api/designs/{self.design}")

    def _slider(self, rng: random.Random) -> None:
        self._change(rng)
        self.ask("ledger", "POST", "/api/predict/ledger", {"document": self.document})
        if self.document.get("blade"):
            asked = {
                "document": self.document,
                "side": rng.choice(("right", "left")),
                "margin": 4,
                "book": True,
                "px": 900,
                "quality": "preview",
            }
            self.ask("faces", "POST", "/api/predict/blade.png", asked)

    def _saver(self, rng: random.Random) -> None:
        self._change(rng)
        status, raw = self.ask("save", "PUT", f"/api/designs/{self.design}", {"document": self.document, "base": self.base})
        if status == 200:
            self.base = json.loads(raw)["current"]

    def _fire(self, rng: random.Random) -> None:
        if not self.build:
            return self._reader(rng)
        if rng.random() < 0.3:
            self.ask("sheet", "GET", f"/api/builds/{self.build}")
            return None
        at = datetime.now(UTC).isoformat()
        entries = [
            {"id": str(uuid4()), "op": "bar:clean", "kind": "note", "at": at, "text": f"heat {rng.randint(1, 30)}"} for _ in range(3)
        ]
        status, raw = self.ask("entries", "POST", f"/api/builds/{self.build}/entries", {"entries": entries})
        self.written += len(json.loads(raw)["kept"]) if status == 200 else 0
        return None

    def _change(self, rng: random.Random) -> None:
        layers = self.document["recipe"]["bar"]["start"].get("layers")
        if layers:
            layers[0]["thickness"] = round(layers[0]["thickness"] * rng.uniform(0.98, 1.02), 3)


def soak(minutes: float) -> tuple[list[str], str]:
    """The lines of docs/soak.md, and what was wrong; empty: nothing."""
    with Served("lan", ["shell", "-v", "0", "-c", (_SEED + _BUILDS).replace("USERS", str(PEOPLE))]) as server:
        rows = json.loads(server.said.partition("SEEDED")[2].partition("BUILDS")[0])
        builds = json.loads(server.said.partition("BUILDS")[2])
        roles = [role for role, n in MIX.items() for _ in range(n)]
        people = [Person(server.port, *row) for row in rows]
        for person, build, role in zip(people, builds, roles, strict=True):
            person.build, person.does = build, role
        until = time.monotonic() + 60 * minutes
        threads = [threading.Thread(target=p.work, args=(until, random.Random(i))) for i, p in enumerate(people)]
        for t in threads:
            t.start()
        held = []
        while any(t.is_alive() for t in threads):
            held.append(server.memory("VmRSS") - server.memory("VmRSS", b"db_worker"))
            machine.pace()
            time.sleep(10.0)
        for t in threads:
            t.join()
        kept = sum(_entries(p) for p in people if p.build)
        written = sum(p.written for p in people)
        waits = _waits(people)  # type: ignore[arg-type]
    failed = [w for w in waits if w[0] in KINDS and (w[2] >= 500 or w[2] == 0)]
    wrong = f"{len(failed)} questions failed" if failed else "" if written == kept else f"{written} entries written, {kept} kept"
    return _told(minutes, waits, held, written, kept), wrong


def _entries(p: Person) -> int:
    found = json.loads(p.ask("count", "GET", f"/api/builds/{p.build}/entries")[1])
    return len(found)


def _told(minutes: float, waits: list[tuple[str, float, int]], held: list[float], written: int, kept: int) -> list[str]:
    asked = [w for w in waits if w[0] in KINDS]
    took = np.array([w[1] for w in asked])
    p50, p95, p99 = np.percentile(took, [50, 95, 99])
    bad = sorted({w[2] for w in asked if w[2] >= 500 or w[2] == 0})
    lines = [
        "# Fifty people at once",
        "",
        (
            f"Made by `python -m benchmarks.soak` on {datetime.now(UTC).date()}: {minutes:g} minutes, {len(asked)} questions, "
            f"{THINK:g} s of thought between."
        ),
        machine.said(),
        "",
        "| what | measured | wanted |",
        "|---|---|---|",
        f"| p50 | {1000 * p50:.0f} ms | |",
        f"| p95 | {1000 * p95:.0f} ms | {1000 * WANTED_P95:.0f} ms |",
        f"| p99 | {1000 * p99:.0f} ms, slowest {took.max():.1f} s | |",
        f"| answers of 500 and above, or none | {', '.join(map(str, bad)) or 'none'} | none |",
        f"| entries acknowledged, and there afterwards | {written}, {kept} | the same |",
        f"| memory of the serving processes after every minute, MB | {', '.join(f'{m:.0f}' for m in held[6::6])} | flat |",
    ]
    for kind in KINDS:
        mine = [w[1] for w in asked if w[0] == kind]
        if mine:
            a, b = np.percentile(mine, [50, 95])
            lines.append(f"| {kind}: p50, p95 of {len(mine)} | {1000 * a:.0f}, {1000 * b:.0f} ms | |")
    return lines


def main(said: list[str]) -> None:
    """As told; docs/soak.md is written by a whole run only."""
    minutes = float(said[0]) if said else MINUTES
    lines, wrong = soak(minutes)
    print(*lines, sep="\n")
    if minutes >= MINUTES:
        OUT.write_text("\n".join(lines) + "\n")
    if wrong:
        raise SystemExit(wrong)


if __name__ == "__main__":
    main(sys.argv[1:])
