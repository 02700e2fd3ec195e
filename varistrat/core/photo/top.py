"""The top of the likeness of a photo and a predicted face: climbed by least squares (Gauss and Newton's way), and how sure its place is.

How sure a number is comes from the photo itself: 16 tiles drawn again and again, and marks set a little off. See docs/physics.md#photo-fit.
"""

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.photo.face import UP, Mask, PhotoOfFace, PredictedFace, alike, tiles_of
from varistrat.core.photo.numbers import PhotoNumber

TILES = (8, 2)
"""Along and across."""
DRAWN = 400
MARKED = 0.3
"""How well a smith marks heel, tip, edge and spine, and where a line in the etch lies, mm; indicative."""
ROUNDS = 9
FAR = 1.0
"""Steps: after a longer way the face's moves are taken anew."""
SELDOM = 0.05
"""Share of drawings: a top that is the higher in fewer of them is not the true one."""
WIDE_STEPS = 3.0
"""Over how many steps the face's moves are taken where they say how sure a number is."""


class Trial:
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


def _drawn(count: int) -> Array:
    """How often each tile is drawn, (DRAWN, count); alike every time."""
    found: Array = np.random.default_rng(20_311).multinomial(count, np.full(count, 1 / count), size=DRAWN)
    return found


def _like_by_drawing(tiles: Array, a: Array, b: Array) -> Array:
    """Correlation of two pictures for each drawing of their tiles, (DRAWN,)."""
    x, y = a.astype(np.float64), b.astype(np.float64)
    count = TILES[0] * TILES[1]
    sums = np.stack([np.bincount(tiles, c, count) for c in (np.ones_like(x), x, y, x * x, y * y, x * y)], axis=1)
    n, sx, sy, xx, yy, xy = (_drawn(count) @ sums).T
    out: Array = (xy - sx * sy / n) / np.sqrt(np.maximum((xx - sx * sx / n) * (yy - sy * sy / n), 1e-12))
    return out


class Top:
    """About its top: b = k (a + sum of D_i dp_i) + what no number explains, D_i how the face moves with number i, by least squares.

    fine: a small step of each number shown; the last column is how far up the photo was marked.
    """

    def __init__(self, trial: Trial, chosen: Sequence[PhotoNumber], shown: Sequence[int], fine: Sequence[float]) -> None:
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
        on = tiles >= 0
        likes = [_like_by_drawing(tiles[on], a[on], b[on]) for a, b, _ in (here, there)]
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
