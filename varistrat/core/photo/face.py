"""The predicted face and the photo of it, in the same pixels and with the light evened out, and how like they are."""

from collections.abc import Mapping, Sequence

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray
from scipy import ndimage

from varistrat.core.bars.forged import forge
from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Side
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import EtchTable
from varistrat.core.laminate.photo import Sight
from varistrat.core.pattern import sampling
from varistrat.core.pattern.laid import laid
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.flat import WIDE, evened, laid_flat
from varistrat.core.photo.numbers import changed

UP = 1.5
"""The photo may lie so far up or down of where it was marked, mm."""
RIM = 2
"""px left out within the outline: light catches there."""
SLIGHT = 2.0
"""px over which the run of the lines is taken."""
Mask = NDArray[np.bool_]


def light_of(cut: Cut, table: EtchTable, view: BladeView, a: Array, b: Array) -> tuple[Array, Array]:
    """How bright the etched face is without any light on it, as a photo codes it (0 to 1), and where there is steel; (rows, columns)."""
    return lights_of(cut, table, [(view, a, b)])[0]


def lights_of(cut: Cut, table: EtchTable, faces: Sequence[tuple[BladeView, Array, Array]]) -> list[tuple[Array, Array]]:
    """Of several faces of one blade, as wide as one another; their points are carried back together, which for small ones is half of
    the cost."""
    patches = [laid(*face) for face in faces]
    x, y, z, cover = (np.concatenate([getattr(p, name) for p in patches]) for name in ("x", "y", "z", "cover"))
    place = sampling.sample(cut.trace, x, y, z, seams=False, where=cover > 0).place
    found, top = [], 0
    for patch in patches:
        mine = place[top : top + len(patch.x)]
        top += len(patch.x)
        light, _ = table.mean(mine, sampling.footprint(mine), deep=False)
        found.append((np.sqrt(np.maximum(light, 0)), patch.cover))
    return found


class PredictedFace:
    """The face at one size, with changes by `keys`. pixel: mm; drawn: how many were; blur: px, as the photo is."""

    def __init__(self, worked: Worked, side: Side, keys: Sequence[str], width_px: int) -> None:
        self.worked, self.side, self.keys = worked, side, keys
        width, height = BladeView(worked.blade.placed, side).size
        self.pixel = width / width_px
        rows = max(4, round(height / self.pixel))
        self.a = ((np.arange(width_px) + 0.5) * self.pixel).astype(np.float32)
        self.b = (height - (np.arange(rows) + 0.5) * self.pixel).astype(np.float32)
        self.wide = WIDE * width_px
        # the plan's own, once: what its bars are made of does not change, and to make it anew would be half of the cost
        self._table = worked.blade.subject(worked.fired_tones).table
        self.drawn = 0
        self.blur = 0.0
        self._lights: LRUCache[tuple[float, ...], tuple[Array, Array]] = LRUCache(200)
        self._kept: LRUCache[tuple[float, ...], tuple[Array, Mask]] = LRUCache(200)
        self.planned, self.steel = self.at([0.0] * len(keys))

    def at(self, changes: Sequence[float]) -> tuple[Array, Mask]:
        """Evened, and where there is steel. Raises InputError for a design that cannot be."""
        key = (self.blur, *changes)
        if key not in self._kept:
            light, cover = self._light(tuple(changes))
            where = ndimage.binary_erosion(cover > 0.999, iterations=RIM)
            even = evened(light, where, self.wide)
            self._kept[key] = (ndimage.gaussian_filter(even, self.blur) if self.blur else even), where
        return self._kept[key]

    def _light(self, changes: tuple[float, ...]) -> tuple[Array, Array]:
        if changes not in self._lights:
            self.drawn += 1
            cut = self._cut(dict(zip(self.keys, changes, strict=True)))
            self._lights[changes] = light_of(cut, self._table, BladeView(cut.placed, self.side), self.a, self.b)
        return self._lights[changes]

    def _cut(self, changes: Mapping[str, float]) -> Cut:
        draft = changed(self.worked, self.side, {k: v for k, v in changes.items() if v})
        document, forged = self.worked.document, self.worked.forged
        if draft.bar != document.carried_out().bar:
            forged = forge(draft.bar, "recipe.bar", document.shop)
        return Cut.of(draft.blade, forged)

    @property
    def on_blade(self) -> Mask:
        """Where the planned blade is, its rim with it."""
        return laid(BladeView(self.worked.blade.placed, self.side), self.a, self.b).cover > 0

    @property
    def contrast(self) -> float:
        """Of the planned face."""
        return float(self.planned[self.steel].std())


class PhotoOfFace:
    """The photo in the pixels of a face, evened, by how far up it was marked wrongly."""

    def __init__(self, grey: Array, face: PredictedFace, seen_by: Sight) -> None:
        self.face = face
        self._extra = int(np.ceil(UP / face.pixel)) + 1
        beyond = np.float32(face.pixel) * np.arange(1, self._extra + 1, dtype=np.float32)
        b = np.concatenate([face.b[0] + beyond[::-1], face.b, face.b[-1] - beyond])
        view = BladeView(face.worked.blade.placed, face.side)
        self._grey, self._seen = laid_flat(grey, seen_by, view, face.a, b)
        self._kept: LRUCache[float, tuple[Array, Mask]] = LRUCache(24)

    def at(self, up: float) -> tuple[Array, Mask]:
        """As if it had been marked `up` mm lower, and where it is seen."""
        up = round(up, 4)
        if up not in self._kept:
            at = float(np.clip(up / self.face.pixel, -self._extra + 0.01, self._extra - 1.01))
            whole = int(np.floor(at))
            part = np.float32(at - whole)
            first = self._extra + whole
            here, below = slice(first, first + len(self.face.b)), slice(first + 1, first + 1 + len(self.face.b))
            where = self._seen[here] & self._seen[below] & self.face.steel
            self._kept[up] = evened(self._grey[here] * (1 - part) + self._grey[below] * part, where, self.face.wide), where
        return self._kept[up]


def _cosine(x: Array, y: Array) -> float:
    # no dot products: their threads wait on one another for longer than these take
    return float((x * y).sum()) / max(float(np.sqrt((x * x).sum() * (y * y).sum())), 1e-12)


def alike(a: Array, b: Array, where: Mask) -> float:
    """Zero-mean normalised cross-correlation of two pictures over `where`; 0 when either is even."""
    x, y = a[where].astype(np.float64), b[where].astype(np.float64)
    x -= x.mean()
    y -= y.mean()
    return _cosine(x, y)


def run_of(picture: Array) -> tuple[Array, Array]:
    """Which way its lines run, and how strongly: cos and sin of twice their angle, times the slope's square about each place.

    It says nothing of which layer a line is, so that it leads where the lines themselves do not.
    """
    up, along = np.gradient(ndimage.gaussian_filter(picture, 1.0))
    level, slant, all_ = (ndimage.gaussian_filter(v, SLIGHT) for v in (along * along - up * up, 2 * along * up, along * along + up * up))
    strong = np.sqrt(np.maximum(all_, 1e-12))
    return level / strong, slant / strong


def run_alike(a: Array, b: Array, where: Mask) -> float:
    """How like the runs of two pictures' lines are, -1 to 1."""
    found, wanted = run_of(a), run_of(b)
    x = np.concatenate([v[where] for v in found]).astype(np.float64)
    y = np.concatenate([v[where] for v in wanted]).astype(np.float64)
    x -= x.mean()
    y -= y.mean()
    return _cosine(x, y)


def tiles_of(where: Mask, along: int, across: int) -> NDArray[np.intp]:
    """The tile of each pixel, of about as many pixels each; -1 for the others. Raises InputError where hardly anything is seen."""
    rows, columns = np.nonzero(where)
    if len(rows) < 20 * along * across:
        raise InputError.at("marks", "next to nothing of the face is seen in the photo", "mark heel, tip, edge and spine again")
    tiles = np.full(where.shape, -1, np.intp)
    strip = np.argsort(np.argsort(columns, kind="stable")) * along // len(columns)
    for i in range(along):
        mine = np.flatnonzero(strip == i)
        tiles[rows[mine], columns[mine]] = i * across + np.argsort(np.argsort(rows[mine], kind="stable")) * across // len(mine)
    return tiles
