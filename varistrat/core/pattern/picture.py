"""Pictures of etched steel: a view, sampled in bands, etched, shaded, anti-aliased."""

from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import Executor
from dataclasses import dataclass, field
from functools import partial

import numpy as np
from PIL import Image, ImageFilter

from varistrat.core.bars.points import Array
from varistrat.core.bars.trace import Trace, run_blocks
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.etch import daylight
from varistrat.core.etch.tones import SKIN, EtchTable
from varistrat.core.limits import MAX_PICTURE_PX
from varistrat.core.pattern import sampling
from varistrat.core.pattern.laid import laid
from varistrat.core.pattern.views import View

BAND_POINTS = 300_000
SEAM_DARKER = np.float32(0.33)
"""A weld between bars etches this much darker than what it joins; indicative."""


@dataclass(frozen=True)
class Quality:
    """samples: points a pixel along each side (the pattern is averaged exactly at 1 already; more
    help at joints and rims); relief and shadow: drawn or not; cutout: grey and alpha, no ground."""

    samples: int = 2
    relief: bool = True
    shadow: bool = True
    cutout: bool = False


FULL = Quality()
SCREEN = Quality(samples=1)
PREVIEW = Quality(samples=1, relief=False, shadow=False)
PORTRAIT = Quality(samples=2, relief=False, shadow=False, cutout=True)


@dataclass(frozen=True)
class Subject:
    """A traced bar with its etch table: what every picture of it shares."""

    trace: Trace
    tones: Mapping[str, float] = field(default_factory=dict)
    skin: float = SKIN
    """Pale line at a weld, mm."""
    depths: Mapping[str, float] = field(default_factory=dict)
    """um of each steel; as after a usual etch where nothing is said."""

    @cached_property
    def table(self) -> EtchTable:
        """Brightness and depth along the row of piles; made once."""
        return EtchTable.of(self.trace, sampling.magnification(self.trace), self.tones, self.skin, self.depths)


def draw(
    subject: Subject,
    view: View,
    width_px: int,
    executor: Executor,
    quality: Quality = FULL,
    cancelled: Callable[[], bool] | None = None,
    progress: Callable[[float], None] | None = None,
) -> Array:
    """The view as 8-bit grey, (rows, width_px), to scale; a cutout as grey and alpha, (rows, width_px, 2).

    Raises InputError for a size out of reach and Cancelled when no longer wanted.
    """
    drawing = Drawing.of(subject, view, width_px, quality)
    return drawing.assembled(run_blocks(drawing.band, iter(drawing.starts), executor, cancelled), progress)


@dataclass(frozen=True)
class Drawing:
    """A picture in bands of rows, each by itself: `band` of each of `starts`, put together by `assembled`."""

    band: Callable[[int], Array]
    starts: range
    size: tuple[int, int]
    """px along and up."""
    cutout: bool

    @classmethod
    def of(cls, subject: Subject, view: View, width_px: int, quality: Quality = FULL) -> "Drawing":
        """Raises InputError for a size out of reach."""
        width, height = view.size
        height_px = max(1, round(height * width_px / width))
        if not (1 <= width_px <= MAX_PICTURE_PX and height_px <= MAX_PICTURE_PX):
            raise InputError.at(
                "px", f"a picture of {width_px} x {height_px} pixels is out of reach", f"keep both sides within {MAX_PICTURE_PX}"
            )
        shadow = _Shadow.of(view, width_px, height_px) if quality.shadow else None
        rows_each = max(4, BAND_POINTS // (width_px * quality.samples**2))
        # data and a function of this module: a pool of processes can do it too
        band = partial(_band, subject.trace, subject.table, view, (width_px, height_px), rows_each, quality, shadow)
        return cls(band, range(0, height_px, rows_each), (width_px, height_px), quality.cutout)

    def assembled(self, bands: Iterator[Array], progress: Callable[[float], None] | None = None) -> Array:
        """8-bit grey, (rows, columns); a cutout as grey and alpha, (rows, columns, 2). bands: in the order of `starts`."""
        width_px, height_px = self.size
        out = np.empty((height_px, width_px, 2) if self.cutout else (height_px, width_px), np.uint8)
        for top, grey in zip(self.starts, bands, strict=True):
            out[top : top + grey.shape[0]] = grey
            if progress:
                progress((top + grey.shape[0]) / height_px)
        return out


def _band(
    trace: Trace, table: EtchTable, view: View, size: tuple[int, int], most: int, quality: Quality, shadow: "_Shadow | None", first: int
) -> Array:
    """`most` rows of the picture (or what is left of it) from row `first` on, with a halo of a row for slopes."""
    width_px, height_px = size
    span = first, min(most, height_px - first)
    count = span[1]
    n = quality.samples
    width, height = view.size
    halo = 1
    rows = np.arange((first - halo) * n, (first + count + halo) * n)
    a = ((np.arange(width_px * n) + 0.5) * (width / (width_px * n))).astype(np.float32)
    b = (height - (rows + 0.5) * (height / (height_px * n))).astype(np.float32)
    patch = laid(view, a, b)
    if not patch.cover.any():
        bare = np.zeros((count, width_px), np.float32)
        return _finish(bare, bare, span, quality, shadow)
    found = sampling.sample(trace, patch.x, patch.y, patch.z, where=_seen(patch.cover))
    light, depth = table.mean(found.place, sampling.footprint(found.place), deep=quality.relief)
    if found.seam is not None:
        light *= 1 - SEAM_DARKER * sampling.seam_cover(found.seam)
    full: Array = _shrink(patch.cover, n)
    if n > 1:
        safe = np.maximum(full, 1e-6)
        light, depth = _shrink(light * patch.cover, n) / safe, _shrink(depth * patch.cover, n) / safe
    tilt: Array = np.zeros_like(light) if patch.slope_y is None else _shrink(patch.slope_y, n)
    grey = daylight.shade(light, depth, tilt, first, width_px / width, quality.relief)
    if patch.gloom is not None and patch.glint is not None:
        grey *= 1 - 0.6 * _shrink(patch.gloom, n)
        grey += (0.62 - grey) * (0.75 * _shrink(patch.glint, n))
    return _finish(grey[halo:-halo], full[halo:-halo], span, quality, shadow)


def _seen(cover: Array) -> Array:
    """Samples on steel, and two about them: slopes are taken from neighbours, and of those again."""
    on: Array = cover > 0
    for _ in range(2):
        wider = on.copy()
        wider[1:] |= on[:-1]
        wider[:-1] |= on[1:]
        wider[:, 1:] |= on[:, :-1]
        wider[:, :-1] |= on[:, 1:]
        on = wider
    return on


def _finish(grey: Array, cover: Array, span: tuple[int, int], quality: Quality, shadow: "_Shadow | None") -> Array:
    if quality.cutout:
        return np.stack([daylight.to_srgb8(grey), (cover * 255 + 0.5).astype(np.uint8)], axis=-1)
    ground = shadow.rows(*span) if shadow else np.float32(daylight.GROUND)
    return daylight.to_srgb8(grey * cover + ground * (1 - cover))


def _shrink(v: Array, n: int) -> Array:
    """Mean over n x n samples, in linear light."""
    for axis in (0, 1) if n > 1 else ():
        rows = [slice(None)] * 2
        parts = []
        for i in range(n):
            rows[axis] = slice(i, None, n)
            parts.append(v[tuple(rows)])
        v = sum(parts[1:], start=parts[0]) * np.float32(1 / n)
    return v


@dataclass(frozen=True)
class _Shadow:
    """The ground under the blade: plate grey, darker where the blade keeps the light off."""

    ground: Array
    height_px: int
    width_px: int

    @classmethod
    def of(cls, view: View, width_px: int, height_px: int) -> "_Shadow":
        small = min(1.0, 480 / width_px)
        w, h = max(2, round(width_px * small)), max(2, round(height_px * small))
        a = ((np.arange(w) + 0.5) * (view.size[0] / w)).astype(np.float32)
        b = (view.size[1] - (np.arange(h) + 0.5) * (view.size[1] / h)).astype(np.float32)
        mask = Image.fromarray((view.patch(a, b).cover * 255).astype(np.uint8))
        soft = np.asarray(mask.filter(ImageFilter.GaussianBlur(3.2))).astype(np.float32) / 255
        cast = np.zeros_like(soft)
        cast[2:, 1:] = soft[:-2, :-1]  # the light stands upper left
        return cls(daylight.GROUND * (1 - 0.72 * cast), height_px, width_px)

    def rows(self, first: int, count: int) -> Array:
        """The ground at these rows of the full picture: linear between the small one's pixels."""
        r = (np.arange(first, first + count) + 0.5) * (self.ground.shape[0] / self.height_px) - 0.5
        c = (np.arange(self.width_px) + 0.5) * (self.ground.shape[1] / self.width_px) - 0.5
        r0, c0 = np.clip(r.astype(int), 0, self.ground.shape[0] - 2), np.clip(c.astype(int), 0, self.ground.shape[1] - 2)
        fr, fc = np.clip(r - r0, 0, 1)[:, None].astype(np.float32), np.clip(c - c0, 0, 1).astype(np.float32)
        upper = self.ground[r0][:, c0] * (1 - fc) + self.ground[r0][:, c0 + 1] * fc
        lower = self.ground[r0 + 1][:, c0] * (1 - fc) + self.ground[r0 + 1][:, c0 + 1] * fc
        out: Array = upper * (1 - fr) + lower * fr
        return out
