"""Looks as numbers: what a smith says of a face, measured on it. Derived in docs/physics.md#looks.

Each is found on both faces at 2 px a mm, from how light or dark the etched steel is and from nothing else: no lamp, no relief. Those
of shape do not change with the tones; none changes with the hand that holds the blade (mirrored), nor, but for the rim, where along the
pattern it is cut.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import fft, ndimage

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES
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
REACH = 24
"""px a band is followed to either side: wider ones count as that."""
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


def _inner(face: Face) -> Mask:
    inner = _eroded(face.steel, RIM)
    return inner if inner.any() else face.steel


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
    picture: (..., rows, columns)."""
    out = picture
    for _ in range(passes):
        for axis in (-2, -1):
            t = out.swapaxes(-2, axis)
            mid = 2 * t
            mid[..., 1:, :] += t[..., :-1, :]
            mid[..., :-1, :] += t[..., 1:, :]
            # beyond its edge it goes on as it ends
            mid[..., 0, :] += t[..., 0, :]
            mid[..., -1, :] += t[..., -1, :]
            mid *= 0.25
            out = mid.swapaxes(-2, axis)
    return out


def lightness(light: Any) -> Any:
    """CIE L* of a share of light sent back, 0 to 100."""
    y = np.maximum(light, 0.0)
    return np.where(y > 0.008856, 116 * np.cbrt(y) - 16, 903.3 * y)


def _halfway(values: Array) -> tuple[float, float, float]:
    """Dark, bright, and what lies halfway: means of the two classes, found by going back and forth from the middle of the range."""
    ordered = np.sort(values)
    n, running = len(ordered), np.concatenate([[0.0], np.cumsum(ordered)])
    low, high = ordered[int(0.05 * n)], ordered[min(int(0.95 * n), n - 1)]
    cut = (low + high) / 2
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
    where = _inner(face)
    light = np.asarray(lightness(face.light), np.float32)
    dark, bright, middle = _halfway(light[where].astype(np.float64))
    span = max(bright - dark, TINY)
    # -0.5 in the dark, 0.5 in the bright, whatever the tones; even where nothing is told apart
    even = np.where(where, (light - np.float32(middle)) / np.float32(span), np.float32(0)) if span > 0.5 else np.zeros_like(light)
    up = even > 0
    angle, energy = _run(even, where)
    width, spread = _bands(even, where, angle)
    slant, order = _direction(angle, energy, where)
    repeat, pitch = _repeat(even, where)
    return {
        "bright": 100 * float(up[where].mean()),
        "contrast": bright - dark,
        "width": width,
        "spread": spread,
        "slant": slant,
        "order": order,
        "repeat": repeat,
        "pitch": pitch,
        "rings": _rings(up, where),
        "halves": 100 * _halves(even, where),
    }


def _run(even: Array, where: Mask) -> tuple[Array, Array]:
    """Angle at which lines run at every px (-90 to 90 deg, 0 along the blade), and how strongly, by the structure tensor."""
    soft = _soft(even, FINE)
    up, along = np.gradient(soft)
    inside = _eroded(where, 2)
    up, along = up * inside, along * inside
    xx, yy, xy = _soft(np.stack([along * along, up * up, along * up]), RUN)
    # lines run square to the steepest way; rows count downwards
    angle = 0.5 * np.arctan2(-2 * xy, xx - yy)
    run = np.rad2deg(angle) + 90
    run = np.where(run > 90, run - 180, run)
    return run, np.sqrt((xx - yy) ** 2 + 4 * xy * xy)


def _direction(run: Array, energy: Array, where: Mask) -> tuple[float, float]:
    """Mean of the folded angle, deg; and 1 - entropy of its histogram, %, each place counting by how clearly it runs."""
    weight = energy[where]
    total = float(weight.sum())
    if total < TINY:
        return 45.0, 0.0
    folded = np.abs(run[where])
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


def _bands(even: Array, where: Mask, run: Array) -> tuple[float, float]:
    """Mean width across the band, mm, and how much widths differ, % of it.

    Measured from places all over the face, each along the way square to its own line; a wide band holds more such places, so each
    counts by one over its width.
    """
    rows, cols = np.nonzero(where[::SEEDS, ::SEEDS])
    if not len(rows) or not even.any():
        return REACH / PX_PER_MM, 0.0
    rows, cols = rows * SEEDS, cols * SEEDS
    across = np.deg2rad(run[rows, cols] + 90)
    step = np.arange(1, REACH + 1)
    here = even[rows, cols]
    reach = []
    for sign in (1, -1):
        r = rows[:, None] - (sign * np.sin(across))[:, None] * step
        c = cols[:, None] + (sign * np.cos(across))[:, None] * step
        reach.append(_until(here, *_between(even, where, r, c)))
    whole = np.isfinite(reach[0]) & np.isfinite(reach[1])
    width = (reach[0] + reach[1])[whole] / PX_PER_MM
    if not len(width):
        return REACH / PX_PER_MM, 0.0
    width = np.maximum(width, 0.5 / PX_PER_MM)
    each = 1 / width
    mean = len(width) / float(each.sum())
    square = float(width.sum()) / float(each.sum())
    return mean, 100 * float(np.sqrt(max(square / mean**2 - 1, 0.0)))


def _between(even: Array, where: Mask, r: Array, c: Array) -> tuple[Array, Mask]:
    """Linear between the px about each place (rows r, columns c), and whether it still is on the face."""
    tall, long = even.shape
    known = (r >= 0) & (r <= tall - 1) & (c >= 0) & (c <= long - 1)
    r, c = np.clip(r, 0, tall - 1.001), np.clip(c, 0, long - 1.001)
    r0, c0 = r.astype(np.intp), c.astype(np.intp)
    fr, fc = r - r0, c - c0
    at, flat = r0 * long + c0, even.ravel()
    upper = flat.take(at) * (1 - fc) + flat.take(at + 1) * fc
    lower = flat.take(at + long) * (1 - fc) + flat.take(at + long + 1) * fc
    return upper * (1 - fr) + lower * fr, known & where.ravel().take((r + 0.5).astype(np.intp) * long + (c + 0.5).astype(np.intp))


def _until(here: Array, values: Array, known: Mask) -> Array:
    """px from a place until the light crosses halfway, between samples by a straight line; REACH where it never does, nan where the face
    ends before."""
    other = (values > 0) != (here > 0)[:, None]
    first = np.where(other.any(axis=1), other.argmax(axis=1), REACH)
    ends = np.where((~known).any(axis=1), (~known).argmax(axis=1), REACH + 1)
    at = np.minimum(first, REACH - 1)
    n = np.arange(len(here))
    before = np.where(at > 0, values[n, np.maximum(at - 1, 0)], here)
    after = values[n, at]
    gap = before - after
    part = np.clip(before / np.where(np.abs(gap) < TINY, 1.0, gap), 0, 1)
    out = np.where(first < REACH, at + part, float(REACH))
    return np.where(ends <= first, np.nan, out)


def _repeat(even: Array, where: Mask) -> tuple[float, float]:
    """How like itself the face is one repeat on along the blade, %, and how far that is, mm: the highest top of its autocorrelation
    after the first valley, over what both places have."""
    n = even.shape[1]
    mean = even[where].mean()
    f = np.where(where, even - mean, 0.0)
    far = min(int(REPEATS[1] * PX_PER_MM), int(0.45 * n))
    size = fft.next_fast_len(n + far + 1, real=True)

    def over(v: Array) -> Array:
        turned = fft.rfft(v, size, axis=1)
        return fft.irfft((turned.real**2 + turned.imag**2).sum(axis=0), size)

    both = over(where.astype(np.float32))
    r = over(f)[: far + 1] / np.maximum(both[: far + 1], 1.0)
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


def _rings(up: Mask, where: Mask) -> float:
    """Closed rings and islands in 10 cm2: pieces of one tone wholly inside the face, about as wide as long."""
    area = float(where.sum()) / PX_PER_MM**2
    count = 0
    for tone in (up & where, ~up & where):
        # the rim is no ring's: what touches it is open
        labels, n = ndimage.label(tone | ~where)
        if n < 2:
            continue
        size = np.bincount(labels.ravel(), minlength=n + 1) / PX_PER_MM**2
        closed = (size >= RING[0]) & (size <= RING[1])
        closed[labels[~where]] = False
        closed[0] = False
        boxes = ndimage.find_objects(labels) if closed.any() else []
        for i in np.flatnonzero(closed):
            tall, long = (s.stop - s.start for s in boxes[i - 1])
            count += max(tall, long) <= 3 * min(tall, long)
    return 1000.0 * count / max(area, TINY)


def _correlation(x: Array, y: Array) -> float:
    if len(x) < 16:
        return 0.0
    x, y = x - x.mean(), y - y.mean()
    return max(0.0, float((x * y).sum() / max(np.sqrt((x * x).sum() * (y * y).sum()), TINY)))


def _halves(even: Array, where: Mask) -> float:
    """Correlation of the face with itself turned upside down, each column between its own edge and spine."""
    soft = _soft(even, WHOLE)
    rows = np.arange(even.shape[0])
    some = where.any(axis=0)
    top, bottom = where.argmax(axis=0), where.shape[0] - 1 - where[::-1].argmax(axis=0)
    turned = top + bottom - rows[:, None]
    inside = where & some & (turned >= 0) & (turned < even.shape[0])
    other = np.take_along_axis(soft, np.clip(turned, 0, even.shape[0] - 1), axis=0)
    return _correlation(soft[inside], other[inside])


def _alike(right: Face, left: Face) -> float:
    """Correlation of the two faces over what both have, softened by a pixel."""
    rows, cols = (min(a, b) for a, b in zip(right.light.shape, left.light.shape, strict=True))
    a, b = (_soft(f.light[:rows, :cols], WHOLE) for f in (right, left))
    both = _inner(right)[:rows, :cols] & _inner(left)[:rows, :cols]
    return _correlation(a[both], b[both])
