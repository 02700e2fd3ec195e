"""The server and its workers killed, a thousand times, while designs are saved and read in, entries written and jobs ordered: what was
acknowledged is there, once; nothing is stuck. `python -m benchmarks.kills [KILLS]`; a whole run writes docs/kills.md.
"""

import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from datetime import UTC, datetime
from uuid import uuid4

from benchmarks.load import _SEED, Smith
from benchmarks.served import ROOT, Served
from benchmarks.soak import _BUILDS
from varistrat.core.design.upgrades import FORMAT

KILLS, PEOPLE, FARMS = 1000, 6, 2
OUT = ROOT / "docs" / "kills.md"
SERVER = ""
KINDS, SHARES = (SERVER, "db_worker", "--beside"), (0.55, 0.3, 0.15)
"""Who is killed: the server, a worker, a server beside it; known by a word of their commands."""
EARLY, LATE = (0.02, 1.2), (2.2, 6.0)
"""Seconds after a start, by turns: before there are workers, and when they are at work."""
JOBS_OVER = 240.0
"""Seconds after the last kill within which every job has come to its end."""


@dataclass
class Said:
    """What the server said it had kept: latest save of each design, ids of entries, of designs read in, of jobs."""

    saves: dict[int, int] = field(default_factory=dict)
    entries: set[str] = field(default_factory=set)
    designs: set[int] = field(default_factory=set)
    jobs: set[int] = field(default_factory=set)
    refused: dict[int, int] = field(default_factory=dict)


class Hand(Smith):
    """One who saves, reads in, writes down and orders without a pause, and asks again when nobody answers."""

    build: int = 0

    def busy(self, over: threading.Event, said: Said, lock: threading.Lock, seed: int) -> None:
        rng = random.Random(seed)
        waiting: list[dict[str, str]] = []
        while not over.is_set():
            what = rng.random()
            if what < 0.35:
                self.document["recipe"]["note"] = f"{rng.random()}"
                status, raw = self.ask("save", "PUT", f"/api/designs/{self.design}", {"document": self.document, "base": self.base})
                if status in (200, 409):
                    self.base = json.loads(raw)["current"]
                if status == 200:
                    with lock:
                        said.saves[self.design] = self.base
            elif what < 0.75:
                at = datetime.now(UTC).isoformat()
                waiting += [{"id": str(uuid4()), "op": "bar:clean", "kind": "note", "at": at, "text": "x"} for _ in range(3)]
                status, raw = self.ask("entries", "POST", f"/api/builds/{self.build}/entries", {"entries": waiting[:60]})
                if status == 200:
                    kept = set(json.loads(raw)["kept"])
                    waiting = [w for w in waiting if w["id"] not in kept]
                    with lock:
                        said.entries |= kept
            elif what < 0.9:
                status, raw = self.ask("designs", "POST", "/api/designs/import", {"format": FORMAT, "name": "read in"} | self.document)
                if status == 201:
                    with lock:
                        said.designs.add(json.loads(raw)["id"])
            else:
                order = {"kind": "print_face", "design": self.design, "side": "right", "width_px": 200}
                status, raw = self.ask("jobs", "POST", "/api/jobs", order)
                if status == 201:
                    with lock:
                        said.jobs.add(json.loads(raw)["id"])
            if status not in (0, 200, 201, 409, 422, 503):
                with lock:
                    said.refused[status] = said.refused.get(status, 0) + 1
            if status == 0:
                time.sleep(0.2)


_NURSERY = """
import os, signal, sys
os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
import django
django.setup()
import varistrat.site.wsgi
from varistrat.site import server
for line in sys.stdin:
    made = os.fork()
    if not made:
        os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
        os.dup2(2, 1)
        server.main(int(line))
        os._exit(0)
    print(made, flush=True)
    os.waitpid(made, 0)
    print("gone", flush=True)
"""
"""Loads all that a server needs, and makes one for each port it is told, by fork: what is tried is what a kill leaves behind, not how long
Python takes to load."""


class Killable(Served):
    """A server that is killed and begun again on the same folder and port."""

    _made = 0

    def __enter__(self) -> "Killable":
        super().__enter__()
        self.stop()
        env = os.environ | {"VARISTRAT_MODE": self.mode, "VARISTRAT_DATA": self.folder.name, "VARISTRAT_BIND": "127.0.0.1"}
        with self.output.open("ab") as out:
            self.nursery = subprocess.Popen(
                [sys.executable, "-c", _NURSERY], cwd=ROOT, env=env, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=out, text=True
            )
        self.again()
        return self

    def __exit__(self, *_: object) -> None:
        self.kill()
        self.nursery.kill()
        self.nursery.wait()
        super().__exit__()

    @property
    def pid(self) -> int:
        return self._made or self.process.pid

    def kill(self) -> None:
        os.kill(self._made, signal.SIGKILL)
        assert self.nursery.stdout
        self.nursery.stdout.readline()

    def kill_one(self, rng: random.Random) -> str:
        """The server, a worker, or a server beside it: whichever of them is there; what it was."""
        kind = rng.choices(KINDS, SHARES)[0]
        found = self.family(kind.encode())
        if kind == SERVER or not found:
            self.kill()
            return SERVER
        os.kill(rng.choice(found), signal.SIGKILL)
        return kind

    def again(self) -> float:
        """Seconds until it answers."""
        assert self.nursery.stdin and self.nursery.stdout
        began = time.monotonic()
        self.nursery.stdin.write(f"{self.port}\n")
        self.nursery.stdin.flush()
        self._made = int(self.nursery.stdout.readline())
        while time.monotonic() - began < 60:
            try:
                urllib.request.urlopen(f"{self.address}/api/session", timeout=5).close()
                return time.monotonic() - began
            except urllib.error.HTTPError:
                raise
            except OSError:
                time.sleep(0.02)
        raise SystemExit(f"the server did not come back: {self.output.read_text()[-2000:]}")


def missing(folder: str, said: Said) -> list[str]:
    """What was acknowledged and is not there, or there twice; and what the database says of itself."""
    line = sqlite3.connect(f"file:{folder}/varistrat.sqlite3?mode=ro", uri=True)
    try:
        wrong = []
        rows = [str(r[0]).replace("-", "") for r in line.execute("SELECT uid FROM builds_record")]
        there = set(rows)
        wrong += [f"entry {e}" for e in said.entries if e.replace("-", "") not in there]
        if len(rows) != len(there):
            wrong.append("an entry twice")
        designs = {r[0] for r in line.execute("SELECT id FROM designs_design")}
        wrong += [f"design {d}" for d in said.designs if d not in designs]
        for design, number in said.saves.items():
            if not line.execute("SELECT 1 FROM designs_revision WHERE design_id=? AND number=?", (design, number)).fetchone():
                wrong.append(f"save {number} of design {design}")
        # orders beyond those kept of a shop are thrown away as newer ones come
        newest = {r[0] for r in line.execute("SELECT id FROM jobs_job")}
        wrong += [f"job {j}" for j in said.jobs if j not in newest and j > min(newest, default=0)]
        if line.execute("PRAGMA quick_check").fetchone()[0] != "ok":
            wrong.append("the database is broken")
        return wrong
    finally:
        line.close()


@dataclass
class Outcome:
    """Of one farm. killed: how often who; said: what was acknowledged; wrong: what of it is missing; stuck: jobs; starts: s of each."""

    killed: dict[str, int]
    said: Said
    wrong: list[str]
    stuck: int
    starts: list[float]


def farm(kills: int, seed: int) -> Outcome:
    """A shop of its own, its people, and whoever kills."""
    rng, said, lock = random.Random(seed), Said(), threading.Lock()
    starts, wrong, killed = list[float](), list[str](), dict.fromkeys(KINDS, 0)
    with Killable("lan", ["shell", "-v", "0", "-c", (_SEED + _BUILDS).replace("USERS", str(PEOPLE))]) as server:
        rows = json.loads(server.said.partition("SEEDED")[2].partition("BUILDS")[0])
        hands = [Hand(server.port, *row) for row in rows]
        for hand, build in zip(hands, json.loads(server.said.partition("BUILDS")[2]), strict=True):
            hand.build = build
        over = threading.Event()
        threads = [threading.Thread(target=h.busy, args=(over, said, lock, 100 * seed + i)) for i, h in enumerate(hands)]
        for t in threads:
            t.start()
        for n in range(kills):
            time.sleep(rng.uniform(*rng.choice((EARLY, LATE))))
            kind = server.kill_one(rng)
            killed[kind] += 1
            if kind == SERVER:
                starts.append(server.again())
            if n % 20 == 19:
                with lock:
                    snapshot = Said(dict(said.saves), set(said.entries), set(said.designs), set(said.jobs))
                wrong = missing(server.folder.name, snapshot)
                print(
                    f"farm {seed}: {n + 1} kills, {len(snapshot.entries)} entries, {len(snapshot.designs)} designs: {wrong or 'all there'}",
                    flush=True,
                )
                if wrong:
                    break
        over.set()
        for t in threads:
            t.join()
        wrong = wrong or missing(server.folder.name, said)
        return Outcome(killed, said, wrong, _stuck(server.folder.name), starts)


def main(asked: list[str]) -> None:
    """As told; docs/kills.md is written by a whole run only."""
    kills, began = int(asked[0]) if asked else KILLS, time.monotonic()
    with ProcessPoolExecutor(FARMS) as pool:
        found = list(pool.map(farm, [kills // FARMS] * FARMS, range(1, FARMS + 1)))
    wrong, stuck = [w for o in found for w in o.wrong], sum(o.stuck for o in found)
    starts = sorted(s for o in found for s in o.starts)
    refused: dict[int, int] = {}
    for status, n in (item for o in found for item in o.said.refused.items()):
        refused[status] = refused.get(status, 0) + n
    kept = [sum(len(getattr(o.said, what)) for o in found) for what in ("entries", "designs", "saves", "jobs")]
    lines = [
        "# Killed",
        "",
        f"Made by `python -m benchmarks.kills` on {datetime.now(UTC).date()} in {(time.monotonic() - began) / 60:.0f} minutes: "
        f"{FARMS} shops side by side, {PEOPLE} people in each who never rest.",
        "",
        "| what | measured | wanted |",
        "|---|---|---|",
        (
            f"| kills of the server, of a worker, of a server beside it | {', '.join(str(sum(o.killed[k] for o in found)) for k in KINDS)} "
            f"| {KILLS:,} together |"
        ),
        f"| entries, designs read in, designs saved over and over, jobs acknowledged | {', '.join(map(str, kept))} | |",
        f"| of these missing or there twice | {', '.join(wrong[:5]) or 'none'} | none |",
        f"| jobs neither done nor failed after the last kill | {stuck or 'none'} | none |",
        f"| other answers of the server | {refused or 'none'} | none |",
        f"| seconds until it answers again, median and most | {starts[len(starts) // 2]:.1f}, {starts[-1]:.1f} | |",
    ]
    print(*lines, sep="\n")
    if kills >= KILLS:
        OUT.write_text("\n".join(lines) + "\n")
    if wrong or stuck:
        raise SystemExit(1)


def _stuck(folder: str) -> int:
    """Jobs that still wait or run when they have had time enough."""
    until = time.monotonic() + JOBS_OVER
    while True:
        line = sqlite3.connect(f"file:{folder}/varistrat.sqlite3?mode=ro", uri=True)
        count = int(line.execute("SELECT COUNT(*) FROM jobs_job WHERE state IN ('waiting', 'running')").fetchone()[0])
        line.close()
        if not count or time.monotonic() > until:
            return count
        time.sleep(1.0)


if __name__ == "__main__":
    main(sys.argv[1:])
