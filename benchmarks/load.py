"""Fifty smiths at once on a real server for a minute, and a light question beside ten of the heaviest.

Own process, own folder, plain http inside this machine. Everybody has a shop and a design of their own; between two
questions they think. A browser asks the ledger and both faces after each change, saves when the hands rest, and looks at the bench.
"""

import http.client
import json
import random
import re
import sqlite3
import tempfile
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from statistics import median
from typing import Any

import numpy as np

from benchmarks.engine import Row
from benchmarks.served import Served

USERS, SECONDS, THINK = 50, 60.0, 2.0
HEAVIEST = 10

_SEED = """
import json
from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.auth.models import User
from django.contrib.sessions.backends.db import SessionStore
from varistrat.core.design.document import read_document
from varistrat.core.starters import STARTERS
from varistrat.designs.services.keep import create_design
from varistrat.shop.services.people import member_of
starters = [s.document() for s in STARTERS.values()]
out = []
for i in range(USERS):
    user = User(username=f"smith-{i}")
    user.set_unusable_password()
    user.save()
    s = SessionStore()
    s[SESSION_KEY], s[BACKEND_SESSION_KEY] = str(user.pk), settings.AUTHENTICATION_BACKENDS[0]
    s[HASH_SESSION_KEY] = user.get_session_auth_hash()
    s.create()
    document = starters[i % len(starters)]
    made = create_design(actor=member_of(user), document=read_document(document), name=f"Blade {i}")
    out.append([s.session_key, made.pk, document])
print("SEEDED" + json.dumps(out))
"""


@dataclass
class Smith:
    """One signed-in browser."""

    port: int
    session: str
    design: int
    document: dict[str, Any]
    base: int = 1
    token: str = "a" * 32
    waits: list[tuple[str, float, int]] = field(default_factory=list)

    def ask(self, what: str, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        line = http.client.HTTPConnection("localhost", self.port, timeout=120)
        headers = {
            "Cookie": f"sessionid={self.session}; csrftoken={self.token}",
            "X-CSRFToken": self.token,
            "Content-Type": "application/json",
        }
        began = time.monotonic()
        try:
            line.request(method, path, json.dumps(body) if body is not None else None, headers)
            answer = line.getresponse()
            raw = answer.read()
            status = answer.status
        except (OSError, http.client.HTTPException):
            # also an answer cut off in its middle
            raw, status = b"", 0
        finally:
            line.close()
        self.waits.append((what, time.monotonic() - began, status))
        return status, raw

    def work(self, until: float, rng: random.Random) -> None:
        time.sleep(rng.uniform(0, THINK))
        while time.monotonic() < until:
            what = rng.random()
            if what < 0.15:
                self.ask("bench", "GET", "/api/designs")
            elif what < 0.75:
                # a number is changed: the browser asks its three questions
                layers = self.document["recipe"]["bar"]["start"].get("layers")
                if layers:
                    layers[0]["thickness"] = round(layers[0]["thickness"] * rng.uniform(0.98, 1.02), 3)
                self.ask("ledger", "POST", "/api/predict/ledger", {"document": self.document})
                if self.document.get("blade"):
                    self.ask(
                        "faces",
                        "POST",
                        "/api/predict/blade.png",
                        {"document": self.document, "side": "right", "margin": 4, "book": True, "px": 900},
                    )
            else:
                status, raw = self.ask("save", "PUT", f"/api/designs/{self.design}", {"document": self.document, "base": self.base})
                if status == 200:
                    self.base = json.loads(raw)["current"]
            time.sleep(rng.expovariate(1 / THINK))


class Shop(Served):
    """A server with its smiths, each signed in."""

    def __init__(self) -> None:
        super().__init__("lan", ["shell", "-v", "0", "-c", _SEED.replace("USERS", str(USERS))])

    def __enter__(self) -> "Shop":
        super().__enter__()
        self.smiths = [Smith(self.port, *row) for row in json.loads(self.said.partition("SEEDED")[2])]
        return self


def _waits(smiths: list[Smith]) -> list[tuple[str, float, int]]:
    return [w for s in smiths for w in s.waits]


def under_load() -> list[Row]:
    """p50, p95, p99, errors and peak memory of USERS for SECONDS."""
    with Shop() as shop:
        until = time.monotonic() + SECONDS
        threads = [threading.Thread(target=s.work, args=(until, random.Random(i))) for i, s in enumerate(shop.smiths)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        waits = _waits(shop.smiths)
        memory = shop.memory()
        asked, made = (int(n) for n in re.findall(r"\d+", shop.stop().rpartition("Of ")[2])[:2])
    took = np.array([w[1] for w in waits])
    p50, p95, p99 = np.percentile(took, [50, 95, 99])
    wrong = sum(1 for w in waits if w[2] not in (200, 503))
    busy = sum(1 for w in waits if w[2] == 503)
    how = (
        f"{len(waits)} questions: bench, ledger, faces, saves; {THINK:g} s of thought between; peak of the server's process {memory:.0f} MB"
    )
    by = ", ".join(f"{k} {np.percentile([w[1] for w in waits if w[0] == k], 95):.2f}" for k in ("bench", "ledger", "faces", "save"))
    return [
        (f"{USERS} users for {SECONDS:.0f} s: p50", f"{1000 * p50:.0f} ms", "", how),
        (f"{USERS} users for {SECONDS:.0f} s: p95", f"{1000 * p95:.0f} ms", "2.9 s: the same mix before", f"of each kind, s: {by}"),
        (f"{USERS} users for {SECONDS:.0f} s: p99", f"{1000 * p99:.0f} ms", "", f"slowest {took.max():.1f} s"),
        (
            "drafts found again under that load",
            f"{100 * (1 - made / asked):.0f} %",
            "",
            f"{asked} times asked for, {made} times worked out; a change is worked out once for its ledger and its faces",
        ),
        (f"{USERS} users for {SECONDS:.0f} s: errors", f"{wrong}", "0", f"and {busy} told to ask again (503)"),
    ]


def beside_the_heaviest() -> list[Row]:
    """A light question while HEAVIEST of the dearest pictures, from as many users, are asked for."""
    with Shop() as shop:
        heavy, light = shop.smiths[:HEAVIEST], shop.smiths[-1]
        bar = {"kind": "stack", "layers": [{"steel": k, "thickness": 2.0} for k in ("1084", "15n20") * 4], "width": 40.0, "length": 300.0}
        steps = [{"kind": "weld", "thickness": 14.0}, {"kind": "draw", "width": 20.0, "thickness": 20.0}]
        steps += [{"kind": "twist", "turns": 3.0}, {"kind": "section", "form": "square"}] * 20
        document = {"recipe": {"format": "varistrat.recipe/1", "name": "Heavy", "bar": {"start": bar, "steps": steps}}}
        asked = {"document": document, "px_per_mm": 40, "max_mm": 400}
        threads = [threading.Thread(target=s.ask, args=("heavy", "POST", "/api/predict/portraits", asked)) for s in heavy]
        for t in threads:
            t.start()
        time.sleep(1.0)
        while any(t.is_alive() for t in threads):
            light.ask("light", "GET", "/api/designs")
            light.ask("light", "POST", "/api/predict/ledger", {"document": light.document})
            time.sleep(0.1)
        took = [w[1] for w in light.waits]
        kinds = [w[2] for s in heavy for w in s.waits]
        longest = max(w[1] for s in heavy for w in s.waits)
    return [
        (
            f"a light question beside {HEAVIEST} of the heaviest",
            f"{1000 * median(took):.0f} ms, at most {1000 * max(took):.0f} ms",
            "300 ms",
            (
                f"{len(took)} times bench and ledger while portraits of 42 steps at 40 px/mm were drawn for {HEAVIEST} users: "
                f"{sorted(set(kinds))}, longest {longest:.1f} s"
            ),
        )
    ]


def of_full_sync() -> list[Row]:
    """What synchronous=FULL costs a save against NORMAL: the same commits side by side, WAL, in turns."""
    took: dict[str, list[float]] = {"NORMAL": [], "FULL": []}
    with tempfile.TemporaryDirectory() as folder:
        lines = {}
        for mode in took:
            line = sqlite3.connect(Path(folder) / f"{mode}.sqlite3", isolation_level=None)
            line.execute("PRAGMA journal_mode=WAL")
            line.execute(f"PRAGMA synchronous={mode}")
            line.execute("CREATE TABLE t (x TEXT)")
            lines[mode] = line
        for _ in range(200):
            for mode, line in lines.items():
                began = time.perf_counter()
                line.execute("INSERT INTO t VALUES (?)", ("x" * 20_000,))
                took[mode].append(time.perf_counter() - began)
    full, normal = 1000 * median(took["FULL"]), 1000 * median(took["NORMAL"])
    return [("a save of 20 kB, synchronous=FULL", f"{full:.2f} ms", "", f"NORMAL {normal:.2f} ms; median of 200 each, in turns")]


def run() -> list[Row]:
    return of_full_sync() + under_load() + beside_the_heaviest()


if __name__ == "__main__":
    print(*run(), sep="\n")
