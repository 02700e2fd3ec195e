"""Made-up photos of a blade's face by our own renderer: seen askew, blurred, unevenly lit, with noise, as a rough JPEG."""

import io
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageFilter

from varistrat.core.bars.forged import forge
from varistrat.core.blade.geometry import Side
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.photo import Mark
from varistrat.core.pattern.picture import FULL, draw
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.numbers import changed

MARGIN = 6.0
NOISE, BLUR, QUALITY = 0.05, 1.2, 60


@dataclass(frozen=True)
class MadeUp:
    """The file, and where heel, tip, edge and spine were marked in it."""

    jpeg: bytes
    marks: list[Mark]


def photo_of(
    worked: Worked, side: Side, changes: Mapping[str, float], rng: np.random.Generator, px: int = 1100, off: float = 0.0
) -> MadeUp:
    """A photo of the blade made otherwise than planned by `changes`; off: how far its marks lie wrong, mm, one standard deviation."""
    draft = changed(worked, side, changes)
    cut = Cut.of(draft.blade, forge(draft.bar, "recipe.bar", worked.shop))
    view = BladeView(cut.placed, side, margin=MARGIN)
    with ThreadPoolExecutor(1) as executor:
        flat = draw(cut.subject(worked.fired_tones), view, px, executor, FULL)
    rows, columns = flat.shape
    scale = columns / view.size[0]
    around = int(0.12 * columns)
    corners = np.array([(0, 0), (columns, 0), (columns, rows), (0, rows)], float)
    seen = corners + around + rng.uniform(-0.03, 0.03, (4, 2)) * columns
    back = _projective(seen, corners)
    size = columns + 2 * around, rows + 2 * around
    coefficients = tuple(float(v) for v in (back / back[2, 2]).ravel()[:8])
    picture = Image.fromarray(flat).transform(size, Image.Transform.PERSPECTIVE, coefficients, Image.Resampling.BICUBIC, fillcolor=40)
    grey = np.asarray(picture.filter(ImageFilter.GaussianBlur(BLUR)), float) / 255
    y, x = np.mgrid[0 : size[1], 0 : size[0]] / max(size)
    grey *= 0.75 + 0.5 * x * rng.uniform(0.3, 1) + 0.4 * y * rng.uniform(-1, 1)
    grey += rng.normal(0, NOISE, grey.shape)
    out = io.BytesIO()
    Image.fromarray((np.clip(grey, 0, 1) * 255).astype(np.uint8)).save(out, "JPEG", quality=QUALITY)
    curves = cut.geometry.curves
    low, _ = curves.span()
    there = np.linalg.inv(back)
    marks = []
    for along, across in ((0.0, 0.0), (0.0, 1.0), (0.55, 0.0), (0.55, 1.0), (1.0, 0.5)):
        at = np.array([along * curves.length])
        edge, spine = float(curves.edge(at)[0]), float(curves.spine(at)[0])
        place = along * curves.length, edge + across * (spine - edge)
        moved = np.array(place) + rng.normal(0, off, 2)
        right = moved[0] if side == "right" else curves.length - moved[0]
        spot = there @ [(right + MARGIN) * scale, (view.size[1] - (moved[1] - low + MARGIN)) * scale, 1.0]
        marks.append(Mark(float(spot[0] / spot[2]), float(spot[1] / spot[2]), *place))
    return MadeUp(out.getvalue(), marks)


def _projective(points: np.ndarray, to: np.ndarray) -> np.ndarray:
    """The 3 x 3 map that takes four points to four others."""
    rows, right = [], []
    for (x, y), (u, v) in zip(points, to, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)
