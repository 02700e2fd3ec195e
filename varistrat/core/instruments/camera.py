"""A camera that stands in for a phone held over the bench: what lies there comes out askew, unevenly lit, with noise, as a JPEG."""

import io
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter

from varistrat.core.instruments.instrument import Picture

SIZE = (1400, 933)
LENS = (0.95, 0.03, 12, 0.01, 0.95, 14, 2e-5, 6e-5)
"""From the photo's px back to the bench's, as a projective map."""
BENCH = (121, 98, 74)
WARM = (1.0, 0.99, 0.96)
"""Red, green and blue of the light."""
QUALITY = 80

Lying = tuple[NDArray[np.uint8], NDArray[np.uint8]]
"""What lies on the bench: brightness and how far each of its px is covered by it, (rows, columns) each, at most as large as SIZE."""


@dataclass(frozen=True)
class Camera:
    """lies: what is truly there; turned: degrees clockwise, it does not lie level; noise: of one px, of 255."""

    lies: Callable[[], Lying]
    turned: float = 7.0
    noise: float = 4.0
    seed: int = 4

    def read(self) -> Picture:
        """What is on the bench now."""
        grey, cover = self.lies()
        rng = np.random.default_rng(self.seed)
        scene = _bench(rng)
        lit = Image.merge("RGB", [Image.fromarray(np.clip(grey * k, 0, 255).astype(np.uint8)) for k in WARM])
        scene.paste(lit, _corner(grey.shape[1], grey.shape[0]), Image.fromarray(cover))
        seen = scene.rotate(-self.turned, Image.Resampling.BICUBIC, fillcolor=BENCH)
        seen = seen.transform(SIZE, Image.Transform.PERSPECTIVE, LENS, Image.Resampling.BICUBIC)
        out = io.BytesIO()
        self._exposed(np.asarray(seen, float), rng).save(out, "JPEG", quality=QUALITY)
        return Picture(out.getvalue())

    def sees(self, px: float, py: float, wide: int, tall: int) -> tuple[float, float]:
        """Where in the photo a place of what lies there comes out; px, py of its own wide x tall px."""
        corner, middle = _corner(wide, tall), np.array(SIZE) / 2
        off = np.array([px + corner[0], py + corner[1]]) - middle
        cos, sin = np.cos(np.deg2rad(self.turned)), np.sin(np.deg2rad(self.turned))
        turned = middle + np.array([off[0] * cos - off[1] * sin, off[0] * sin + off[1] * cos])
        a, b, c, d, e, f, g, h = LENS
        u, v, w = np.linalg.inv([[a, b, c], [d, e, f], [g, h, 1]]) @ [*turned, 1.0]
        return float(u / w), float(v / w)

    def _exposed(self, pixels: NDArray[np.float64], rng: np.random.Generator) -> Image.Image:
        """Lit from the upper left corner."""
        high, wide = pixels.shape[:2]
        y, x = np.mgrid[0:high, 0:wide]
        light = 1.18 - 0.42 * np.hypot((x - 0.2 * wide) / wide, (y - 0.1 * high) / high)
        return Image.fromarray(np.clip(pixels * light[..., None] + rng.normal(0, self.noise, pixels.shape), 0, 255).astype(np.uint8))


def _corner(wide: int, tall: int) -> tuple[int, int]:
    """Where on the bench it lies: in the middle."""
    return (SIZE[0] - wide) // 2, (SIZE[1] - tall) // 2


def _bench(rng: np.random.Generator) -> Image.Image:
    """Worn boards: grain along, dark seams between."""
    grain = np.cumsum(rng.normal(0, 1, (SIZE[1], 60)), axis=0)
    grain = np.repeat(grain - grain.mean(0), SIZE[0] // 60 + 1, axis=1)[:, : SIZE[0]]
    tone = 1 + 0.006 * grain + rng.normal(0, 0.03, SIZE[::-1])
    tone[np.arange(SIZE[1]) % 310 < 4] *= 0.45
    return Image.fromarray(np.clip(tone[..., None] * np.array(BENCH), 0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(1.2))
