"""How a blade was made, read off a photo of its face: the numbers for which the prediction looks most like it.

Likeness is the zero-mean normalised cross-correlation of the evened photo with the evened prediction. It is found by a coarse look over
each number's range and, near its top, by least squares (top.py). Derived in docs/physics.md#photo-fit.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Side
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.photo.face import Mask, PhotoOfFace, PredictedFace, alike, run_alike
from varistrat.core.photo.numbers import PhotoNumber, numbers_of, usual_of
from varistrat.core.photo.top import MARKED, Top, Trial

WIDTH, COARSE = 320, 160
"""px along the blade."""
SPREAD = 1.753
"""Student's t with 15 degrees, 5 % beyond it on each side, for ranges that hold 9 in 10: sixteen tiles say how far they scatter, and
no better."""
LIKE = 0.45
"""Below this correlation nothing is said: the photo is of another blade, marked wrongly, or not found again."""
LEAST_CONTRAST = 0.02
CLEAR = 0.6
"""The coarse size is used where it keeps so much of the contrast."""
HALF, GROWS = 0.55, 1.6
UNMOVED = 0.985
"""A number that leaves the picture so like the planned one cannot be read off it."""
MOST_PLACES = 130
BLURS = (0.0, 0.4, 0.7, 1.0, 1.4)
"""px: how sharp the photo may be. A sharper prediction would follow it too stiffly, and seem surer than it is."""
FEET = 3
"""Tops that are climbed."""


@dataclass(frozen=True)
class FittedNumber:
    """change, low, high: what it is off by, and its 9-in-10 range, in the number's own unit of change; told: False where the photo cannot
    tell it (then the range is all that was looked over); differs: the plan lies outside its range."""

    number: PhotoNumber
    change: float
    low: float
    high: float
    told: bool
    differs: bool

    @property
    def made(self) -> tuple[float, float, float]:
        """What it is by the photo, and from where to where."""
        return self.number.made(self.change), self.number.made(self.low), self.number.made(self.high)


@dataclass(frozen=True)
class PhotoFit:
    """like_planned, like: correlation of the photo with the planned face and with the fitted one; drawn: faces tried."""

    numbers: list[FittedNumber]
    like_planned: float
    like: float
    drawn: int

    @property
    def changes(self) -> dict[str, float]:
        """By key, of those that differ."""
        return {n.number.key: n.change for n in self.numbers if n.differs}


def fit_photo(
    worked: Worked,
    side: Side,
    grey: Array,
    marks: Sequence[Mark],
    keys: Sequence[str] | None = None,
    progress: Callable[[float], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> PhotoFit:
    """The numbers (by key; None: those that do not say the same twice) for which the predicted face looks most like the photo.

    grey: the photo, 0 to 1; marks: four or more places on it. Raises InputError for a photo that is not like the blade at all, Cancelled.
    """
    numbers = numbers_of(worked, side)
    wanted = usual_of(numbers) if keys is None else list(keys)
    chosen = [n for n in numbers if n.key in wanted]
    if not chosen or len(chosen) < len(set(wanted)):
        raise InputError.at("numbers", "this design has no such numbers", "choose from those that are offered")
    say = progress or (lambda done: None)
    names, seen_by = [n.key for n in chosen], sight(marks)
    face = PredictedFace(worked, side, names, WIDTH)
    if face.contrast < LEAST_CONTRAST:
        raise InputError.at("photo", "the layers of this face are too fine to be told apart at this size", "read its core line instead")
    trial = Trial(face, PhotoOfFace(grey, face, seen_by), cancelled)
    small = PredictedFace(worked, side, names, COARSE)
    rough = Trial(small, PhotoOfFace(grey, small, seen_by), cancelled) if small.contrast > CLEAR * face.contrast else trial
    steps = [_step(rough.face, i, n) for i, n in enumerate(chosen)]
    shown = [i for i, step in enumerate(steps) if step]
    planned = trial.like([0.0] * len(chosen))
    places = _coarse(rough, chosen, steps, lambda done: say(0.6 * done))
    face.blur = max(BLURS, key=lambda blur: _like_blurred(trial, places[0], blur))
    top = Top(trial, chosen, shown, [steps[i] / 5 for i in shown])
    tops = [top.climb(place, lambda done, n=n: say(0.6 + 0.3 * (n + done) / len(places))) for n, place in enumerate(places)]  # type: ignore[misc]
    like, best, up = max(tops, key=lambda t: t[0])
    # others as good as this one: the photo does not say which
    others = [changes for _, changes, at in tops if top.as_good(best, up, changes, at)]
    if like < LIKE:
        raise InputError.at(
            "marks",
            f"the photo is not like the predicted face (correlation {like:.2f})",
            "look whether it shows this blade and this side, etched, and whether the marks lie right",
        )
    errors = np.full(len(chosen), np.inf)
    errors[shown] = top.errors(best, up, grey, marks)
    say(1.0)
    line = _line(worked)
    found = []
    for i, (n, e) in enumerate(zip(chosen, errors, strict=True)):
        seen = [o[i] for o in others]
        found.append(_fitted(n, best[i], (min(seen), max(seen)), float(np.hypot(e, line if n.group == "ground" else 0.0))))
    return PhotoFit(found, planned, like, face.drawn + small.drawn)


def _like_blurred(trial: Trial, place: Sequence[float], blur: float) -> float:
    trial.face.blur = blur
    return trial.like(place)


def _line(worked: Worked) -> float:
    """How deep a line on the bevel lies is known no better than where it is seen: mm."""
    geometry = worked.blade.geometry
    low, high = geometry.curves.span()
    return geometry.blade.spine_thickness.most / 2 / (high - low) * MARKED


def _fitted(number: PhotoNumber, change: float, tops: tuple[float, float], error: float) -> FittedNumber:
    half = SPREAD * error
    told = bool(np.isfinite(half)) and 2 * half + tops[1] - tops[0] < 0.8 * (number.most - number.least)
    low, high = (tops[0] - half, tops[1] + half) if told else (number.least, number.most)
    return FittedNumber(number, change if told else 0.0, low, high, told, told and not low <= 0 <= high)


def _moved(face: PredictedFace, i: int, change: float) -> float:
    """Likeness of the planned face to the one on which number i is off by that; 0 for a design that cannot be."""
    changes = [0.0] * len(face.keys)
    changes[i] = change
    try:
        other, where = face.at(changes)
    except InputError:
        return 0.0
    return alike(face.planned, other, where & face.steel)


def _step(face: PredictedFace, i: int, number: PhotoNumber) -> float:
    """A change that turns the picture into one that is half like it: no peak lies unseen between. 0: it hardly moves it."""
    way = 1.0 if number.most >= -number.least else -1.0
    most = max(number.most, -number.least)
    if all(_moved(face, i, way * far) > UNMOVED for far in (most, most / 2, most / 5)):
        return 0.0
    # from near on: fine layers come round again, and look alike a layer further
    step = most / 150
    while step < most / 2 and _moved(face, i, way * step * GROWS) > HALF:
        step *= GROWS
    return step


def _coarse(trial: Trial, chosen: Sequence[PhotoNumber], steps: Sequence[float], say: Callable[[float], None]) -> list[list[float]]:
    """Looks over each number's range: first those of the figure by the run of its lines, whichever layer they are; then which layers.

    The best places, none within a step of another, each the foot of a top that may be the highest.
    """
    at = [0.0] * len(chosen)
    seen: dict[tuple[float, ...], float] = {}
    rounds = _rounds(chosen, steps)
    for done, (group, how, closer) in enumerate(rounds):
        best = trial.like(at, how=how)
        for values in _lattice([chosen[i] for i in group], [steps[i] * closer for i in group]):
            tried = list(at)
            for i, v in zip(group, values, strict=True):
                tried[i] = v
            like = trial.like(tried, how=how)
            if how is alike:
                seen[tuple(tried)] = like
            if like > best:
                best, at = like, tried
        say((done + 1) / len(rounds))
    wide = np.array([s or 1.0 for s in steps])
    found = [at]
    for place in sorted(seen, key=lambda p: -seen[p]):
        if len(found) == FEET or seen[place] < 0.6 * seen.get(tuple(at), 0.0):
            break
        if all(np.abs((np.array(place) - f) / wide).max() > 1.2 for f in found):
            found.append(list(place))
    return found


def _rounds(chosen: Sequence[PhotoNumber], steps: Sequence[float]) -> list[tuple[list[int], Callable[[Array, Array, Mask], float], float]]:
    """(numbers looked over together, by what, in what share of their steps)."""
    groups: dict[str, list[int]] = {}
    for i, n in enumerate(chosen):
        if steps[i]:
            # a winding is looked for with its own phase, each by itself
            groups.setdefault(n.key.partition(":")[2] if n.group == "winding" else n.group, []).append(i)
    ground, figure = groups.pop("ground", []), groups.pop("figure", [])
    out: list[tuple[list[int], Callable[[Array, Array, Mask], float], float]] = [(group, alike, 1.0) for group in groups.values()]
    if figure:
        # a figure's lines run alike over a wide way: fewer places, and the whole of its range
        out += [(figure, run_alike, 2.0), *(([i], run_alike, 0.7) for i in figure)]
    if ground:
        out.append((ground, alike, 0.7))
    return out + [([i], alike, 0.5) for i in (*figure, *ground)]


def _lattice(numbers: Sequence[PhotoNumber], steps: Sequence[float]) -> list[tuple[float, ...]]:
    """Places to look at, the planned one among them."""
    each = []
    for n, step in zip(numbers, steps, strict=True):
        low, high = int(np.ceil(n.least / step - 1e-9)), int(np.floor(n.most / step + 1e-9))
        each.append([i * step for i in range(low, high + 1)])
    places = list(product(*each))
    # nearest to the plan first, if it would take too long
    far = [sum((v / (n.most - n.least)) ** 2 for v, n in zip(p, numbers, strict=True)) for p in places]
    return [places[i] for i in np.argsort(far, kind="stable")[:MOST_PLACES]]
