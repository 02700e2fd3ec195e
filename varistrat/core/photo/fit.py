"""How a blade was made, read off a photo of its face: the numbers for which the prediction looks most like it.

Likeness is the zero-mean normalised cross-correlation of the evened photo with the evened prediction. It is found by a coarse look over
each number's range and, near its top, by least squares (Gauss and Newton's way). How sure a number is comes from the photo itself: 16
tiles drawn again and again, and marks set a little off. Derived in docs/physics.md#photo-fit.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Side
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.photo.face import UP, Mask, PhotoOfFace, PredictedFace, alike, run_alike, tiles_of
from varistrat.core.photo.numbers import PhotoNumber, numbers_of, usual_of

WIDTH, COARSE = 320, 160
"""px along the blade."""
TILES = (8, 2)
"""Along and across."""
DRAWN = 400
SPREAD = 1.753
"""Student's t with 15 degrees, 5 % beyond it on each side, for ranges that hold 9 in 10: sixteen tiles say how far they scatter, and
no better."""
MARKED = 0.3
"""How well a smith marks heel, tip, edge and spine, and where a line in the etch lies, mm; indicative."""
LIKE = 0.45
"""Below this correlation nothing is said: the photo is of another blade, marked wrongly, or not found again."""
LEAST_CONTRAST = 0.02
CLEAR = 0.6
"""The coarse size is used where it keeps so much of the contrast."""
HALF, GROWS = 0.55, 1.6
UNMOVED = 0.985
"""A number that leaves the picture so like the planned one cannot be read off it."""
MOST_PLACES = 130
ROUNDS = 9
BLURS = (0.0, 0.4, 0.7, 1.0, 1.4)
"""px: how sharp the photo may be. A sharper prediction would follow it too stiffly, and seem surer than it is."""
FEET = 3
"""Tops that are climbed."""
SELDOM = 0.05
FAR = 1.0
WIDE_STEPS = 3.0


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


class _Trial:
    """One photo against the face at one size."""

    def __init__(self, face: PredictedFace, photo: PhotoOfFace, cancelled: Callable[[], bool] | None) -> None:
        self.face, self.photo, self.cancelled = face, photo, cancelled

    def pair(self, changes: Sequence[float], up: float) -> tuple[Array, Array, Mask]:
        """The face with these changes, the photo, and where both are. Raises InputError for a design that cannot be."""
        if self.cancelled and self.cancelled():
            raise Cancelled
        a, steel = self.face.at(changes)
        b, seen = self.photo.at(up)
        return a, b, steel & seen

    def like(self, changes: Sequence[float], up: float = 0.0, how: Callable[[Array, Array, Mask], float] = alike) -> float:
        """Correlation with the photo; -1 for a design that cannot be."""
        try:
            return how(*self.pair(changes, up))
        except InputError:
            return -1.0


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
    trial = _Trial(face, PhotoOfFace(grey, face, seen_by), cancelled)
    small = PredictedFace(worked, side, names, COARSE)
    rough = _Trial(small, PhotoOfFace(grey, small, seen_by), cancelled) if small.contrast > CLEAR * face.contrast else trial
    steps = [_step(rough.face, i, n) for i, n in enumerate(chosen)]
    shown = [i for i, step in enumerate(steps) if step]
    planned = trial.like([0.0] * len(chosen))
    places = _coarse(rough, chosen, steps, lambda done: say(0.6 * done))
    face.blur = max(BLURS, key=lambda blur: _like_blurred(trial, places[0], blur))
    top = _Top(trial, chosen, shown, [steps[i] / 5 for i in shown])
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


def _like_blurred(trial: _Trial, place: Sequence[float], blur: float) -> float:
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


def _coarse(trial: _Trial, chosen: Sequence[PhotoNumber], steps: Sequence[float], say: Callable[[float], None]) -> list[list[float]]:
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


def _drawn(count: int) -> Array:
    """How often each tile is drawn, (DRAWN, count); alike every time."""
    found: Array = np.random.default_rng(20_311).multinomial(count, np.full(count, 1 / count), size=DRAWN)
    return found


class _Top:
    """About its top: b = k (a + sum of D_i dp_i) + what no number explains, D_i how the face moves with number i, by least squares.

    fine: a small step of each number shown; the last column is how far up the photo was marked.
    """

    def __init__(self, trial: _Trial, chosen: Sequence[PhotoNumber], shown: Sequence[int], fine: Sequence[float]) -> None:
        self.trial, self.chosen, self.shown = trial, chosen, shown
        self.fine = np.array([*fine, 0.15])
        low, high = zip(*((chosen[i].least, chosen[i].most) for i in shown), strict=True) if shown else ((), ())
        self.low, self.high = np.array([*low, -UP]), np.array([*high, UP])

    def _changes(self, at: Array) -> list[float]:
        out = [0.0] * len(self.chosen)
        for i, v in zip(self.shown, at, strict=False):
            out[i] = float(v)
        return out

    def _linear(self, at: Array, wide: float = 1.0) -> tuple[Array, Array, Array, Mask]:
        """(a, b, D in steps of `fine`, where); wide: over how many such steps the moves are taken."""
        a, b, where = self.trial.pair(self._changes(at), float(at[-1]))
        columns = []
        for i in range(len(at) - 1):
            ends = []
            for way in (1, -1):
                off = at.copy()
                off[i] += way * self.fine[i] * wide
                try:
                    ends.append(self.trial.face.at(self._changes(off))[0])
                except InputError:
                    ends.append(a)
            columns.append((ends[0] - ends[1]) / (2 * wide))
        above, below = (self.trial.photo.at(float(at[-1]) + way * self.fine[-1])[0] for way in (1, -1))
        columns.append((below - above) / 2)
        return a, b, np.stack([c[where] for c in columns], axis=1).astype(np.float64), where

    def climb(self, near: Sequence[float], say: Callable[[float], None]) -> tuple[float, list[float], float]:
        """From near on to the top: (likeness, changes, how far up); damped as Levenberg and Marquardt do."""
        at = np.array([*(near[i] for i in self.shown), 0.0])
        best, damping = self.trial.like(self._changes(at), 0.0), 0.01
        stale, moves, where = True, np.empty((0, len(at))), np.empty(0, bool)
        for done in range(ROUNDS):
            say(done / ROUNDS)
            if stale:
                _, _, moves, where = self._linear(at)
                moves -= moves.mean(axis=0)
            a, b, _ = self.trial.pair(self._changes(at), float(at[-1]))
            x, y = a[where].astype(np.float64), b[where].astype(np.float64)
            k = max(float((x * y).sum() / (x * x).sum()), 1e-6)
            down, slope = k * moves.T @ moves, moves.T @ (y - k * x)
            gained, was = 0.0, at
            for _ in range(4):
                step = np.linalg.solve(down + damping * np.diag(np.diag(down) + 1e-9), slope)
                tried = np.clip(at + np.clip(step, -4, 4) * self.fine, self.low, self.high)
                like = self.trial.like(self._changes(tried), float(tried[-1]))
                if like > best:
                    gained, at, best, damping = like - best, tried, like, damping / 4
                    break
                damping *= 8
            # a short step on: the face moves there as it does here
            far = float(np.abs((at - was) / self.fine).max())
            if (gained < 1e-5 and not stale) or gained == 0.0:
                break
            stale = far > FAR
        return best, self._changes(at), float(at[-1])

    def as_good(self, best: Sequence[float], up: float, other: Sequence[float], other_up: float) -> bool:
        """Whether another top may be the true one: of the tiles drawn again and again, it is the higher more than once in twenty times."""
        if list(best) == list(other):
            return True
        here, there = self.trial.pair(best, up), self.trial.pair(other, other_up)
        tiles = tiles_of(here[2] & there[2], *TILES)
        count = TILES[0] * TILES[1]
        drawn = _drawn(count)
        likes = []
        for a, b, _ in (here, there):
            on = tiles >= 0
            t, x, y = tiles[on], a[on].astype(np.float64), b[on].astype(np.float64)
            sums = np.stack([np.bincount(t, c, count) for c in (np.ones_like(x), x, y, x * x, y * y, x * y)], axis=1)
            n, sx, sy, xx, yy, xy = (drawn @ sums).T
            likes.append((xy - sx * sy / n) / np.sqrt(np.maximum((xx - sx * sx / n) * (yy - sy * sy / n), 1e-12)))
        return bool(np.mean(likes[1] > likes[0]) > SELDOM)

    def errors(self, best: Sequence[float], up: float, grey: Array, marks: Sequence[Mark]) -> Array:
        """One standard deviation of each number shown: how far the top moves when the tiles are drawn again and again, and when each mark
        is set MARKED off."""
        at = np.array([*(best[i] for i in self.shown), up])
        # as wide as the top is: what only flickers from pixel to pixel would make it look surer
        a, b, moves, where = self._linear(at, WIDE_STEPS)
        x, y = a[where].astype(np.float64), b[where].astype(np.float64)
        k = max(float(x @ y / (x @ x)), 1e-6)
        tiles = tiles_of(where, *TILES)[where]
        count = TILES[0] * TILES[1]
        moves = moves - moves.mean(axis=0)
        left = y - k * x
        each = [tiles == t for t in range(count)]
        down = np.stack([k * moves[t].T @ moves[t] for t in each])
        slope = np.stack([moves[t].T @ left[t] for t in each])
        drawn = _drawn(count)
        whole = down.sum(axis=0)
        weak = 1e-9 * np.trace(whole) * np.eye(len(at))
        inverse = np.linalg.inv(whole + weak)
        tops = np.linalg.solve(np.tensordot(drawn, down, 1) + weak, (drawn @ (slope - slope.mean(axis=0)))[..., None])[..., 0]
        moved = np.var(tops, axis=0)
        for mark in marks:
            for way in ({"x": mark.x + MARKED}, {"y": mark.y + MARKED}):
                off = PhotoOfFace(grey, self.trial.face, sight([replace(m, **way) if m is mark else m for m in marks]))
                moved = moved + (inverse @ (moves.T @ (off.at(up)[0][where] - y))) ** 2
        error: Array = np.sqrt(moved) * self.fine
        return error[:-1]
