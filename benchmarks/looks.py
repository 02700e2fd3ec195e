"""From a wanted look back to recipes: how long the walk takes, when the first answers come, whether planted designs are found again; and a
study of twenty designs."""

import json
import time
from concurrent.futures import Executor

import numpy as np

from benchmarks.engine import Row
from varistrat.core.afar import chances_of
from varistrat.core.executors import Processes, cores
from varistrat.core.looks import search as looks
from varistrat.core.looks.features import KEYS, features_of_cut
from varistrat.core.looks.search import Ask, Search
from varistrat.core.looks.space import FAMILIES, drawn_from, usual_pairings
from varistrat.core.looks.taste import REPEATS_FROM, Want, on_scales, wants_of
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.core.study.family import ALL, grid_of
from varistrat.core.study.tolerances import Sizes

FACES, PLANTED, WITHIN = 4096, 26, 0.05


def run() -> list[Row]:
    """Some six minutes."""
    pool = Processes(cores())
    try:
        list(pool.map(looks.measured, [[]] * cores(), [""] * cores(), [AS_SHIPS] * cores()))
        return [*_walk(pool), _found_again(pool), _family(pool)]
    finally:
        pool.shutdown(cancel_futures=True)


def _walk(pool: Executor) -> list[Row]:
    looks._kept.clear()
    search, began, first, walked = Search(Ask(wants=[Want(feature="width", value=3.0)], faces=FACES)), time.perf_counter(), 0.0, 0.0
    for step in search.run(pool):
        now = time.perf_counter() - began
        first = first or (now if step.answers else 0.0)
        if step.share < 0.7 + 1e-9:
            walked, faces = now, search.tried
    whole = time.perf_counter() - began
    return [
        ("look search, first answers", f"{first:.1f} s", "5 s", f"{cores()} processes, already begun"),
        (
            f"look search, a walk of {FACES} faces",
            f"{walked:.0f} s",
            "60 s on two cores",
            f"{faces} of them different; {1000 * walked / faces:.0f} ms each",
        ),
        ("look search, whole, with what each answer takes", f"{whole:.0f} s", "", f"{search.tried} faces"),
    ]


def _found_again(pool: Executor) -> Row:
    """Hidden recipes of all families, their faces as the target; the walk is kept from before."""
    rng, good, worst = np.random.default_rng(2026), 0, []
    names = list(FAMILIES)
    for i in range(PLANTED):
        family = names[i % len(names)]
        hidden = drawn_from(family, rng.random(len(FAMILIES[family].numbers) + 1).tolist(), usual_pairings())
        told = features_of_cut(hidden.worked().blade)
        search = Search(Ask(wants=wants_of(told, "exactly"), faces=FACES))
        for step in search.run(pool):
            if step.doing.startswith("working out"):
                break
        off = np.abs(np.clip(search.places[search.ranked()[0][1]], 0, 1) - np.clip(on_scales(list(told.values())), 0, 1))
        if told["repeat"] < REPEATS_FROM:
            off[KEYS.index("pitch")] = 0.0
        found = bool(off.max() <= WITHIN and family in [a.candidate.family for a in search.best()[:3]])
        good += found
        if not found:
            worst.append(f"{family} {KEYS[int(off.argmax())]} {100 * off.max():.0f} %")
    how = "all features within 5 % of their scales and the family among the first three"
    return ("look search, planted designs found again", f"{good} of {PLANTED}", "9 of 10", f"{how}; not: {', '.join(worst) or 'none'}")


def _family(pool: Executor) -> Row:
    documents = [json.dumps(STARTERS[k].document()) for k in ("three_layer", "five_layer", "clad_core", "scarfed", "edge_bar")] * 4
    began = time.perf_counter()
    for future in [pool.submit(_chances, d) for d in documents]:
        future.result()
    return ("family study, 20 designs over 9 sizes of error", f"{time.perf_counter() - began:.1f} s", "", "1,024 blades of each at each")


def _chances(document: str) -> int:
    try:
        return len(chances_of(document, AS_SHIPS, Sizes(), ALL, grid_of(ALL)))
    except ValueError:
        return 0
