"""Grooves and dimples on a face: how deep at each place, and how much of a line across is cut away.

Depth at s from a centre, |s| <= w/2: vee D (1 - 2|s|/w); flat D; round an arc of chord w and sagitta D.
Every integral across the bar is in closed form (docs/physics.md#relief); only the one along it is tabled.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.cached import cached_property

Shape = Literal["rungs", "chevrons", "dimples"]
Profile = Literal["round", "vee", "flat"]
GUESSES = 64
"""Steps of a table of first guesses: finer ones cost more than the turns of Newton's they save."""


@dataclass(frozen=True)
class Grooves:
    """What is cut or pressed into one face of a bar `width` mm wide. Lengths mm; slant as its tangent.

    first: x of the first centre at y = 0 (dimples: of the first row); the pattern repeats every pitch along x.
    """

    shape: Shape
    profile: Profile
    pitch: float
    groove: float
    depth: float
    slant: float
    staggered: bool
    first: float
    width: float

    # --- one groove or dimple ---

    @property
    def _radius(self) -> float:
        return (self.groove**2 / 4 + self.depth**2) / (2 * self.depth)

    def _profile(self, s: Array) -> Array:
        """Depth at distance s >= 0 from a centre."""
        half = self.groove / 2
        if self.profile == "vee":
            return np.maximum(self.depth * (1 - s / half), 0)
        if self.profile == "flat":
            return np.where(s <= half, self.depth, 0.0).astype(s.dtype)
        r = self._radius
        return np.maximum(np.sqrt(np.maximum(r * r - s * s, 0)) - (r - self.depth), 0) * (s <= half)

    def _run(self, t: Array, off: Array | float = 0.0) -> Array:
        """Integral of the depth from 0 to t (odd in t) along a line that passes `off` from the centre.

        A groove is crossed square (off = 0); a dimple along a chord.
        """
        half2 = self.groove**2 / 4
        chord = np.sqrt(np.maximum(half2 - np.square(off), 0))
        t = np.clip(t, -chord, chord)
        if self.profile == "flat":
            return self.depth * t
        if self.profile == "vee":
            far = np.sqrt(np.square(off) + t * t)
            near = np.maximum(np.abs(off), 1e-12)
            return self.depth * (t - (t * far + near * near * np.arcsinh(t / near)) / self.groove)
        r = self._radius
        rho = np.sqrt(np.maximum(r * r - np.square(off), 1e-30))
        root = np.sqrt(np.maximum(rho * rho - t * t, 0))
        return 0.5 * (t * root + rho * rho * np.arcsin(np.clip(t / rho, -1, 1))) - (r - self.depth) * t

    # --- the whole face ---

    def _wrapped(self, c: Array) -> Array:
        """Signed distance along the bar to the nearest centre line."""
        s = c - self.first
        return s - self.pitch * np.rint(s * (1 / self.pitch))

    def at(self, x: Array, y: Array) -> Array:
        """Depth at (x, y), mm."""
        if self.shape != "dimples":
            lean = np.abs(y) if self.shape == "chevrons" else y
            return self._profile(np.abs(self._wrapped(x - lean * self.slant) if self.slant else self._wrapped(x)))
        row, across = self._row(y)
        return self._profile(np.hypot(self._along(x, row), across))

    def _row(self, y: Array) -> tuple[Array, Array]:
        """(which row of dimples, distance from its middle): the first row is pitch/2 from the front edge."""
        v = (y + self.width / 2) * (1 / self.pitch)
        row = np.floor(v)
        return row, (v - row - 0.5) * self.pitch

    def _along(self, x: Array, row: Array) -> Array:
        if not self.staggered:
            return self._wrapped(x)
        # a remainder by division takes ten times as long
        odd = row - 2 * np.floor(row * 0.5)
        return self._wrapped(x - odd * (self.pitch / 2))

    def _along_run(self, c: Array) -> Array:
        """Integral of a groove's depth along its coordinate from a fixed place to c."""
        v = (c - self.first) * (1 / self.pitch) + 0.5
        k = np.floor(v)
        whole = 2 * self._run(np.asarray(self.groove / 2))
        return k * whole + self._run((v - k - 0.5) * self.pitch)

    def chords(self, x: Array) -> Array | None:
        """What even and odd rows of dimples each take off a line across at x, mm2, (2, *x.shape); None for grooves."""
        if self.shape != "dimples":
            return None
        zero, half = np.zeros_like(x), np.full_like(x, self.groove / 2)
        return np.stack([2 * self._run(half, self._along(x, zero + odd)) for odd in (0.0, 1.0)])

    def across(self, x: Array, y: Array, chords: Array | None = None) -> Array:
        """Integral of the depth over y from the front edge to y, at x: mm2; chords: those of x, where they are at hand."""
        w = self.width / 2
        x = x - self.pitch * np.floor(x * (1 / self.pitch))  # kept small, or float32 would lose it
        if self.shape == "dimples":
            return self._across_dimples(x, y, self.chords(x) if chords is None else chords)  # type: ignore[arg-type]
        k = self.slant
        if abs(k) < 1e-9:
            return self.at(x, y) * (y + w)
        if self.shape == "rungs":
            return (self._along_run(x + w * k) - self._along_run(x - y * k)) * (1 / k)
        edge, here = self._along_run(x - w * k), self._along_run(x - np.abs(y) * k)
        out = np.where(y <= 0, here - edge, 2 * (self._along_run(x) - edge) - (here - edge)) * (1 / k)
        return np.asarray(out, dtype=y.dtype)

    def _across_dimples(self, x: Array, y: Array, chords: Array) -> Array:
        row, off = self._row(y)
        odd_rows = np.floor(row / 2)
        out = chords[0] * (row - odd_rows) + chords[1] * odd_rows
        mine = self._along(x, row)
        out += self._run(np.full_like(off, self.groove / 2), mine) + self._run(off, mine)
        return out


@dataclass(frozen=True)
class Relief:
    """Grooves on the top and (or) the bottom of a bar; h = (T - d_t - d_b)/T is the share of the height left."""

    top: Grooves
    bottom: Grooves | None
    thickness: float

    @property
    def straight(self) -> bool:
        """Whether every line across the bar is cut alike, so that nothing moves across."""
        return self.top.shape == "rungs" and not self.top.slant

    def left(self, x: Array, y: Array) -> tuple[Array, Array]:
        """(h, depth of the bottom's groove) at (x, y)."""
        low = self.bottom.at(x, y) if self.bottom else np.zeros_like(x)
        return 1 - (self.top.at(x, y) + low) * (1 / self.thickness), low

    def across(self, x: Array, y: Array, chords: Sequence[Array | None] = (None, None)) -> Array:
        """Integral of h over y from the front edge to y, mm; chords: of top and bottom at x, where they are at hand."""
        cut = self.top.across(x, y, chords[0])
        if self.bottom:
            cut = cut + self.bottom.across(x, y, chords[1])
        return y + self.top.width / 2 - cut * (1 / self.thickness)

    def mean(self, x: Array) -> Array:
        """H(x): the mean of h over the width."""
        return self.across(x, np.full_like(x, self.top.width / 2)) * (1 / self.top.width)

    @cached_property
    def _table(self) -> tuple[Array, Array]:
        """Knots along one pitch and the integral of H up to each: exact for straight rungs, else by the midpoint rule."""
        knots = np.linspace(0, self.top.pitch, 8193)
        if self.straight:
            cut = sum(g._along_run(knots) - g._along_run(knots[:1]) for g in (self.top, self.bottom) if g)
            return knots, knots - cut / self.thickness
        mids = (knots[1:] + knots[:-1]) / 2
        return knots, np.concatenate([[0.0], np.cumsum(self.mean(mids) * np.diff(knots))])

    def run(self, x: Array) -> Array:
        """Integral of H from 0 to x."""
        knots, sums = self._table
        k = np.floor(x * (1 / self.top.pitch))
        return np.asarray(k * sums[-1] + np.interp(x - k * self.top.pitch, knots, sums), dtype=np.asarray(x).dtype)

    def back(self, run: Array) -> Array:
        """x where the integral of H from 0 is `run`."""
        knots, sums = self._table
        k = np.floor(run * (1 / sums[-1]))
        return np.asarray(k * self.top.pitch + np.interp(run - k * sums[-1], sums, knots), dtype=np.asarray(run).dtype)

    @cached_property
    def _start(self) -> Array:
        """First guesses of y on a grid of x over a pitch (GUESSES + 1) and of shares of the width (as many)."""
        x = np.linspace(0, self.top.pitch, GUESSES + 1, dtype=np.float32)
        y = np.linspace(-0.5, 0.5, 4 * GUESSES + 1, dtype=np.float32) * np.float32(self.top.width)
        at_x, at_y = np.broadcast_arrays(x[:, None], y[None, :])
        sums = self.across(at_x, at_y)
        shares = np.linspace(0, 1, GUESSES + 1)
        return np.array([np.interp(shares, row / row[-1], y) for row in sums], np.float32)

    def y_of(self, x: Array, share: Array) -> Array:
        """y where `share` of the steel at x lies in front of it: guess from the table, then Newton kept in brackets."""
        w = self.top.width
        # along a line across they stay what they are, whatever y is tried
        chords = [g.chords(x) if g else None for g in (self.top, self.bottom)]
        target = share * self.across(x, np.full_like(x, w / 2), chords)
        u = x * (1 / self.top.pitch)
        u = (u - np.floor(u)) * GUESSES
        v = np.clip(share, 0, 1) * GUESSES
        i, j = np.minimum(u.astype(int), GUESSES - 1), np.minimum(v.astype(int), GUESSES - 1)
        u, v, s = u - i, v - j, self._start
        y = (s[i, j] * (1 - v) + s[i, j + 1] * v) * (1 - u) + (s[i + 1, j] * (1 - v) + s[i + 1, j + 1] * v) * u
        y = y.astype(x.dtype)
        # h is at least this, so that a miss tells how far off y can be at most
        least = 1 - (self.top.depth + (self.bottom.depth if self.bottom else 0)) / self.thickness
        near, rounds = (1e-5, 6) if x.dtype == np.float32 else (1e-12, 12)
        miss = self.across(x, y, chords) - target
        left = np.flatnonzero(np.abs(miss) >= near)
        # most of the guesses are good: only the others go on
        x, at, target, miss = x[left], y[left], target[left], miss[left]
        chords = [None if c is None else c[:, left] for c in chords]
        low, high = np.full_like(at, -w / 2), np.full_like(at, w / 2)
        for _ in range(rounds):
            if not left.size:
                break
            far = at - miss * (1 / least)
            low, high = np.maximum(low, np.minimum(at, far)), np.minimum(high, np.maximum(at, far))
            new = at - miss / self.left(x, at)[0]
            at = np.where((new >= low) & (new <= high), new, (low + high) / 2)
            y[left] = at
            miss = self.across(x, at, chords) - target
            go = np.abs(miss) >= near
            left, x, at, target, miss, low, high = (v[go] for v in (left, x, at, target, miss, low, high))
            chords = [None if c is None else c[:, go] for c in chords]
        return y
