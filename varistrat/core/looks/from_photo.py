"""A marked photo as a wanted look: laid on the blade's frame, its light taken out, measured as a predicted face is."""

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Side
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.laminate.photo import Sight
from varistrat.core.looks.features import Face, features_of, grid_of
from varistrat.core.pattern.laid import laid
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.flat import WIDE, evened, laid_flat

SEEN = 0.6
"""Share of the face that a photo must show."""
RANGE = 0.16
"""Of light: what one step of an evened photo is taken for; tones are not read off it, so any would do."""


def features_of_photo(cut: Cut, side: Side, grey: Array, seen_by: Sight) -> dict[str, float]:
    """Of one face on a photo (grey, 0 to 1); how like the two sides are it does not tell (nan). Raises InputError when little of the blade
    is on it, or it lies too small."""
    view = BladeView(cut.placed, side)
    a, b = grid_of(view)
    flat, seen = laid_flat(grey, seen_by, view, a, b)
    steel = laid(view, a, b).cover > 0.5
    where = seen & steel
    if where.sum() < SEEN * steel.sum():
        raise InputError.at("marks", "too little of the blade is on this photo", "take one of the whole face, or check the marks")
    light = np.clip(0.25 + RANGE * evened(flat, where, WIDE * len(a)), 0.0, 1.0)
    return features_of((Face(light.astype(np.float32), where),))
