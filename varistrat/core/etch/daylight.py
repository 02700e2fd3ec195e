"""How an etched, satin-finished face looks in daylight from a high window.

All in linear light; the numbers are choices of looks, tried against photographs in the
mind's eye, and carry no physics. Brightness and depth come from the etch tables.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from varistrat.core.bars.points import Array

LIGHT = np.array([-0.25, 0.55, 0.80]) / np.linalg.norm([-0.25, 0.55, 0.80])
GROUND = 0.0225
"""Linear grey of the plate under the steel: the screen's own colour for it."""
TILE = (512, 1024)
RELIEF = 5.0
"""Etched depth is drawn this many times deeper than it is."""


@dataclass(frozen=True)
class Noise:
    """What no two faces share: scratches of the satin, grain and cloud of the light; square tiles that repeat."""

    satin: Array
    grain: Array
    cloud: Array


@lru_cache(maxsize=1)
def noise() -> Noise:
    """Three endless tiles: drawn-out satin, fine grain, soft cloud; rms 1, float32."""
    rng = np.random.default_rng(7)
    raw = [rng.standard_normal(TILE) for _ in range(4)]

    def shaped(field: Array, sx: float, sy: float) -> Array:
        fy = np.fft.fftfreq(TILE[0])[:, None] * sy
        fx = np.fft.rfftfreq(TILE[1])[None, :] * sx
        out = np.fft.irfft2(np.fft.rfft2(field) * np.exp(-2 * np.pi**2 * (fx**2 + fy**2)), TILE)
        return (out / out.std()).astype(np.float32)

    satin = 0.75 * shaped(raw[0], 60, 0.45) + 0.65 * shaped(raw[3], 18, 0.35)
    return Noise((satin / satin.std()).astype(np.float32), shaped(raw[1], 0.55, 0.45), shaped(raw[2], 26, 12))


def tile(field: Array, row: int, rows: int, cols: int) -> Array:
    """A piece of an endless tile, `row` rows down."""
    part = field.take(np.arange(row, row + rows), axis=0, mode="wrap")
    return part[:, :cols] if cols <= TILE[1] else np.tile(part, (1, -(-cols // TILE[1])))[:, :cols]


def shade(light: Array, depth: Array, slope_y: Array, row: int, px_per_mm: float, relief: bool) -> Array:
    """Linear grey of an etched face.

    light: brightness; depth: etched depth, um; slope_y: tilt of the ground face up the
    picture (radians, small); row: of the picture, for the noise.
    """
    rows, cols = light.shape
    n = noise()
    satin = tile(n.satin, row, rows, cols)
    ny = satin * (0.02 * light)
    ny -= slope_y
    diffuse = ny * np.float32(LIGHT[1])
    if relief:
        # steps of a few um seen at 5x; clipped, or a sharp step would go black
        k = np.float32(-RELIEF * 1e-3 * px_per_mm)
        gy, gx = np.gradient(depth)
        diffuse -= np.clip(gx * k, -0.3, 0.3) * np.float32(LIGHT[0])
        lift = np.clip(gy * k, -0.3, 0.3)
        ny += lift
        diffuse += lift * np.float32(LIGHT[1])
    diffuse += np.float32(LIGHT[2])
    np.clip(diffuse, 0, 1.15, out=diffuse)
    body = light * (0.22 + 0.50 * diffuse)
    # a wide soft box overhead: brightest where the face leans a little up towards it
    box = ny - 0.10
    box *= box
    box *= np.float32(-1 / (2 * 0.30**2))
    np.exp(box, out=box)
    box *= 1 + 0.10 * satin
    sheen = 0.62 * (0.035 + 0.85 * light * np.sqrt(light)) * box
    out = body + sheen
    out *= 1 + (0.080 * tile(n.grain, row, rows, cols)) * (1.4 - light) + 0.030 * tile(n.cloud, row, rows, cols)
    return out


def to_srgb8(linear: Array) -> Array:
    """Linear grey, softly kneed above 0.7, as 8-bit sRGB."""
    knee = 0.7
    over = np.maximum(linear - knee, 0)
    x = np.minimum(linear, knee) + over / (1 + over / 0.35)
    return _SRGB.take((np.clip(x, 0, 1) * (len(_SRGB) - 1)).astype(np.int32), mode="clip")


_LINEAR = np.linspace(0, 1, 16384)
_SRGB = (np.where(_LINEAR <= 0.0031308, 12.92 * _LINEAR, 1.055 * _LINEAR ** (1 / 2.4) - 0.055) * 255 + 0.5).astype(np.uint8)
