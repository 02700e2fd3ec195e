"""What a second worker brings, what the wire costs, and what 1,000 cores would do: `python -m benchmarks.scale` prints the constants of
docs/scale.md. A scheduler and its workers on loopback, nothing else."""

import json
import os
import time
from concurrent.futures import Executor, ThreadPoolExecutor
from statistics import median
from unittest import mock

import cloudpickle  # type: ignore[import-untyped]
import numpy as np

from benchmarks.quiet import machine
from tests.cluster import cluster
from varistrat.core.afar import band, chances_of, drawing, face
from varistrat.core.executors import ASKED, workers
from varistrat.core.looks.search import CHUNK, Ask, Search, measured
from varistrat.core.looks.taste import Want
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.core.study.family import BLADES, SCALES
from varistrat.core.study.tolerances import Sizes

PX, FACES, TASKS = 4000, 240, 400
TWIST, LAMINATE = (json.dumps(STARTERS[k].document(), sort_keys=True) for k in ("bold_twist", "three_layer"))
POINTS = [(s, 1.0) for s in SCALES]


def nothing(i: int) -> int:
    """A piece that is all wire."""
    return i


def _timed(work: object) -> float:
    began = time.perf_counter()
    work()  # type: ignore[operator]
    return time.perf_counter() - began


def _pieces() -> list[list[dict[str, object]]]:
    search = Search(Ask(wants=[Want(feature="width", value=2.0)], faces=1024, lacks=["can", "drill"]))
    walk = [c.model_dump(mode="json") for c in search._walk()[:FACES]]
    return [walk[i : i + CHUNK] for i in range(0, len(walk), CHUNK)]


def _times(pool: Executor) -> dict[str, float]:
    pieces = _pieces()
    # each worker has what it needs at hand first
    for f in [pool.submit(measured, p, "", AS_SHIPS) for p in pieces[:4]]:
        f.result()
    face(TWIST, AS_SHIPS, "right", PX, 4.0, pool)
    return {
        "faces": _timed(lambda: [f.result() for f in [pool.submit(measured, p, "", AS_SHIPS) for p in pieces]]),
        "print": _timed(lambda: face(TWIST, AS_SHIPS, "right", PX, 4.0, pool)),
        "chances": _timed(
            lambda: [f.result() for f in [pool.submit(chances_of, LAMINATE, AS_SHIPS, Sizes(), "all", [p]) for p in POINTS * 4]]
        ),
    }


def _wire(pool: Executor) -> dict[str, float]:
    trips = [_timed(lambda: pool.submit(nothing, 1).result()) for _ in range(60)]
    many = _timed(lambda: [f.result() for f in [pool.submit(nothing, i) for i in range(TASKS)]])
    return {"round trip, ms": 1000 * median(trips), "pieces a second": TASKS / many}


def main() -> None:
    """Prints; copy what matters into docs/scale.md."""
    with ThreadPoolExecutor(1) as pool:
        here = _times(pool)
    print("one thread here:", {k: round(v, 2) for k, v in here.items()})
    for count in (1, 2):
        with cluster(count) as (where, _), mock.patch.dict(os.environ, {ASKED: f"dask://{where}"}), workers() as pool:
            machine.pace()
            print(f"{count} workers:", {k: round(v, 2) for k, v in _times(pool).items()}, {k: round(v, 2) for k, v in _wire(pool).items()})
    piece = cloudpickle.dumps((measured, (_pieces()[0], "", AS_SHIPS)))
    rows = cloudpickle.dumps((band, (TWIST, AS_SHIPS, "right", PX, 4.0, 0)))
    answer = drawing(TWIST, AS_SHIPS, "right", PX, 4.0).band(0)
    study = cloudpickle.dumps((chances_of, (LAMINATE, AS_SHIPS, Sizes(), "all", POINTS)))
    print("bytes of a piece: faces", len(piece), "print", len(rows), "answer", np.asarray(answer).nbytes, "study", len(study))
    print("blades of a study a second, one thread:", round(len(POINTS) * 4 * BLADES / here["chances"]))
    print(machine.said())


if __name__ == "__main__":
    main()
