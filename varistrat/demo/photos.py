"""Photos of the demo's finished knife: made up, from our own renderer, as a phone held over a bench would take them."""

import io

import numpy as np
from PIL import Image, ImageFilter

from varistrat.core.blade.geometry import Side
from varistrat.core.design.worked import Worked
from varistrat.core.photo.intake import Taken, taken_in
from varistrat.designs.services.predict import BladePicture, blade_png

SIZE = (1400, 933)
PX = 1000
TURNED = 7.0
"""Degrees clockwise: it does not lie level."""
LENS = (0.95, 0.03, 12, 0.01, 0.95, 14, 2e-5, 6e-5)
"""From the photo's px back to the bench's, as a projective map."""
BENCH = (121, 98, 74)


def photo_of(worked: Worked, side: Side, seed: int = 4) -> Taken:
    """The blade on the bench, not quite level, lit from one corner."""
    grey = np.asarray(Image.open(io.BytesIO(blade_png(worked, BladePicture(side, PX)))).convert("L"))
    rng = np.random.default_rng(seed)
    scene = _bench(rng)
    mask = Image.open(io.BytesIO(blade_png(worked, BladePicture(side, PX, quality="portrait")))).getchannel("A")
    blade = Image.merge("RGB", [Image.fromarray(np.clip(grey * k, 0, 255).astype(np.uint8)) for k in (1.0, 0.99, 0.96)])
    at = ((SIZE[0] - PX) // 2, (SIZE[1] - grey.shape[0]) // 2)
    scene.paste(blade, at, mask)
    seen = scene.rotate(-TURNED, Image.Resampling.BICUBIC, fillcolor=BENCH)
    seen = seen.transform(SIZE, Image.Transform.PERSPECTIVE, LENS, Image.Resampling.BICUBIC)
    return taken_in(_jpeg(_lit(np.asarray(seen, float), rng)))


def seen_at(worked: Worked, x: float, y: float) -> tuple[float, float]:
    """Where such a photo of the right side shows a place on the blade (x from the heel, y above the heel's edge; mm), px."""
    margin = BladePicture("right", PX).margin
    low, high = worked.blade.geometry.curves.span()
    wide, tall = worked.blade.geometry.length + 2 * margin, high - low + 2 * margin
    scale = PX / wide
    corner = (SIZE[0] - PX) // 2, (SIZE[1] - round(tall * scale)) // 2
    off = np.array([(x + margin) * scale + corner[0], (high + margin - y) * scale + corner[1]]) - np.array(SIZE) / 2
    cos, sin = np.cos(np.deg2rad(TURNED)), np.sin(np.deg2rad(TURNED))
    turned = np.array(SIZE) / 2 + np.array([off[0] * cos - off[1] * sin, off[0] * sin + off[1] * cos])
    a, b, c, d, e, f, g, h = LENS
    u, v, w = np.linalg.inv([[a, b, c], [d, e, f], [g, h, 1]]) @ [*turned, 1.0]
    return float(u / w), float(v / w)


def _bench(rng: np.random.Generator) -> Image.Image:
    """Worn boards: grain along, dark seams between."""
    grain = np.cumsum(rng.normal(0, 1, (SIZE[1], 60)), axis=0)
    grain = np.repeat(grain - grain.mean(0), SIZE[0] // 60 + 1, axis=1)[:, : SIZE[0]]
    tone = 1 + 0.006 * grain + rng.normal(0, 0.03, SIZE[::-1])
    tone[np.arange(SIZE[1]) % 310 < 4] *= 0.45
    return Image.fromarray(np.clip(tone[..., None] * np.array(BENCH), 0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(1.2))


def _lit(pixels: np.ndarray, rng: np.random.Generator) -> Image.Image:
    high, wide = pixels.shape[:2]
    y, x = np.mgrid[0:high, 0:wide]
    light = 1.18 - 0.42 * np.hypot((x - 0.2 * wide) / wide, (y - 0.1 * high) / high)
    return Image.fromarray(np.clip(pixels * light[..., None] + rng.normal(0, 4, pixels.shape), 0, 255).astype(np.uint8))


def _jpeg(photo: Image.Image) -> bytes:
    out = io.BytesIO()
    photo.save(out, "JPEG", quality=80)
    return out.getvalue()
