"""A photo laid flat on the blade's own frame, its light evened out, so that it can be held against the prediction.

A flat face seen from anywhere is a projective picture of itself (laminate/photo.py). The light falls off slowly over it, the pattern
does not: what is left of a picture divided by its own wide blur is pattern (docs/physics.md#photo-fit).
"""

import io

import numpy as np
from PIL import Image
from scipy import ndimage

from varistrat.core.bars.points import Array
from varistrat.core.blade.outline import Curves
from varistrat.core.errors import InputError
from varistrat.core.laminate.photo import Sight
from varistrat.core.pattern.views import BladeView

WIDE = 0.055
"""Of the blade's length: the blur that tells light from pattern."""
LEAST_PX = 160
"""A blade shorter than this in its photo shows no pattern that could be measured."""
DARKEST = 0.02


STATION = 0.55
"""Of the length: where edge and spine are marked, if nobody says otherwise."""


def to_mark(curves: Curves, station: float | None = None) -> list[tuple[str, float, float]]:
    """What is marked on a photo, in order: (name, x from the heel, y above the heel's edge; mm); station: x of edge and spine.

    Raises InputError for a station off the blade.
    """
    length = curves.length
    at = STATION * length if station is None else station
    if not 0.1 * length <= at <= 0.9 * length:
        raise InputError.at(
            "station", f"{at:.4g} mm from the heel is no place for it", f"choose one between {0.1 * length:.0f} and {0.9 * length:.0f} mm"
        )

    def place(x: float, across: float) -> tuple[float, float]:
        edge, spine = (float(curve(np.array([x]))[0]) for curve in (curves.edge, curves.spine))
        return x, edge + across * (spine - edge)

    return [
        ("the heel at the edge", *place(0.0, 0.0)),
        ("the heel at the spine", *place(0.0, 1.0)),
        ("the tip", *place(length, 0.5)),
        ("the edge", *place(at, 0.0)),
        ("the spine", *place(at, 1.0)),
    ]


def grey_of(photo: bytes) -> Array:
    """A kept photo as grey, 0 to 1, (rows, columns)."""
    return np.asarray(Image.open(io.BytesIO(photo)).convert("L"), np.float32) / np.float32(255)


def places_of(view: BladeView, a: Array, b: Array) -> Array:
    """Blade places (x from the heel, y above the heel's edge; mm) of columns a and rows b of a view, (rows, columns, 2)."""
    low, high = view.placed.geometry.curves.span()
    x, y = a - view.margin, b - view.margin
    if view.side == "left" and not view.book:
        x = view.placed.geometry.length - x
    y = high - y if view.side == "left" and view.book else y + low
    return np.stack(np.broadcast_arrays(x[None, :], y[:, None]), axis=-1)


def laid_flat(grey: Array, sight: Sight, view: BladeView, a: Array, b: Array) -> tuple[Array, Array]:
    """The photo at columns a and rows b of the view (evenly spaced, mm), and where it shows them at all; (rows, columns).

    Raises InputError when the blade is too small in it.
    """
    pixel = float(abs(a[1] - a[0]))
    geometry = view.placed.geometry
    ends = sight.picture(np.array([[0.0, 0.0], [geometry.length, 0.0]]))
    long = float(np.hypot(*(ends[1] - ends[0])))
    if long < LEAST_PX:
        raise InputError.at("marks", f"the blade is only {long:.0f} pixels long in this photo", "take it nearer, or mark heel and tip")
    finer = long / geometry.length * pixel
    reduced = max(1, int(finer / 2))
    # of a much finer photo, what a sample stands for is the mean about it
    small = ndimage.uniform_filter(grey, reduced) if reduced > 1 else grey
    out = np.zeros((len(b), len(a)), np.float32)
    seen = np.zeros(out.shape, np.float32)
    for da in (-0.25, 0.25):
        for db in (-0.25, 0.25):
            at = sight.picture(places_of(view, a + da * pixel, b + db * pixel).reshape(-1, 2))
            rows, columns = at[:, 1] - 0.5, at[:, 0] - 0.5
            out += ndimage.map_coordinates(small, [rows, columns], order=1, mode="nearest").reshape(out.shape)
            seen += ((at >= 0).all(axis=1) & (at[:, 0] <= grey.shape[1]) & (at[:, 1] <= grey.shape[0])).reshape(out.shape)
    return out / 4, seen == 4


def evened(grey: Array, where: Array, wide: float) -> Array:
    """What is left when the light is taken out: the picture over its blur (`wide`, px) less 1, 0 where it is not `where`."""
    weight = where.astype(np.float32)
    light = _blurred(grey * weight, wide) / np.maximum(_blurred(weight, wide), 1e-3)
    return np.where(where, grey / np.maximum(light, DARKEST) - 1, 0).astype(np.float32)


def _blurred(picture: Array, wide: float) -> Array:
    """Three boxes: as good as a bell curve `wide` px, at a tenth of the cost. Their widths: Wells 1986, eq. 5."""
    size = max(1, round(float(np.sqrt(4 * wide**2 + 1))) | 1)
    for _ in range(3):
        picture = ndimage.uniform_filter(picture, size, mode="constant")
    return picture
