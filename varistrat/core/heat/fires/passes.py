"""A draw pass by pass under press or rolls: what is set, when the bar is turned, where it goes back into the fire.
Derived in docs/physics.md#pass-by-pass."""

from dataclasses import dataclass
from math import ceil, sqrt
from typing import Literal

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.spread import forging_spread, rolling_spread
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import BLOCK_LEAST, BLOCK_STEP, PASS_SHARE, PRESS_DIE, ROLL_DIAMETER, ROLL_PASS

Laid = Literal["flat", "edge", "along"]
"""Flat: thickness comes down. Edge: turned up on its edge, width comes down. Along: flat, the die along the bar, so that it widens."""

THIN = 12.0
"""mm below which a pass takes a smaller share: a thin bar is cold sooner, and laps."""
LEAST_SHARE = 0.5
"""Of the share of a thick bar, at the least."""
NEAR = 0.012
"""A size is reached within this share of it."""
STOUT = 3.0
"""Width over thickness up to which a bar is worked on its edge: a thinner one folds over."""
TURN = 2.0
"""Width over thickness at which it is turned up on edge, where its width must come down."""
LEEWAY = 0.06
"""It is turned for so much of its width, not for less."""
MOST_PASSES = 400


@dataclass(frozen=True)
class Pass:
    """One pass over the whole bar, and its size after it, mm; block: the stop block to set, None under rolls; heat: in which of the
    heats that a place sees, from 1."""

    laid: Laid
    width: float
    thickness: float
    block: float | None
    heat: int


def share_of_pass(height: float, numbers: Numbers = USUAL) -> float:
    """Of what is there, what a pass takes off: the shop's share, less of it below THIN."""
    return numbers.of(PASS_SHARE) / 100 * max(LEAST_SHARE, min(1.0, height / THIN))


def block_for(height: float, numbers: Numbers = USUAL) -> float:
    """The stop block of the shop's set next above a height, mm."""
    step = numbers.of(BLOCK_STEP)
    return max(numbers.of(BLOCK_LEAST), ceil(height / step - 1e-6) * step)


def passes_of(before: Bar, after: Bar, tool: str, heats: int, numbers: Numbers = USUAL) -> tuple[Pass, ...]:
    """From one section to the other; nothing under hammers, where blows are not set, nor where nothing comes down."""
    if tool not in ("press", "rolls"):
        return ()
    worked = _worked(before, after, tool, numbers)
    # thinner at every pass, so cold sooner: each takes its share of a heat
    wears = [1 / min(w, t) for _, w, t in worked]
    out, gone = [], 0.0
    for (laid, w, t), wear in zip(worked, wears, strict=True):
        heat = 1 + int(max(heats, 1) * gone / sum(wears))
        out.append(Pass(laid, w, t, block_for(w if laid == "edge" else t, numbers) if tool == "press" else None, heat))
        gone += wear
    return tuple(out)


def _worked(before: Bar, after: Bar, tool: str, numbers: Numbers) -> list[tuple[Laid, float, float]]:
    w, t, wide, thick = before.width, before.thickness, after.width, after.thickness
    out: list[tuple[Laid, float, float]] = []
    widened = _widened(w, t, wide, thick, numbers) if tool == "press" else t
    while t > widened * (1 + NEAR):
        lower = max(widened, t * (1 - share_of_pass(t, numbers)))
        w, t = w * t / lower, lower
        out.append(("along", w, t))
    # on edge while the bar is stout, so narrow that the flat passes left spread it to its width
    stout = min(t, max(thick, wide / STOUT))
    narrow = wide * (thick / stout) ** _spread(wide, stout, tool, numbers)
    for least_w, least_t, turn in ((narrow, stout, TURN), (2 * wide, thick, 0.0), (wide, thick, 0.0)):
        on_edge = False
        while len(out) < MOST_PASSES:
            over_w, over_t = w > least_w * (1 + NEAR), t > least_t * (1 + NEAR)
            if not over_w and not over_t:
                break
            # in runs, not to and fro: flat until it is broad, on edge until it is square or narrow enough
            on_edge = over_w and (not over_t or (w > t if on_edge else w >= turn * t and w > least_w * (1 + LEEWAY)))
            if on_edge:
                lower = max(least_w, w * (1 - _share(w, tool, numbers)))
                w, t = lower, t * (w / lower) ** _spread(t, w, tool, numbers)
                out.append(("edge", w, t))
            else:
                lower = max(least_t, t * (1 - _share(t, tool, numbers)))
                w, t = w * (t / lower) ** _spread(w, t, tool, numbers), lower
                out.append(("flat", w, t))
    if out and abs(w / wide - 1) <= 2 * NEAR:
        out[-1] = (out[-1][0], wide, thick)
    return out


def _share(height: float, tool: str, numbers: Numbers) -> float:
    share = share_of_pass(height, numbers)
    return min(share, numbers.of(ROLL_PASS) / height) if tool == "rolls" else share


def _spread(free: float, pressed: float, tool: str, numbers: Numbers) -> float:
    if tool == "rolls":
        return rolling_spread(free, pressed, numbers.of(ROLL_DIAMETER))
    return forging_spread(numbers.of(PRESS_DIE), free)


def _widened(w: float, t: float, wide: float, thick: float, numbers: Numbers) -> float:
    """Thickness down to which it is widened first, the die along the bar and its length kept; as it is, where it spreads enough.

    From w t = w1 t1 and wide = w1 (t1/thick)^s: t1^(1 - s) = w t / (wide thick^s).
    """
    s = forging_spread(numbers.of(PRESS_DIE), sqrt(w * wide))
    if t <= thick or w * (t / thick) ** s >= wide * (1 - NEAR):
        return t
    return float(min(t, max(thick, (w * t / (wide * thick**s)) ** (1 / (1 - s)))))
