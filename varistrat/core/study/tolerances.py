"""Tolerance study: what the smith's usual errors do to the core line, and which of them matters most.

Quasi-random blades, each with its own errors; the line of each on both sides at every station; bands, the
chance of a first-grade blade, and total-order Sobol indices of each kind of error. Derived in
docs/physics.md#tolerance-study.
"""

from collections import deque
from collections.abc import Iterator
from concurrent.futures import Executor
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np
from pydantic import Field

from varistrat.core.bars.model import Model, shown
from varistrat.core.bars.points import Array
from varistrat.core.laminate.aim import Band
from varistrat.core.study.lamina import Lamina

Size = Annotated[float, Field(ge=0, le=50)]


class Sizes(Model):
    """How large each error usually is: one standard deviation (two blades in three are within it)."""

    core_offset: Size = Field(0.015, **shown("Core off centre", "share", "of the thickness"))
    core_share: Size = Field(0.015, **shown("Core share", "share", "of the thickness"))
    dip: Size = Field(0.10, **shown("Dip and bow", "mm"))
    cup: Size = Field(0.05, **shown("Cup", "mm"))
    twist: Size = Field(0.2, **shown("Twist", "deg"))
    uneven: Size = Field(0.08, **shown("Uneven grind", "mm"))
    edge: Size = Field(0.06, **shown("Edge thickness", "mm"))
    flow: Size = Field(0.02, **shown("Clad flows more", "share"))
    wander: Annotated[float, Field(ge=0.05, le=2)] = Field(
        0.4, **shown("Wanders over", "share", "of the length: how far along the blade an error stays alike")
    )


GROUPS = ("core_offset", "core_share", "dip", "cup", "twist", "uneven", "edge", "flow")
"""Kinds of error, each with its draws: a level and so many waves along the blade."""
WAVES = {"core_offset": 3, "core_share": 2, "dip": 3, "uneven": 2}
LEVEL = 0.5
"""Of an error's variance, how much is the same all along the blade; the rest wanders."""
CHUNK = 1000


def _columns() -> dict[str, slice]:
    found, at = {}, 0
    for g in GROUPS:
        n = 1 + WAVES.get(g, 0)
        found[g] = slice(at, at + n)
        at += n
    return found


COLUMNS = _columns()
DIMENSIONS = max(s.stop for s in COLUMNS.values())


@dataclass(frozen=True)
class Bands:
    """Per side, at the stations: quantiles 5, 50 and 95 %, mm; and how much of the blades show no core at the edge on that side."""

    low: list[float]
    middle: list[float]
    high: list[float]


@dataclass(frozen=True)
class Study:
    """x: stations. first: share of blades of first grade, `first_error` its standard error. matters: for each output the total-order
    index of each kind of error, largest first."""

    x: list[float]
    right: Bands
    left: Bands
    blades: int
    first: float
    first_error: float
    reasons: dict[str, float]
    matters: dict[str, list[tuple[str, float]]]


OUTPUTS = ("apart", "lowest", "highest")
"""Mean right - left; the lowest and the highest line of either side where it is judged; mm."""


class Blades:
    """Works out the lines of many blades at once."""

    def __init__(self, lamina: Lamina, sizes: Sizes):
        self.lamina, self.sizes = lamina, sizes
        x = lamina.x / lamina.geometry.length
        kernel = np.exp(-((x[:, None] - x) ** 2) / (2 * sizes.wander**2))
        values, vectors = np.linalg.eigh(kernel)
        count = max(WAVES.values())
        modes = vectors[:, ::-1][:, :count] * np.sqrt(np.maximum(values[::-1][:count], 0))
        self.modes = modes / np.sqrt((modes**2).sum(axis=1).mean())  # unit variance on average along the blade

    def errors(self, unit: Array) -> dict[str, Array]:
        """Errors at the stations (blades, stations) or alike all along (blades, 1) from draws in 0..1 (blades, DIMENSIONS)."""
        from scipy.special import ndtri

        normal = ndtri(np.clip(unit, 1e-9, 1 - 1e-9)).astype(np.float32)
        out = {}
        for g in GROUPS:
            z = normal[:, COLUMNS[g]]
            size = np.float32(getattr(self.sizes, g))
            waves = WAVES.get(g, 0)
            if waves:
                m = self.modes[:, :waves].astype(np.float32)
                m = m / np.sqrt((m**2).sum(axis=1).mean())
                out[g] = size * (np.sqrt(LEVEL) * z[:, :1] + np.sqrt(1 - LEVEL) * (z[:, 1:] @ m.T))
            else:
                out[g] = size * z
        return out

    def lines(self, unit: Array) -> tuple[Array, Array]:
        """Core line of right and left (blades, stations), mm: 0 where no core begins at the edge, the height where it reaches the spine."""
        e = self.errors(unit)
        p, lam = self.lamina.profiles, self.lamina
        n = len(unit)
        right = np.empty((n, len(lam.x)), np.float32)
        left = np.empty_like(right)
        flow0 = lam.geometry.blade.errors.flow
        moves = (self.sizes.flow > 0 or flow0 != 0) and float(np.abs(p.thinning - 1).max()) > 1e-6
        tan = np.tan(np.deg2rad(e["twist"][:, 0]))
        for j in range(len(lam.x)):
            col = {g: v[:, min(j, v.shape[1] - 1)] for g, v in e.items()}
            kappa = (lam.base_share[j] + col["core_share"]).astype(np.float32)
            eps = (lam.base_offset[j] + col["core_offset"]).astype(np.float32)
            half = np.float32(0.5) * p.forged[j].astype(np.float32)
            if moves:
                lean = -np.log(p.thinning[j]).astype(np.float32)
                share = kappa[:, None] * np.exp((flow0 + col["flow"])[:, None].astype(np.float32) * lean)
                c = np.clip(share, 0.01, 0.98) * half
            else:
                c = np.clip(kappa, 0.01, 0.98)[:, None] * half
            # what is alike but for the sign on both sides: the middle of the layers and of the grind
            basis = np.stack([p.forged[j], np.ones_like(p.cup[j]), p.cup[j], p.lever[j]]).astype(np.float32)
            w0 = p.warp[j].astype(np.float32)
            shift = np.stack([eps, col["dip"] + col["uneven"] / 2, col["cup"], tan], axis=1).astype(np.float32) @ basis + w0
            edge = col["edge"].astype(np.float32)[:, None]
            h = lam.h[j]
            right[:, j] = _first_crossing(c + shift - (p.right[j].astype(np.float32) + edge * p.edge_right[j].astype(np.float32)), h)
            left[:, j] = _first_crossing(c - shift + (p.left[j].astype(np.float32) - edge * p.edge_left[j].astype(np.float32)), h)
        return right, left


def _first_crossing(g: Array, h: Array) -> Array:
    """Where g (blades, k) first falls below 0, going up from the edge at heights h (k,): by the parabola through three neighbours.

    0 where it is below at once, the last height where it never is.
    """
    out = g < 0
    first = np.argmax(out, axis=1)
    rows = np.arange(len(g))
    never = ~out[rows, first]
    i = np.clip(first, 1, len(h) - 2)
    # local parabola through i-1, i, i+1 about i, solved from the linear root by two steps
    y0, y1, y2 = g[rows, i - 1], g[rows, i], g[rows, i + 1]
    h0, h1, h2 = h[i - 1], h[i], h[i + 1]
    d1, d2 = (y1 - y0) / (h1 - h0), (y2 - y1) / (h2 - h1)
    a = (d2 - d1) / (h2 - h0)
    b = d1 + a * (h1 - h0)
    last = first == len(h) - 1
    lo, hi = np.where(last, h1, h0), np.where(last, h2, h1)
    with np.errstate(divide="ignore", invalid="ignore"):
        t = np.where(last, lo + (hi - lo) * (y1 / (y1 - y2)), lo + (hi - lo) * (y0 / (y0 - y1)))
        for _ in range(2):
            s = t - h1
            value, slope = y1 + s * (b + a * s), b + 2 * a * s
            t = np.clip(t - np.where(np.abs(slope) > 1e-12, value / slope, 0), lo, hi)
    t = np.where(first == 0, 0.0, np.where(never, h[-1], t))
    return t.astype(np.float32)


def outputs(right: Array, left: Array, judged: Array) -> dict[str, Array]:
    """Of line heights right and left (tries, stations), over the judged stations: (tries,) each, mm."""
    r, le = right[:, judged], left[:, judged]
    return {"apart": (r - le).mean(axis=1), "lowest": np.minimum(r, le).min(axis=1), "highest": np.maximum(r, le).max(axis=1)}


def study(
    lamina: Lamina, sizes: Sizes, band: Band, executor: Executor, blades: int = 10_000, sobol: int = 4096, seed: int = 7
) -> Iterator[float | Study]:
    """Yields how far it is (0..1), chunk by chunk, and the study last. Dropping the iterator stops the work."""
    total = blades + sobol * (len(GROUPS) + 2)
    lamina.profiles  # noqa: B018  worked out once, before the threads ask for it
    rights, lefts = [], []
    for r, le in _all_lines(Blades(lamina, sizes), _sobol(blades, seed), executor):
        rights.append(r)
        lefts.append(le)
        yield sum(map(len, rights)) / total
    right, left = np.concatenate(rights), np.concatenate(lefts)
    judged = band.judged(lamina.x)
    if not judged.any():
        judged = np.ones_like(judged)
    first, reasons = grades(right, left, band, judged)
    # what matters most is settled by every other station
    some = replace(lamina, x=lamina.x[judged][::2])
    matters: dict[str, list[tuple[str, float]]] = {}
    for step in _matters(Blades(some, sizes), sizes, executor, sobol, seed):
        if isinstance(step, int):
            yield (blades + step) / total
        else:
            matters = step
    p = float(first.mean())
    error = float(np.sqrt(max(p * (1 - p), 0.25 / blades) / blades))
    yield Study(lamina.x.tolist(), _bands(right), _bands(left), blades, p, error, reasons, matters)


def _sobol(n: int, seed: int) -> Array:
    # scipy.stats is seconds of start-up that only a study should pay for
    from scipy.stats import qmc

    power = int(np.ceil(np.log2(n)))
    found: Array = qmc.Sobol(DIMENSIONS, scramble=True, rng=seed).random_base2(power)[:n]
    return found


def _all_lines(many: Blades, draws: Array, executor: Executor) -> Iterator[tuple[Array, Array]]:
    """Lines of all draws, in order, a chunk at a time."""
    waiting = [executor.submit(many.lines, draws[i : i + CHUNK]) for i in range(0, len(draws), CHUNK)]
    try:
        for future in waiting:
            yield future.result()
    finally:
        for future in waiting:
            future.cancel()


def _bands(line: Array) -> Bands:
    low, middle, high = np.quantile(line, [0.05, 0.5, 0.95], axis=0)
    return Bands(low.tolist(), middle.tolist(), high.tolist())


def grades(right: Array, left: Array, band: Band, judged: Array) -> tuple[Array, dict[str, float]]:
    """Which blades are of first grade, and the share of blades that each fault keeps from it (several may)."""
    r, le = right[:, judged], left[:, judged]
    faults = {
        "low": ((r < band.low) | (le < band.low)).any(axis=1),
        "high": ((r > band.high) | (le > band.high)).any(axis=1),
        "apart": (np.abs(r - le) > band.difference).any(axis=1),
        "none": ((r <= 0) & (le <= 0)).any(axis=1),
    }
    bad = np.logical_or.reduce(list(faults.values()))
    return ~bad, {k: float(v.mean()) for k, v in faults.items()}


def _matters(many: Blades, sizes: Sizes, executor: Executor, n: int, seed: int) -> Iterator[int | dict[str, list[tuple[str, float]]]]:
    """Total-order indices of each kind of error, by the A, B, AB scheme with whole groups of columns exchanged.

    Yields how many blades are done, and the indices last.
    """
    from scipy.stats import qmc, sobol_indices

    many.lamina.profiles  # noqa: B018

    both = qmc.Sobol(2 * DIMENSIONS, scramble=True, rng=seed + 1).random(n)
    a, b = both[:, :DIMENSIONS], both[:, DIMENSIONS:]
    judged = np.ones(len(many.lamina.x), bool)
    plans = [a, b]
    still = []
    for g in GROUPS:
        mixed = a.copy()
        mixed[:, COLUMNS[g]] = b[:, COLUMNS[g]]
        still.append(getattr(sizes, g) == 0)
        plans.append(mixed)
    done = 0
    found: list[Array] = []
    for k, plan in enumerate(plans):
        if k >= 2 and still[k - 2]:
            found.append(found[0])
            done += n
            continue
        parts = []
        for right, left in _all_lines(many, plan, executor):
            each = outputs(right, left, judged)
            parts.append(np.stack([each[o] for o in OUTPUTS]))
            done += right.shape[0]
            yield done
        found.append(np.concatenate(parts, axis=1).astype(float))
    flat = found[0].std(axis=1) < 1e-9
    with np.errstate(divide="ignore", invalid="ignore"):
        total = np.atleast_2d(sobol_indices(func={"f_A": found[0], "f_B": found[1], "f_AB": np.stack(found[2:])}, n=n).total_order)
    out = {}
    for i, name in enumerate(OUTPUTS):
        pairs = [(g, 0.0 if flat[i] else float(np.clip(np.nan_to_num(total[i, k]), 0, 1))) for k, g in enumerate(GROUPS)]
        out[name] = sorted(pairs, key=lambda p: -p[1])
    yield out


def whole_study(lamina: Lamina, sizes: Sizes, band: Band, executor: Executor, **more: int) -> Study:
    """The study seen through to its end."""
    (last,) = deque(study(lamina, sizes, band, executor, **more), maxlen=1)
    assert isinstance(last, Study)
    return last
