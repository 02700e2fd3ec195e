"""Where and how much to take off which side, so that the core line comes into the band.

Per station and side a removal that runs from d_e at the edge to d_s at the spine; the least of it that brings the line
into the band, leaves edge and spine thick enough, and is smooth along the blade: a linear programme. Grinding a face
only raises its line; a line too high stays so, and is told. Derived in docs/physics.md#correction.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES, Side
from varistrat.core.blade.model import Blade, Correction, Errors, Taper
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.study.inference import Inferred, line_of

MISS, ROUGH = 200.0, 4.0
"""What a line out of its band weighs, per mm of steel it lacks, and a kink in the removal, per mm, against a mm taken off."""
PARTS = ("right_edge", "right_spine", "left_edge", "left_spine")
TOLERANCE = 1e-3
WELL = 0.6
"""Left and right are brought together to this share of the difference allowed: the hand is not that sure."""
OUT = 0.02
"""A line this near its band is in it, mm."""


@dataclass(frozen=True)
class Unmet:
    """A line that no grinding brings into the band: mm out (vertical), and why."""

    x: float
    side: Side
    kind: Literal["low", "high"]
    by: float


@dataclass(frozen=True)
class Plan:
    """Removals (mm) at stations x, the lines before and after, what stays out, and what is left.

    shorten: how much to take off the edge itself to bring the highest line down into the band; 0: none needed.
    """

    x: list[float]
    removal: dict[str, list[float]]
    before: dict[str, list[float]]
    after: dict[str, list[float]]
    wanted: tuple[list[float], list[float]]
    unmet: list[Unmet]
    edge_left: list[float]
    spine_left: list[float]
    shorten: float
    blade: Blade
    """The blade as it would then be: what was inferred as its errors, and the removals as its correction."""

    @property
    def most(self) -> float:
        """The most taken off anywhere, mm."""
        return max(max(v) for v in self.removal.values())


def correct(found: Inferred, aim: Aim) -> Plan:
    """The stations are those of `found` that are judged; beyond them the removal stays as at the last one."""
    lam = found.lamina
    band = Band.of(aim, lam.geometry)
    keep = band.judged(lam.x)
    if keep.sum() < 2:
        keep = np.ones_like(keep)
    x, h, height = lam.x[keep], lam.h[keep], lam.height[keep]
    levels = {s: found.levels(s)[keep] for s in SIDES}
    before = {s: line_of(levels[s], h) for s in SIDES}
    high = np.minimum(band.high, 0.98 * height)
    low = np.minimum(band.low, high)
    # the lower side is brought up to well within the difference of the higher one, as far as the band allows
    low = np.clip(np.maximum(before["right"], before["left"]) - WELL * band.difference, low, high)
    whole = _thickness(found)[keep]
    d = _solve(levels, h, height, low, high, whole[:, 0] - aim.edge_least, whole[:, -1] - aim.spine_least)
    r = h / height[:, None]
    after, taken = {}, {}
    for s in SIDES:
        e, sp = d[f"{s}_edge"], d[f"{s}_spine"]
        taken[s] = e[:, None] * (1 - r) + sp[:, None] * r
        after[s] = line_of(levels[s] + taken[s], h)
    unmet: list[Unmet] = []
    for s in SIDES:
        for j in range(len(x)):
            if band.low - after[s][j] > OUT:
                unmet.append(Unmet(float(x[j]), s, "low", float(band.low - after[s][j])))
            elif after[s][j] - high[j] > OUT:
                unmet.append(Unmet(float(x[j]), s, "high", float(after[s][j] - high[j])))
    shorten = max([u.by for u in unmet if u.kind == "high"], default=0.0)
    removal = {k: [round(float(v), 3) for v in d[k]] for k in PARTS}
    return Plan(
        x.tolist(),
        removal,
        {s: before[s].tolist() for s in SIDES},
        {s: after[s].tolist() for s in SIDES},
        (low.tolist(), high.tolist()),
        unmet,
        (whole[:, 0] - d["right_edge"] - d["left_edge"]).tolist(),
        (whole[:, -1] - d["right_spine"] - d["left_spine"]).tolist(),
        shorten,
        _blade(found, x, removal),
    )


def _thickness(found: Inferred) -> Array:
    """Whole thickness (stations, heights) of the most likely blade."""
    p, lam = found.lamina.profiles, found.lamina
    r = lam.h / lam.height[:, None]
    out: Array = p.right - p.left + found.rest["edge"] * (p.edge_right + p.edge_left) + found.rest["upper"] * r
    return out


def _solve(levels: dict[Side, Array], h: Array, height: Array, low: Array, high: Array, edge: Array, spine: Array) -> dict[str, Array]:
    """Least removals. Variables: the four parts at n stations; too low and too high per side; the size of each kink."""
    n = len(height)
    parts, slack, kinks = 4 * n, 4 * n, 4 * max(n - 2, 0)
    rows: list[tuple[list[int], list[float], float]] = []

    def at(part: int, j: int) -> int:
        return part * n + j

    for k, side in enumerate(SIDES):
        for j in range(n):
            for kind, height_at, sign in ((0, low[j], -1.0), (1, high[j], 1.0)):
                g = float(np.interp(height_at, h[j], levels[side][j]))
                r = height_at / height[j]
                # sign * (G + d) <= slack
                rows.append(
                    (
                        [at(2 * k, j), at(2 * k + 1, j), parts + (2 * k + kind) * n + j],
                        [sign * (1 - r), sign * r, -1.0],
                        -sign * g,
                    )
                )
    for j in range(n):
        rows.append(([at(0, j), at(2, j)], [1.0, 1.0], max(float(edge[j]), 0.0)))
        rows.append(([at(1, j), at(3, j)], [1.0, 1.0], max(float(spine[j]), 0.0)))
    for part in range(4):
        for j in range(1, n - 1):
            kink = parts + slack + part * (n - 2) + j - 1
            for sign in (1.0, -1.0):
                rows.append(([at(part, j - 1), at(part, j), at(part, j + 1), kink], [sign, -2 * sign, sign, -1.0], 0.0))
    cost = np.concatenate([np.ones(parts), np.full(slack, MISS), np.full(kinks, ROUGH)])
    data, i, cols = [], [], []
    for row, (c, v, _) in enumerate(rows):
        i += [row] * len(c)
        cols += c
        data += v
    from scipy.optimize import linprog
    from scipy.sparse import csr_matrix

    matrix = csr_matrix((data, (i, cols)), shape=(len(rows), len(cost)))
    answer = linprog(cost, A_ub=matrix, b_ub=[b for _, _, b in rows], bounds=(0, None), method="highs")
    if answer.x is None:
        raise ArithmeticError(f"no removal found: {answer.message}")
    return {name: np.where(answer.x[k * n : (k + 1) * n] < TOLERANCE, 0.0, answer.x[k * n : (k + 1) * n]) for k, name in enumerate(PARTS)}


def _blade(found: Inferred, x: Array, removal: dict[str, list[float]]) -> Blade:
    blade: Blade = found.lamina.geometry.blade
    upper = found.rest["upper"]
    t = blade.spine_thickness
    spine = Taper(heel=max(t.heel + upper, 0.0), mid=max(t.mid + upper, 0.0), tip=max(t.tip + upper, 0.0))
    old = blade.correction

    def rows(side: Side) -> list[list[float]]:
        taken: list[list[float]] = []
        before = getattr(old, side)
        for j in range(len(x)):
            at = [float(np.interp(x[j], [b[0] for b in before], [b[c] for b in before])) if before else 0.0 for c in (1, 2)]
            taken.append(
                [round(float(x[j]), 3), round(removal[f"{side}_edge"][j] + at[0], 4), round(removal[f"{side}_spine"][j] + at[1], 4)]
            )
        return taken if any(v > 0 for _, e, s in taken for v in (e, s)) else []

    errors = Errors.model_validate(found.as_errors(), strict=True)
    return blade.model_copy(
        update={"errors": errors, "spine_thickness": spine, "correction": Correction(right=rows("right"), left=rows("left"))}
    )
