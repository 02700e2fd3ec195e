"""The chance of coming up short: every loss real over planned log-normal, drawn together, carried back through the tree.

In volumes a step backwards is a sum: what goes in = what comes out + what is lost. Losses along the bar (scale, grinding, relief) go
with its length, so with what comes out; those of a cut or an end stand by themselves. All draws go through at once. docs/physics.md#risk.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.forged import Forged
from varistrat.core.errors import InputError
from varistrat.core.stock.backwards import WELD_ENDS, Address, Wanted, solve, stage_losses
from varistrat.core.stock.need import Allowance, Need

SPREAD: dict[str, float] = {"scale": 1.5, "grind": 1.35, WELD_ENDS: 1.6, "kerf": 1.15, "section": 1.03}
"""Geometric standard deviation of real over planned, by cause; indicative, until the shop's own log says better."""
FIXED = {"kerf", "ends", "wedges", "offcut", WELD_ENDS}
"""Losses that a longer bar has no more of."""
DRAWS, SEED = 4096, 7
SLICES = 32
MOST_RESERVE, HALVINGS = 16.0, 14

Draws = NDArray[np.float64]


@dataclass(frozen=True)
class Risk:
    """short: chance with the reserve that is planned; reserve: share of the rest at a chance of 1 in 20 and of 1 in 100, None when no
    reserve does it; matters: which cause moves it, as shares of the variance, largest first."""

    short: float
    reserve_1_in_20: float | None
    reserve_1_in_100: float | None
    matters: tuple[tuple[str, float], ...]


def ratios(n: int = DRAWS, seed: int = SEED) -> dict[str, Draws]:
    """Real over planned of every cause, `n` scrambled Sobol draws (a power of two)."""
    from scipy.special import ndtri
    from scipy.stats import qmc

    u = qmc.Sobol(len(SPREAD), seed=seed).random(n)
    z = ndtri(np.clip(u, 1e-12, 1 - 1e-12))
    return {cause: np.exp(np.log(spread) * z[:, i]) for i, (cause, spread) in enumerate(SPREAD.items())}


def needed(wanted: list[Wanted], last: Draws, drawn: dict[str, Draws]) -> dict[Address, Draws]:
    """mm3 that each pile must hold in every draw; `last`: mm3 of the finished bar in every draw. `wanted`: the tree as planned."""
    by_address = {w.address: w for w in wanted}
    asked: dict[Address, Draws] = {(): last}
    piles: dict[Address, Draws] = {}
    for w in wanted:
        volume, planned = asked[w.address], w.finished * w.forged.bar.section.area
        for lost in reversed(stage_losses(w)):
            volume, planned = _back(volume, planned, lost, drawn)
        bars = [by_address[(*w.address, i)] for i in range(len(w.forged.children))]
        if not bars:
            piles[w.address] = volume
            continue
        more, longer = volume / planned, _as_long(w, bars)
        for bar in bars:
            area = bar.forged.bar.section.area
            good = (bar.finished - bar.ends) * area
            asked[bar.address] = (good * more if bar.address[-1] in longer else good) + bar.ends * area * drawn[WELD_ENDS]
    return piles


def _as_long(w: Wanted, bars: list[Wanted]) -> set[int]:
    """Which of its bars are longer when it is: not a plug that stands upright."""
    one, two = (w.forged.start.lengths(length, w.forged.child_bars) for length in (w.begun, 2 * w.begun))
    return {i for i in range(len(bars)) if two[i] > one[i]}


def _back(volume: Draws, planned: float, lost: dict[str, float], drawn: dict[str, Draws]) -> tuple[Draws, float]:
    before = volume.copy()
    for cause, mm3 in lost.items():
        real = mm3 * drawn[cause] if cause in drawn else mm3
        before += real if cause in FIXED else real * (volume / planned)
    return before, planned + sum(lost.values())


@dataclass(frozen=True)
class _Drawn:
    """The tree drawn often: rest, mm that the finished bar must have without reserve; asked: mm3 of every pile in every draw."""

    forged: Forged
    allowed: Allowance
    rest: float
    asked: dict[Address, Draws]

    @classmethod
    def of(cls, forged: Forged, need: Need, allowed: Allowance, drawn: dict[str, Draws]) -> "_Drawn":
        rest = need.length - need.reserve
        last = (need.occupied + need.hold + need.ends * drawn[WELD_ENDS]) * forged.bar.section.area * drawn["section"]
        return cls(forged, allowed, rest, needed(solve(forged, rest, allowed), last, drawn))

    def chance(self, reserve: float) -> float:
        """Of coming up short: of any pile that is too small."""
        have = _held(solve(self.forged, self.rest * (1 + reserve), self.allowed))
        return float(np.any([asked > have[a] for a, asked in self.asked.items()], axis=0).mean())

    def enough(self, p: float) -> float | None:
        """The least reserve with no more than this chance; pieces come in whole ones, so it is looked for, not reckoned."""
        low, high = 0.0, 1.0
        try:
            if self.chance(0.0) <= p:
                return 0.0
            while self.chance(high) > p:
                low, high = high, 2 * high
                if high > MOST_RESERVE:
                    return None
            for _ in range(HALVINGS):
                middle = (low + high) / 2
                low, high = (middle, high) if self.chance(middle) > p else (low, middle)
        except InputError:
            return None
        return high


def risk_of(forged: Forged, need: Need, allowed: Allowance, n: int = DRAWS, seed: int = SEED) -> Risk:
    """Of the piles as they must be for `need`, its reserve within. Raises InputError as `solve` does."""
    drawn = ratios(n, seed)
    tree = _Drawn.of(forged, need, allowed, drawn)
    without = _held(solve(forged, tree.rest, allowed))
    worst = np.max([asked / without[a] for a, asked in tree.asked.items()], axis=0)
    return Risk(tree.chance(need.reserve / tree.rest), tree.enough(0.05), tree.enough(0.01), _matters(worst, drawn))


@dataclass(frozen=True)
class RiskCurve:
    """reserve: shares; length: mm of the longest pile with each; short: chance of coming up short with it; now: with the reserve that is
    planned; sure: reserves for 1 in 20 and 1 in 100; matters: as in `Risk`."""

    reserve: list[float]
    length: list[float]
    short: list[float]
    planned: float
    now: float
    sure: tuple[float | None, float | None]
    matters: list[tuple[str, float]]


CURVE_POINTS, CURVE_LEAST, CURVE_MOST = 31, 0.3, 3.0
"""Of a curve, and up to which reserve it goes at the least and at the most."""


def curve_of(forged: Forged, need: Need, allowed: Allowance) -> RiskCurve:
    """The chance against the reserve, from none to more than is ever planned. Raises InputError as `solve` does."""
    drawn = ratios()
    tree = _Drawn.of(forged, need, allowed, drawn)
    without = _held(solve(forged, tree.rest, allowed))
    worst = np.max([asked / without[a] for a, asked in tree.asked.items()], axis=0)
    sure = tree.enough(0.05), tree.enough(0.01)
    planned = need.reserve / tree.rest
    most = min(CURVE_MOST, max(CURVE_LEAST, 1.25 * (sure[0] or 0.0), 1.25 * planned))
    shares = [float(r) for r in np.linspace(0.0, most, CURVE_POINTS)]
    chances, lengths = [], []
    for share in shares:
        try:
            wanted = solve(forged, tree.rest * (1 + share), allowed)
        except InputError:
            break
        chances.append(tree.chance(share))
        lengths.append(max(float(w.begun) for w in wanted if not w.forged.children))
    return RiskCurve(shares[: len(chances)], lengths, chances, planned, tree.chance(planned), sure, list(_matters(worst, drawn)))


def reserve_for(forged: Forged, need: Need, allowed: Allowance, chance: float) -> float:
    """The reserve, a share, with which one comes up short no oftener than this. Raises InputError when none does it."""
    if not 0.001 <= chance < 1:
        raise InputError.at("short", f"{chance:g} is no chance to plan for", "give 0.001 to 0.99, like 0.05 for 1 in 20")
    found = _Drawn.of(forged, need, allowed, ratios()).enough(chance)
    if found is None:
        raise InputError.at("short", f"no reserve makes it so sure as {chance:g}", "allow for a greater chance, or for less to be lost")
    return found


def _held(wanted: list[Wanted]) -> dict[Address, float]:
    """mm3 of each pile."""
    return {w.address: w.begun * w.forged.first.section.area for w in wanted if not w.forged.children}


def _matters(worst: Draws, drawn: dict[str, Draws]) -> tuple[tuple[str, float], ...]:
    """First-order shares: the variance of slice means over that of all, along each cause."""
    whole = float(worst.var())
    found = []
    for cause, ratio in drawn.items():
        slices = np.array_split(worst[np.argsort(ratio)], SLICES)
        found.append((cause, float(np.var([s.mean() for s in slices])) / whole if whole > 1e-18 else 0.0))
    return tuple(sorted(found, key=lambda f: -f[1]))
