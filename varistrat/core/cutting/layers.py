"""Counting layers, and finding the thinnest one that the finished blade shows."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.trace import Trace
from varistrat.core.cutting.cut import Cut
from varistrat.core.pattern.sampling import gradient_at

FIRST, LAST = 2_000, 128_000
MOST = LAST // 8
"""Layers that can be counted: with fewer than eight samples to each, changes of steel are stepped over."""
PLACES = ((0.5037, 0.013), (0.41, -0.27), (0.59, 0.31), (0.47, 0.19), (0.55, -0.12))
"""Where layers are counted: share of the length, and of the width from the middle."""


def layers_across(trace: Trace) -> int:
    """Layers crossed going up through the bar: the middle one of counts at five places.

    Like meeting like counts as one. Sampled ever finer until the first count stands still; at most
    LAST samples, beyond which layers are far too thin to be layers. Fine ones are counted at one place only. MOST: that many or more.
    """
    # walking back has its price whatever the number of points: what is nearly always asked for goes together
    coarse, count, *others = _counts(trace, [(PLACES[0], FIRST), (PLACES[0], 4 * FIRST), *((p, FIRST) for p in PLACES[1:])])
    before, n = coarse, 4 * FIRST
    while count != before and not (count < n / 50 and count <= before) and 4 * n <= LAST:
        before, n = count, 4 * n
        count = _counts(trace, [(PLACES[0], n)])[0]
    if count > FIRST / 50:
        return min(count, MOST)  # a fine laminate: as good anywhere, and dear to count
    return int(np.median([count, *others]))


def _counts(trace: Trace, columns: list[tuple[tuple[float, float], int]]) -> list[int]:
    """Layers counted up columns of so many samples, each at its place."""
    bar = trace.forged.bar
    near = 1.0 if bar.section.form == "rectangle" else 0.2  # near the middle, where a round or a diamond is high
    x = np.concatenate([np.full(n, place[0] * bar.length) for place, n in columns])
    y = np.concatenate([np.full(n, place[1] * bar.width * near) for place, n in columns])
    # each somewhere in its step: evenly spaced, they would beat with layers that are evenly thick, and count a few of very many
    z = np.concatenate([(np.arange(n) + np.random.default_rng(n).random(n)) / n * bar.thickness - bar.thickness / 2 for _, n in columns])
    # single precision: a layer is thousands of its steps thick
    steel = trace.steel(Points(x.astype(np.float32), y.astype(np.float32), z.astype(np.float32)))
    runs = np.split(steel, np.cumsum([n for _, n in columns])[:-1])
    return [1 + int((run[1:] != run[:-1]).sum()) for run in runs]


FACE_SAMPLES = 1600


def face_shares(cut: Cut) -> dict[str, float]:
    """Share of each steel on the blade's two faces, by FACE_SAMPLES places; their error is about a hundredth."""
    geometry = cut.placed.geometry
    rng = np.random.default_rng(11)
    x = (np.arange(FACE_SAMPLES) + rng.random(FACE_SAMPLES)) / FACE_SAMPLES * geometry.length
    high = geometry.height(x)
    h = rng.random(FACE_SAMPLES) * high
    faces = geometry.faces(x, h)
    side = np.where(rng.random(FACE_SAMPLES) < 0.5, faces.right, faces.left)
    px, py, pz = (np.array(v, float) for v in cut.placed.inside_bar(x, h, side, faces))
    places = Points(px, py, pz)
    places.clamp(cut.placed.bar.length, cut.placed.bar.width, cut.placed.bar.thickness)
    # a place at a high station stands for more of the face
    weight = np.bincount(cut.trace.steel(places), weights=high, minlength=len(cut.trace.steels))
    return {key: float(w / high.sum()) for key, w in zip(cut.trace.steels, weight, strict=False) if w > 0}


ACROSS_SAMPLES = 600


def across_face(cut: Cut, wide: float) -> list[tuple[str, float]]:
    """Steels met over `wide` mm of the right face, and how wide each lies there, mm: up it or along it, whichever crosses more layers."""
    geometry = cut.placed.geometry
    station = np.array([0.45 * geometry.length])
    high = float(geometry.height(station)[0])
    up, along = min(wide, 0.6 * high), min(wide, 0.4 * geometry.length)
    steps = (np.arange(ACROSS_SAMPLES) + 0.5) / ACROSS_SAMPLES
    level = np.zeros(ACROSS_SAMPLES)
    runs = [
        _steels_on(cut, station + level, high / 3 + steps * up, up),
        _steels_on(cut, station - along / 2 + steps * along, high / 2 + level, along),
    ]
    return max(runs, key=len)


def _steels_on(cut: Cut, x: Array, h: Array, long: float) -> list[tuple[str, float]]:
    faces = cut.placed.geometry.faces(x, h)
    px, py, pz = (np.array(v, float) for v in cut.placed.inside_bar(x, h, faces.right, faces))
    places = Points(px, py, pz)
    places.clamp(cut.placed.bar.length, cut.placed.bar.width, cut.placed.bar.thickness)
    found = cut.trace.steel(places)
    ends = [0, *(np.flatnonzero(found[1:] != found[:-1]) + 1), len(found)]
    return [(cut.trace.steels[int(found[a])], (b - a) / len(found) * long) for a, b in pairwise(ends)]


def thinnest_layer(cut: Cut, count: int = 1500) -> float | None:
    """Thickness (mm) of the thinnest layers on the blade's faces, square to the layer: the finest 2 %.

    At a point of the face the layer's own thickness in the starting stack is divided by
    |grad s|, the stack passed in a mm of blade. Steel that never was in a stack is left out.
    """
    geometry = cut.placed.geometry
    rng = np.random.default_rng(5)
    x = rng.uniform(0.01, 0.97, count) * geometry.length
    h = rng.uniform(0.02, 0.98, count) * geometry.height(x)
    faces = geometry.faces(x, h)
    side = np.where(rng.random(count) < 0.5, faces.right, faces.left)
    px, py, pz = cut.placed.inside_bar(x, h, side, faces)
    inside = cut.trace.inside(px, py, pz)
    if not inside.any():
        return None
    px, py, pz = px[inside], py[inside], pz[inside]
    place, gradient = gradient_at(cut.trace, px, py, pz)
    found = [_thickness(cut.trace, i, place, gradient) for i in range(cut.trace.own_piles)]
    thick = np.concatenate(found)
    if not thick.size:
        return None
    return float(np.quantile(thick, 0.02))


def _thickness(trace: Trace, pile: int, place: Array, gradient: Array) -> Array:
    """Finished thickness (mm) of the layers, likes merged, that the points of one pile lie in."""
    layers = trace.row.piles[pile].layers
    if len(layers) < 2:
        return np.empty(0)
    which, s = trace.row.height_of(place)
    mine = (which == pile) & (gradient > 1e-9)
    keys = [k for k, _ in layers]
    bounds = np.array(
        [0.0, *(b for i, b in enumerate(trace.row.piles[pile].bounds[1:-1]) if keys[i] != keys[i + 1]), trace.row.piles[pile].height]
    )
    layer = np.clip(np.searchsorted(bounds, s[mine], side="right") - 1, 0, len(bounds) - 2)
    out: Array = np.diff(bounds)[layer] / gradient[mine]
    return out


def through(cut: Cut, x: float, h: float, count: int = 6000) -> list[tuple[str, float]]:
    """Layers met going through the blade from the left face to the right at station x, height h: (steel, mm), likes merged."""
    geometry = cut.placed.geometry
    at = np.array([np.clip(x, 0, geometry.length)])
    high = np.array([np.clip(h, 0, float(geometry.height(at)[0]))])
    faces = geometry.faces(at, high)
    share = (np.arange(count) + 0.5) / count
    z = faces.left + share * faces.thickness
    px, py, pz = cut.placed.inside_bar(np.full(count, at[0]), np.full(count, high[0]), z, faces)
    steel = cut.trace.probe(px.copy(), py.copy(), pz.copy())
    starts = np.flatnonzero(np.concatenate([[True], steel[1:] != steel[:-1]]))
    lengths = np.diff(np.concatenate([starts, [count]])) * float(faces.thickness[0]) / count
    return [(cut.trace.steels[steel[i]], float(t)) for i, t in zip(starts, lengths, strict=True) if steel[i] >= 0]


@dataclass(frozen=True)
class OnShow:
    """What the blade's two faces show: share of each steel, and of the face by thickness of the layers there.

    edges: bounds of the thickness classes, mm, one more than there are shares.
    """

    steels: dict[str, float]
    edges: list[float]
    shares: list[float]


def on_show(cut: Cut, count: int = 8000) -> OnShow:
    """Both faces sampled evenly by area (blade frame), at `count` points."""
    geometry = cut.placed.geometry
    rng = np.random.default_rng(17)
    low, high = geometry.curves.span()
    x, y = rng.uniform(0, geometry.length, count), rng.uniform(low, high, count)
    h = y - geometry.curves.edge(x)
    keep = (h >= 0) & (h <= geometry.height(x))
    x, h = x[keep], h[keep]
    faces = geometry.faces(x, h)
    side = np.where(rng.random(len(x)) < 0.5, faces.right, faces.left)
    px, py, pz = cut.placed.inside_bar(x, h, side, faces)
    steel = cut.trace.probe(px.copy(), py.copy(), pz.copy())
    on = steel >= 0
    counts = np.bincount(steel[on], minlength=len(cut.trace.steels)) / max(1, int(on.sum()))
    place, gradient = gradient_at(cut.trace, px[on], py[on], pz[on])
    thick = np.concatenate([_thickness(cut.trace, i, place, gradient) for i in range(cut.trace.own_piles)] or [np.empty(0)])
    edges = np.geomspace(0.01, 10.24, 21)
    shares = np.histogram(np.clip(thick, edges[0], edges[-1]), edges)[0] / max(1, thick.size)
    return OnShow({k: float(v) for k, v in zip(cut.trace.steels, counts, strict=True) if v}, edges.tolist(), shares.tolist())
