"""Looks as numbers: what a smith says of a face, measured on it. Derived in docs/physics.md#looks.

Each is found on both faces at 2 px a mm, from how light or dark the etched steel is and from nothing else: no lamp, no relief. Those
of shape do not change with the tones; none changes with the hand that holds the blade (mirrored), nor, but for the rim, where along the
pattern it is cut.
"""

import threading
from dataclasses import dataclass
from typing import Any

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray
from scipy import fft, ndimage

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES
from varistrat.core.cached import cached_property
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import EtchTable
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.face import lights_of

PX_PER_MM = 2.0
RIM = 2
"""px left out within the outline."""
FINE, RUN, WHOLE = 1, 3, 2
"""Passes of smoothing: before slopes are taken, of the run of the lines, before faces are compared."""
REACH, NEAR = 24, 8
"""px a band is followed to either side: wider ones count as that; and how far all of them are before the wide ones are gone on with."""
SEEDS = 6
"""Every so many px a band is measured."""
REPEATS = (2.0, 60.0)
"""mm within which a repeat is looked for."""
BINS = 9
RING = (1.5, 250.0)
"""mm2 of a closed ring."""
TINY = 1e-9
Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Feature:
    """One of them: its name, the words at both ends of its scale, unit, and the scale itself (`low` to `high` of what can be forged, in
    `curve`); shape: it does not change with the tones; about: what it says."""

    key: str
    title: str
    low_word: str
    high_word: str
    unit: str
    low: float
    high: float
    about: str
    curve: str = "even"
    shape: bool = True

    def on_scale(self, value: Any) -> Any:
        """0 at the low end, 1 at the high one; not held within them. Arrays too."""
        if self.curve == "ratio":
            at = np.log(np.maximum(value, TINY) / self.low) / np.log(self.high / self.low)
        elif self.curve == "root":
            at = (np.sqrt(np.maximum(value, 0.0)) - self.low**0.5) / (self.high**0.5 - self.low**0.5)
        else:
            at = (np.asarray(value, float) - self.low) / (self.high - self.low)
        return float(at) if np.ndim(at) == 0 else at

    def from_scale(self, at: float) -> float:
        """The other way."""
        if self.curve == "ratio":
            return float(self.low * (self.high / self.low) ** at)
        if self.curve == "root":
            return float((self.low**0.5 + at * (self.high**0.5 - self.low**0.5)) ** 2)
        return float(self.low + at * (self.high - self.low))


FEATURES: dict[str, Feature] = {
    f.key: f
    for f in (
        Feature("bright", "How much is bright", "mostly dark", "mostly bright", "%", 20, 66, "Share that is bright.", shape=False),
        Feature("contrast", "Contrast", "quiet", "loud", "L*", 8, 55, "How far bright and dark lie apart in lightness.", shape=False),
        Feature("width", "Width of the bands", "fine", "bold", "mm", 0.9, 9.0, "Mean width of a band, measured across it.", "ratio"),
        Feature("spread", "Mixed widths", "all alike", "thin and thick", "%", 25, 125, "How much the widths differ from one another."),
        Feature("slant", "Run of the lines", "along the blade", "across it", "deg", 4, 70, "Mean angle of the lines to the blade."),
        Feature("order", "One direction", "every way", "one way", "%", 2, 85, "How strongly the lines keep to one angle, either hand."),
        Feature("repeat", "How regular", "never again", "like clockwork", "%", 3, 95, "How like itself the face is one repeat further on."),
        Feature("pitch", "Length of the repeat", "short", "long", "mm", 2.5, 55, "How far on it comes again, where it does.",
                "ratio"),
        Feature("rings", "Closed rings", "none", "many", "per 10 cm2", 0, 32, "Rings and islands closed upon themselves.", "root"),
        Feature("sides", "Left and right alike", "each its own", "mirror images", "%", 0, 100, "How like the faces are, mirrored.", "root"),
        Feature("halves", "Alike above and below", "no", "about the middle", "%", 0, 70, "How like the upper half is to the lower."),
    )
}  # fmt: skip
KEYS = tuple(FEATURES)


@dataclass(frozen=True)
class Face:
    """One face: light 0 to 1 (linear), rows from spine to edge, heel left; steel: where there is any."""

    light: Array
    steel: Mask


def faces_of(cut: Cut) -> tuple[Face, Face]:
    """Right and left, the left one mirrored so that both have the heel on the left and the spine above.

    A skin or a fade (0.04 mm) is far finer than a pixel here: no time is spent on how wide each is.
    """
    table = EtchTable.of(cut.trace, 1.0)
    views = [BladeView(cut.placed, side) for side in SIDES]
    found = lights_of(cut, table, [(view, *grid_of(view)) for view in views])
    right, left = (Face(code * code, cover > 0.5) for code, cover in found)
    # it is drawn with the tip on the left, as one holds it
    return right, Face(left.light[:, ::-1], left.steel[:, ::-1])


def grid_of(view: BladeView) -> tuple[Array, Array]:
    """mm along and up of the columns and rows of a face, as far from one end as from the other."""
    width, height = view.size
    n, rows = (max(8, int(v * PX_PER_MM)) for v in (width, height))
    a = (np.arange(n) - (n - 1) / 2) / PX_PER_MM + width / 2
    b = height / 2 - (np.arange(rows) - (rows - 1) / 2) / PX_PER_MM
    return a.astype(np.float32), b.astype(np.float32)


def features_of(faces: tuple[Face, ...]) -> dict[str, float]:
    """Of one face or two, in the units of FEATURES; one alone says nothing of how like the two are (nan). Raises InputError for one on
    which nothing shows."""
    if not all(f.steel.any() for f in faces):
        raise InputError.at("blade", f"at {PX_PER_MM:g} px a mm nothing of its face is seen", "a larger blade has a look that can be told")
    each = [_of_face(f) for f in faces]
    found = {k: float(np.mean([e[k] for e in each])) for k in each[0]}
    found["sides"] = 100 * _alike(faces[0], faces[1]) if len(faces) == 2 else float("nan")
    return {k: found[k] for k in KEYS}


def features_of_cut(cut: Cut) -> dict[str, float]:
    """Of the predicted faces of a blade."""
    return features_of(faces_of(cut))


class _Outline:
    """What follows from where there is steel, and from nothing else: all that is forged for one blade has it in common."""

    def __init__(self, steel: Mask) -> None:
        self.steel = steel

    @cached_property
    def inner(self) -> Mask:
        """Without its rim; a sliver is all of it rim."""
        inner = _eroded(self.steel, RIM)
        return inner if inner.any() else self.steel

    @cached_property
    def places(self) -> Array:
        """Of its px in the picture, row by row."""
        return np.flatnonzero(self.inner)

    @cached_property
    def beyond(self) -> Array:
        """Of all other px."""
        return np.flatnonzero(~self.inner)

    @cached_property
    def well_inside(self) -> Mask:
        """Where slopes are the steel's own."""
        return _eroded(self.inner, 2)

    @cached_property
    def wider(self) -> Array:
        """With so much about it that no band is followed out of the picture, row by row."""
        return np.pad(self.inner, REACH + 2).ravel()

    @cached_property
    def seeds(self) -> tuple[Array, Array]:
        """Rows and columns of the places bands are measured from."""
        rows, cols = np.nonzero(self.inner[::SEEDS, ::SEEDS])
        return rows * SEEDS, cols * SEEDS

    @cached_property
    def far(self) -> int:
        """px up to which a repeat is looked for."""
        return min(int(REPEATS[1] * PX_PER_MM), int(0.45 * self.steel.shape[1]))

    @cached_property
    def both(self) -> Array:
        """Of how many px, so many on, both are on the face."""
        return np.maximum(_over(self.inner.astype(np.float32), self.far), 1.0)

    @cached_property
    def upside_down(self) -> tuple[Array, Array]:
        """Px that have one across the middle of their column, between edge and spine, and which that is."""
        where = self.inner
        tall, long = where.shape
        turned = where.argmax(axis=0) + tall - 1 - where[::-1].argmax(axis=0) - np.arange(tall)[:, None]
        inside = where & (turned >= 0) & (turned < tall)
        return np.flatnonzero(inside), (turned * long + np.arange(long))[inside]


_outlines: LRUCache[tuple[tuple[int, ...], bytes], _Outline] = LRUCache(32)
_lock = threading.Lock()


def _outline(steel: Mask) -> _Outline:
    key = steel.shape, np.packbits(steel).tobytes()
    with _lock:
        found = _outlines.get(key)
        if found is None:
            found = _outlines[key] = _Outline(steel)
    return found


def _eroded(mask: Mask, times: int) -> Mask:
    """Without what lies so many px from its outline; the picture's own edge is one."""
    out = np.pad(mask, 1)
    for _ in range(times):
        shrunk = out.copy()
        for here, there in ((np.s_[1:], np.s_[:-1]), (np.s_[:, 1:], np.s_[:, :-1])):
            shrunk[here] &= out[there]
            shrunk[there] &= out[here]
        out = shrunk
    return out[1:-1, 1:-1]


def _soft(picture: Array, passes: int) -> Array:
    """Smoothed by so many passes of 1 2 1 along both ways: a bell sqrt(passes / 2) px wide, ten times as quick as a drawn-out one.
    picture: (..., rows, columns), longer than that."""
    out = picture
    for axis in (-2, -1):
        # beyond its edge it goes on as in a mirror: passes of 1 2 1 that go on as the edge ends, done at once
        first, last = (_part(out, axis, ends) for ends in (slice(passes - 1, None, -1), slice(-1, -passes - 1, -1)))
        out = np.concatenate([first, out, last], axis=axis)
        for _ in range(2 * passes):
            out = _part(out, axis, slice(None, -1)) + _part(out, axis, slice(1, None))
    out *= 0.25 ** (2 * passes)
    return out


def _part(picture: Array, axis: int, part: slice) -> Array:
    return picture[..., part, :] if axis == -2 else picture[..., part]


def lightness(light: Any) -> Any:
    """CIE L* of a share of light sent back, 0 to 100."""
    y = np.maximum(light, 0.0)
    return np.where(y > 0.008856, 116 * np.cbrt(y) - 16, 903.3 * y)


def _halfway(values: Array) -> tuple[float, float, float]:
    """Dark, bright, and what lies halfway: means of the two classes, found by going back and forth from the middle of the range."""
    ordered = np.sort(values)
    n, running = len(ordered), np.concatenate([[0.0], np.cumsum(ordered, dtype=np.float64)])
    low, high = ordered[int(0.05 * n)], ordered[min(int(0.95 * n), n - 1)]
    cut = (float(low) + float(high)) / 2
    for _ in range(24):
        at = int(np.searchsorted(ordered, cut, side="right"))
        if at in (0, n):
            break
        low, high = running[at] / at, (running[n] - running[at]) / (n - at)
        new = (low + high) / 2
        if abs(new - cut) < 1e-4:
            break
        cut = new
    return float(low), float(high), float(cut)


def _of_face(face: Face) -> dict[str, float]:
    outline = _outline(face.steel)
    where = outline.inner
    light = np.asarray(lightness(face.light), np.float32)
    dark, bright, middle = _halfway(light.take(outline.places))
    span = max(bright - dark, TINY)
    # -0.5 in the dark, 0.5 in the bright, whatever the tones; even where nothing is told apart
    even = np.where(where, (light - np.float32(middle)) / np.float32(span), np.float32(0)) if span > 0.5 else np.zeros_like(light)
    up = even > 0
    angle, energy = _run(even, outline)
    width, spread = _bands(even, outline, angle)
    slant, order = _direction(angle, energy, outline)
    repeat, pitch = _repeat(even, outline)
    return {
        "bright": 100 * float(up.take(outline.places).mean()),
        "contrast": bright - dark,
        "width": width,
        "spread": spread,
        "slant": slant,
        "order": order,
        "repeat": repeat,
        "pitch": pitch,
        "rings": _rings(up, outline),
        "halves": 100 * _halves(even, outline),
    }


def _run(even: Array, outline: _Outline) -> tuple[Array, Array]:
    """Angle at which lines run at every px (-90 to 90 deg, 0 along the blade), and how strongly, by the structure tensor."""
    soft = _soft(even, FINE)
    up, along = np.gradient(soft)
    up, along = up * outline.well_inside, along * outline.well_inside
    # of the tensor only what tells one way from another
    level, slant = _soft(np.stack([along * along - up * up, 2 * along * up]), RUN)
    # lines run square to the steepest way; rows count downwards
    run = np.rad2deg(0.5 * np.arctan2(-slant, level)) + 90
    run = np.where(run > 90, run - 180, run)
    return run, np.sqrt(level * level + slant * slant)


def _direction(run: Array, energy: Array, outline: _Outline) -> tuple[float, float]:
    """Mean of the folded angle, deg; and 1 - entropy of its histogram, %, each place counting by how clearly it runs."""
    weight = energy.take(outline.places)
    total = float(weight.sum())
    if total < TINY:
        return 45.0, 0.0
    folded = np.abs(run.take(outline.places))
    # bins overlap (each angle counts in two), or the order would jump where a line crosses from one to the next
    at = folded / 90 * BINS - 0.5
    low = np.floor(at)
    part = at - low
    share = np.zeros(BINS)
    for bin_, counts in ((low, weight * (1 - part)), (low + 1, weight * part)):
        share += np.bincount(np.clip(bin_, 0, BINS - 1).astype(int), weights=counts, minlength=BINS)
    share /= share.sum()
    entropy = -float((share * np.log(np.maximum(share, TINY))).sum())
    return float((folded * weight).sum() / total), 100 * (1 - entropy / float(np.log(BINS)))


def _bands(even: Array, outline: _Outline, run: Array) -> tuple[float, float]:
    """Mean width across the band, mm, and how much widths differ, % of it.

    Measured from places all over the face, each along the way square to its own line; a wide band holds more such places, so each
    counts by one over its width.
    """
    rows, cols = outline.seeds
    if not len(rows) or not even.any():
        return REACH / PX_PER_MM, 0.0
    across = np.deg2rad(run[rows, cols] + 90)
    # both ways from each place
    at = np.concatenate([[rows, cols]] * 2, axis=1).astype(np.float32)
    way = np.concatenate([[-np.sin(across), np.cos(across)], [np.sin(across), -np.cos(across)]], axis=1)
    one, other = _reached(even, outline, at, way).reshape(2, -1)
    width = (one + other) / PX_PER_MM
    width = width[np.isfinite(width)]
    if not len(width):
        return REACH / PX_PER_MM, 0.0
    width = np.maximum(width, 0.5 / PX_PER_MM)
    each = 1 / width
    mean = len(width) / float(each.sum())
    square = float(width.sum()) / float(each.sum())
    return mean, 100 * float(np.sqrt(max(square / mean**2 - 1, 0.0)))


def _reached(even: Array, outline: _Outline, at: Array, way: Array) -> Array:
    """px from each place (rows and columns, (2, n)) along its way until the light crosses halfway, between px by a straight line; REACH
    where it never does, nan where the face ends before."""
    out = np.full(at.shape[1], np.nan)
    row = even.shape[1] + 2 * (REACH + 2)
    wider = np.pad(even, REACH + 2, mode="edge").ravel()
    going = np.arange(at.shape[1])
    # most are there soon; only the others are followed to the end
    for reach in (NEAR, REACH):
        step = np.arange(0, reach + 1, dtype=np.float32)
        r, c = (at[i][going, None] + way[i][going, None] * step + np.float32(REACH + 2) for i in (0, 1))
        values = _between(wider, row, r, c)
        known = outline.wider.take((r + np.float32(0.5)).astype(np.intp) * row + (c + np.float32(0.5)).astype(np.intp), mode="clip")
        up = values > 0
        ends = (up != up[:, :1]) | ~known
        n, first = np.arange(len(going)), ends.argmax(axis=1)
        crossed, still = known[n, first] & (first > 0), ~ends.any(axis=1)
        after = values[n, first]
        before = values[n, np.maximum(first - 1, 0)]
        gap = before - after
        part = np.clip(before / np.where(np.abs(gap) < TINY, 1.0, gap), 0, 1)
        out[going[crossed]] = (first - 1 + part)[crossed]
        going = going[still]
    out[going] = REACH
    return out


def _between(flat: Array, row: int, r: Array, c: Array) -> Array:
    """Linear between the px about each place (rows r, columns c) of a picture with so many px in a row; all well within it."""
    r0, c0 = r.astype(np.intp), c.astype(np.intp)
    fr, fc = r - r0.astype(r.dtype), c - c0.astype(c.dtype)
    at = r0 * row + c0
    corner, beside, below, askew = (flat.take(at + off, mode="clip") for off in (0, 1, row, row + 1))
    upper = corner + fc * (beside - corner)
    return np.asarray(upper + fr * (below + fc * (askew - below) - upper))


def _repeat(even: Array, outline: _Outline) -> tuple[float, float]:
    """How like itself the face is one repeat on along the blade, %, and how far that is, mm: the highest top of its autocorrelation
    after the first valley, over what both places have."""
    where = outline.inner
    r = _over(np.where(where, even - even[where].mean(), 0.0), outline.far) / outline.both
    if r[0] < TINY:
        return 0.0, REPEATS[1]
    r /= r[0]
    near = int(REPEATS[0] * PX_PER_MM)
    inner = r[1:-1]
    valleys = np.nonzero((inner <= r[:-2]) & (inner <= r[2:]))[0] + 1
    if not len(valleys):
        return 0.0, REPEATS[1]
    start = max(near, int(valleys[0]))
    tops = np.nonzero((inner >= r[:-2]) & (inner > r[2:]))[0] + 1
    tops = tops[tops >= start]
    if not len(tops):
        return 0.0, REPEATS[1]
    # of tops almost as high as the highest, the first: two repeats on it is as like itself again
    high = r[tops]
    best = int(tops[np.argmax(high >= 0.85 * high.max())])
    return 100 * float(np.clip(r[best], 0, 1)), best / PX_PER_MM


def _over(v: Array, far: int) -> Array:
    """What rows have in common with themselves up to `far` px on, summed over all of them."""
    size = fft.next_fast_len(v.shape[1] + far + 1, real=True)
    turned = fft.rfft(v, size, axis=1)
    return np.asarray(fft.irfft((turned.real**2 + turned.imag**2).sum(axis=0), size)[: far + 1])


def _rings(up: Mask, outline: _Outline) -> float:
    """Closed rings and islands in 10 cm2: pieces of one tone wholly inside the face, about as wide as long."""
    area = len(outline.places) / PX_PER_MM**2
    count = 0
    # the rim is no ring's: what touches it is open
    for tone in (up | ~outline.inner, ~(up & outline.inner)):
        labels, n = ndimage.label(tone)
        if n < 2:
            continue
        flat = labels.ravel().astype(np.intp)
        size = np.bincount(flat, minlength=n + 1) / PX_PER_MM**2
        closed = (size >= RING[0]) & (size <= RING[1])
        closed[flat.take(outline.beyond)] = False
        closed[0] = False
        if not closed.any():
            continue
        at = np.flatnonzero(closed.take(flat))
        # a piece hangs together: it has every row and column from its first to its last
        tall, long = (_how_many(flat.take(at), where_it_is, n) for where_it_is in np.divmod(at, labels.shape[1]))
        count += int((closed & (np.maximum(tall, long) <= 3 * np.minimum(tall, long))).sum())
    return 1000.0 * count / max(area, TINY)


def _how_many(piece: Array, at: Array, pieces: int) -> Array:
    """Different values of `at` that each piece has, 0 to `pieces`."""
    has = np.zeros((pieces + 1, int(at.max(initial=0)) + 1), bool)
    has[piece, at] = True
    return np.asarray(has.sum(axis=1))


def _correlation(x: Array, y: Array) -> float:
    if len(x) < 16:
        return 0.0
    x, y = x - x.mean(), y - y.mean()
    return max(0.0, float((x * y).sum() / max(np.sqrt((x * x).sum() * (y * y).sum()), TINY)))


def _halves(even: Array, outline: _Outline) -> float:
    """Correlation of the face with itself turned upside down, each column between its own edge and spine."""
    soft = _soft(even, WHOLE)
    here, turned = outline.upside_down
    return _correlation(soft.take(here), soft.take(turned))


def _alike(right: Face, left: Face) -> float:
    """Correlation of the two faces over what both have, softened by a pixel."""
    rows, cols = (min(a, b) for a, b in zip(right.light.shape, left.light.shape, strict=True))
    a, b = (_soft(f.light[:rows, :cols], WHOLE) for f in (right, left))
    both = _outline(right.steel).inner[:rows, :cols] & _outline(left.steel).inner[:rows, :cols]
    return _correlation(a[both], b[both])
