"""Core inference: from core heights read on both sides to where the core really lies.

Where a line is seen the face is the core's boundary, so in thickness each reading is one linear equation in the
core's share and offset there and in what else may be off (edge and upper thickness, uneven grind, cup, twist). A
Gaussian process along the blade for share and offset, the rest alike everywhere; no line seen is an inequality.
Derived in docs/physics.md#core-inference.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import log, pi
from typing import Any, Literal

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import SIDES, Geometry, Side
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.laminate.readings import Readings
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import LEVEL, Sizes

NUISANCES = ("edge", "upper", "uneven", "cup", "twist")
"""mm, mm, mm, mm, slope: what else may be off, alike all along."""
UPPER = 0.05
"""Usual error of the thickness at the spine, mm."""
PASSES = 6
DRAWS = 3000
ENOUGH = 60.0
"""Effective number of draws below which the reweighting is not trusted and the Gaussian stands."""
UNLIKELY = -7.0
"""log of the chance that a line is read where there is none."""
LEAST_SLOPE = 1e-4
FLATTEST = 0.3
"""The line's slope in thickness is held to this share of the planned one, or more."""
Z90 = 1.6448536269514722


def _log_density(z: Any) -> Any:
    """Of the standard normal law."""
    return -0.5 * z * z - 0.5 * log(2 * pi)


MEASURED = 0.03
"""How well edge thickness and the middle are measured, one standard deviation, mm."""


@dataclass(frozen=True)
class Inferred:
    """What the readings say. At stations x: share and offset (of the local thickness) with standard deviations; the rest alike all along.

    Joint samples keep what is tied together: `samples` (n, 2 k + nuisances) in the order share, offset, NUISANCES.
    """

    lamina: Lamina
    share: Array
    share_sd: Array
    offset: Array
    offset_sd: Array
    rest: dict[str, float]
    rest_sd: dict[str, float]
    samples: Array
    misfit: float
    """Root mean square of the readings' residuals in their standard deviations."""
    helps: "list[Help]"

    @property
    def mean_offset(self) -> tuple[float, float]:
        """(mean along the blade, its standard deviation)."""
        return _mean_of(self.samples[:, len(self.share) : 2 * len(self.share)])

    @property
    def mean_share(self) -> tuple[float, float]:
        """(mean, one standard deviation) of the core's share over the length."""
        return _mean_of(self.samples[:, : len(self.share)])

    @cached_property
    def lines(self) -> dict[Side, tuple[Array, Array, Array]]:
        """Per side the line's 5, 50 and 95 % at the stations, mm, vertical."""
        out: dict[Side, tuple[Array, Array, Array]] = {}
        for side in ("right", "left"):
            found = line_of(_levels(self.lamina, self.samples[::5], side), self.lamina.h)
            low, mid, high = np.quantile(found, [0.05, 0.5, 0.95], axis=0)
            out[side] = (low, mid, high)
        return out

    def mean(self) -> Array:
        """The most likely state as one row like those of `samples`."""
        return np.concatenate([self.share, self.offset, [self.rest[n] for n in NUISANCES]])

    def levels(self, side: Side) -> Array:
        """G (stations, heights) of the most likely blade, mm: core shows where it is 0 or more."""
        out: Array = _levels(self.lamina, self.mean()[None], side)[0]
        return out

    def as_errors(self) -> dict[str, Any]:
        """What to put into the blade's errors so that it is the most likely one, as plain JSON."""
        e, lam = self.lamina.geometry.blade.errors, self.lamina
        return {
            "core_offset": _pairs(lam.x, self.offset - lam.offset),
            "core_share": _pairs(lam.x, self.share - lam.share),
            "uneven": _plus(e.uneven, self.rest["uneven"]),
            "edge": _plus(e.edge, self.rest["edge"]),
            "cup": _plus(e.cup, self.rest["cup"]),
            "twist": _plus(e.twist, float(np.rad2deg(np.arctan(self.rest["twist"])))),
            "dip": _plain(e.dip),
            "bow": e.bow,
            "flow": e.flow,
        }


@dataclass(frozen=True)
class Help:
    """How much one more reading would narrow what is known: standard deviations now and then, as a share of the thickness."""

    reading: Literal["edge_thickness", "off_middle"]
    of: Literal["share", "offset"]
    now: float
    then: float


def _mean_of(rows: Array) -> tuple[float, float]:
    means = rows.mean(axis=1)
    return float(means.mean()), float(means.std())


def _pairs(x: Array, values: Array) -> list[list[float]]:
    return [[round(float(a), 4), round(float(b), 6)] for a, b in zip(x, values, strict=True)]


def _plain(value: Any) -> Any:
    return [list(p) for p in value] if isinstance(value, list) else value


def _plus(value: Any, more: float) -> Any:
    """An error along the blade and a bit more everywhere."""
    if isinstance(value, list):
        return [[x, round(v + more, 6)] for x, v in value]
    return round(value + more, 6)


class _Rows:
    """Linear equations: G at places (x, side, h) as base + rows . theta, theta = deviations from what is planned."""

    def __init__(self, geometry: Geometry, nodes: Array, share: Array, offset: Array):
        self.g, self.nodes, self.share, self.offset = geometry, nodes, share, offset

    def at(self, i: Array, side: Array, h: Array) -> tuple[Array, Array]:
        """(base (m,), rows (m, dims)) at node numbers i, sides +1/-1, heights h."""
        g, x = self.g, self.nodes[i]
        f = g.faces(x, h)
        height = np.maximum(g.height(x), 1e-9)
        r = h / height
        blade = g.blade
        bevel = np.where(
            side > 0, np.minimum(h / g.bevel_top(blade.grind.right, height), 1), np.minimum(h / g.bevel_top(blade.grind.left, height), 1)
        )
        part = np.where(side > 0, blade.grind.share_right, 1 - blade.grind.share_right)
        kappa = self.share[i]
        if blade.errors.flow:
            kappa = kappa * np.maximum(f.forged / g.bar_thickness, 1e-3) ** -blade.errors.flow
        face = np.where(side > 0, f.right, -f.left)
        warp = g.warp(x, h, height)
        base = (kappa / 2 + side * self.offset[i]) * f.forged + side * warp - face
        k = len(self.nodes)
        rows = np.zeros((len(i), 2 * k + len(NUISANCES)))
        at = np.arange(len(i))
        rows[at, i] = f.forged / 2
        rows[at, k + i] = side * f.forged
        rows[:, 2 * k] = -part * (1 - bevel)
        rows[:, 2 * k + 1] = -part * r
        rows[:, 2 * k + 2] = side / 2
        rows[:, 2 * k + 3] = side * 4 * r * (1 - r)
        rows[:, 2 * k + 4] = side * (h - height / 2)
        return base, rows

    def slopes(self, i: Array, side: Array, h: Array) -> tuple[Array, Array]:
        """Derivatives of `at` by height."""
        height = self.g.height(self.nodes[i])
        d = np.minimum(0.05, height / 50)
        up, down = np.minimum(h + d, height), np.maximum(h - d, 0)
        a, b = self.at(i, side, up), self.at(i, side, down)
        width = up - down
        return (a[0] - b[0]) / width, (a[1] - b[1]) / width[:, None]


def infer(lamina: Lamina, readings: Readings, sizes: Sizes, seed: int = 3, jacobian: bool = True) -> Inferred:
    """What the core is, at the stations of `lamina`. Raises InputError for readings off the blade, or none at all."""
    geometry = lamina.geometry
    lines, bounds = _checked(geometry, readings)
    nodes = np.union1d(lamina.x, [r.x for r in readings.heights])
    wide = replace(lamina, x=nodes)
    rows = _Rows(geometry, nodes, wide.base_share, wide.base_offset)
    prior = _prior(geometry, nodes, sizes)
    x, side, h = lines
    i = np.searchsorted(nodes, x)
    base, a = rows.at(i, side, h)
    slope0, slope_rows = rows.slopes(i, side, h)
    extra_value, extra_rows = _extras(geometry, readings, len(nodes))
    dims = prior.shape[0]
    mean, cov = np.zeros(dims), prior
    push = np.zeros(dims)
    hold_x, hold_side, hold_h, sign = bounds
    hold_base, hold_rows = rows.at(np.searchsorted(nodes, hold_x), hold_side, hold_h)
    hold_slope, _ = rows.slopes(np.searchsorted(nodes, hold_x), hold_side, hold_h)
    hold_noise = (hold_slope * readings.within) ** 2
    sites = np.zeros((len(sign), 2))  # natural parameters of each inequality
    for _ in range(PASSES):
        slope = _steady(slope0 + slope_rows @ mean, slope0)
        noise = np.maximum(np.abs(slope) * readings.within, 1e-4) ** 2
        used = sites[:, 0] > 1e-9
        observed = np.concatenate([-base, extra_value, np.where(used, sites[:, 1] / np.where(used, sites[:, 0], 1), 0)[used]])
        matrix = np.concatenate([a, extra_rows, hold_rows[used]])
        variance = np.concatenate([noise, np.full(len(extra_value), MEASURED**2), 1 / sites[used, 0]])
        mean, cov = _conditioned(prior, matrix, observed, variance)
        if jacobian and len(base):
            push = (slope_rows / slope[:, None]).sum(axis=0)
            mean = mean + cov @ push
        for k in range(len(sign)):
            sites[k] = _probit_site(sign[k], hold_base[k], hold_rows[k], hold_noise[k], mean, cov, sites[k])
    if not np.isfinite(mean).all():
        raise InputError.at("readings.heights", "these readings contradict one another", "check the heights and the sides")
    slope = _steady(slope0 + slope_rows @ mean, slope0)
    misfit = float(np.sqrt(np.mean(((base + a @ mean) / np.maximum(np.abs(slope) * readings.within, 1e-4)) ** 2))) if len(base) else 0.0
    draws = _drawn(mean, cov, seed)
    # the Gaussian's own factors, taken out again where the exact likelihood goes in
    linear = -0.5 * (((observed - draws @ matrix.T) ** 2) / variance).sum(axis=1) + draws @ push
    weights = _weights(_likelihood(wide, draws, readings) - linear)
    if 1 / (weights**2).sum() >= ENOUGH:
        draws = draws[np.random.default_rng(seed + 1).choice(len(draws), len(draws), p=weights)]
    return _told(lamina, wide, draws, cov, misfit)


def _steady(slope: Array, planned: Array) -> Array:
    """Slopes no flatter than FLATTEST of the planned ones, nor turned over: readings that contradict one another must not run away."""
    sign = np.where(planned < 0, -1.0, 1.0)
    out: Array = sign * np.maximum(sign * slope, np.maximum(FLATTEST * np.abs(planned), LEAST_SLOPE))
    return out


def _checked(geometry: Geometry, readings: Readings) -> tuple[tuple[Array, Array, Array], tuple[Array, Array, Array, Array]]:
    """Readings as (x, side, vertical height), and inequalities with their sign (+1: G > 0)."""
    if not readings.heights:
        raise InputError.at("readings.heights", "nothing has been read yet", "enter a few core heights from each side")
    places = np.array([r.x for r in readings.heights])
    for n, r in enumerate(readings.heights):
        if r.x > geometry.length:
            raise InputError.at(f"readings.heights[{n}].x", f"{r.x:g} mm lies beyond the tip", f"the blade is {geometry.length:g} mm long")
        if r.state == "line" and r.height is None:
            raise InputError.at(f"readings.heights[{n}].height", "the height is missing", "give it, or say that no line is seen")
    heights = geometry.height(places)
    cos = np.cos(geometry.curves.edge_angle(places))
    lines: list[tuple[float, int, float]] = []
    bounds: list[tuple[float, int, float, int]] = []
    for n, r in enumerate(readings.heights):
        side = 1 if r.side == "right" else -1
        if r.state == "line":
            h = float(r.height or 0.0) / float(cos[n])
            if h > heights[n] + 1e-6:
                raise InputError.at(
                    f"readings.heights[{n}].height",
                    f"{r.height:g} mm is above the spine {r.x:g} mm from the heel",
                    f"the blade is {heights[n] * cos[n]:.1f} mm high there",
                )
            lines.append((r.x, side, h))
        elif r.state == "none":
            bounds.append((r.x, side, 0.0, -1))
        else:
            bounds.append((r.x, side, float(heights[n]), 1))
    return _columns(lines, 3), _columns(bounds, 4)  # type: ignore[return-value]


def _columns(rows: Sequence[tuple[float, ...]], n: int) -> tuple[Array, ...]:
    table = np.array(rows, float).reshape(-1, n)
    return tuple(table[:, k] for k in range(n))


def _prior(geometry: Geometry, nodes: Array, sizes: Sizes) -> Array:
    """Covariance of share, offset (dip and bow count as offset) and the nuisances."""
    k = len(nodes)
    q = nodes / geometry.length
    kernel = LEVEL + (1 - LEVEL) * np.exp(-((q[:, None] - q) ** 2) / (2 * sizes.wander**2))
    thick = float(geometry.faces(np.array([0.4 * geometry.length]), np.array([1.0])).forged[0])
    out = np.zeros((2 * k + len(NUISANCES),) * 2)
    out[:k, :k] = kernel * max(sizes.core_share, 1e-4) ** 2
    out[k : 2 * k, k : 2 * k] = kernel * (max(sizes.core_offset, 1e-4) ** 2 + (sizes.dip / thick) ** 2)
    sds = (sizes.edge, UPPER, sizes.uneven, sizes.cup, np.tan(np.deg2rad(sizes.twist)))
    out[2 * k :, 2 * k :] = np.diag([max(float(s), 1e-6) ** 2 for s in sds])
    out[np.diag_indices(2 * k)] += 1e-10
    return out


def _extras(geometry: Geometry, readings: Readings, k: int) -> tuple[Array, Array]:
    """Measured edge thickness and middle as equations."""
    values, rows = [], []
    x = np.linspace(0.1, 0.85, 9) * geometry.length
    f = geometry.faces(x, np.zeros_like(x))
    for given, row, planned in (
        (readings.edge_thickness, _unit(k, {"edge": 1.0}), float(f.thickness.mean())),
        (readings.off_middle, _unit(k, {"uneven": -0.5}), float(f.ground_middle.mean())),
    ):
        if given is not None:
            values.append(given - planned)
            rows.append(row)
    return np.array(values), np.array(rows).reshape(-1, 2 * k + len(NUISANCES))


def _unit(k: int, parts: dict[str, float]) -> Array:
    row = np.zeros(2 * k + len(NUISANCES))
    for name, v in parts.items():
        row[2 * k + NUISANCES.index(name)] = v
    return row


def _conditioned(prior: Array, rows: Array, value: Array, variance: Array) -> tuple[Array, Array]:
    """Mean and covariance of theta given rows . theta = value with independent noise."""
    if not len(value):
        return np.zeros(len(prior)), prior
    across = prior @ rows.T
    from scipy.linalg import cho_factor, cho_solve

    factor = cho_factor(rows @ across + np.diag(variance), lower=True)
    mean = across @ cho_solve(factor, value)
    cov = prior - across @ cho_solve(factor, across.T)
    return mean, (cov + cov.T) / 2


def _probit_site(sign: float, base: float, row: Array, noise: float, mean: Array, cov: Array, site: Array) -> Array:
    """Expectation propagation for sign * (base + row . theta + noise) > 0: the Gaussian factor with the moments of the cut-off one.

    Rasmussen & Williams 2006, 3.6; natural parameters (precision, precision x mean).
    """
    m, v = float(row @ mean), float(row @ cov @ row)
    if v <= 1e-14:
        return site
    tau, nu = 1 / v - site[0], m / v - site[1]
    if tau <= 1e-12:
        return site
    cm, cv = nu / tau, 1 / tau
    wide = cv + noise
    z = sign * (cm + base) / np.sqrt(wide)
    from scipy.special import log_ndtr

    ratio = float(np.exp(_log_density(z) - log_ndtr(z)))
    tm = cm + sign * cv / np.sqrt(wide) * ratio
    tv = max(cv - cv * cv / wide * ratio * (z + ratio), 1e-9 * cv)
    return np.array([max(1 / tv - tau, 0.0), tm / tv - nu])


def _drawn(mean: Array, cov: Array, seed: int) -> Array:
    values, vectors = np.linalg.eigh(cov)
    normal = np.random.default_rng(seed).standard_normal((DRAWS, len(mean)))
    out: Array = mean + normal @ (vectors * np.sqrt(np.maximum(values, 0))).T
    return out


def _weights(log: Array) -> Array:
    out = np.exp(log - log.max())
    found: Array = out / out.sum()
    return found


def _likelihood(wide: Lamina, draws: Array, readings: Readings) -> Array:
    """log of how likely the readings are for each drawn state, from the line itself and not from its slope."""
    from scipy.special import log_ndtr

    k = len(wide.x)
    plan = np.concatenate([wide.base_share, wide.base_offset, np.zeros(len(NUISANCES))])
    states = draws + plan
    cos = np.cos(wide.geometry.curves.edge_angle(wide.x))
    out = np.zeros(len(draws))
    for side in SIDES:
        mine = [r for r in readings.heights if r.side == side]
        if not mine:
            continue
        at = np.searchsorted(wide.x, [r.x for r in mine])
        pick = np.concatenate([at, k + at, 2 * k + np.arange(len(NUISANCES))])
        some = replace(wide, x=wide.x[at])
        line = line_of(_levels(some, states[:, pick], side), some.h)
        sd = readings.within / cos[at]
        for j, r in enumerate(mine):
            top = float(some.height[j])
            gone, whole = line[:, j] <= 0, line[:, j] >= top * (1 - 1e-9)
            if r.state == "line":
                z = ((r.height or 0.0) / cos[at[j]] - line[:, j]) / sd[j]
                out += _log_density(z) + np.where(gone | whole, UNLIKELY, 0.0)
            elif r.state == "none":
                out += np.where(gone, 0.0, log_ndtr(-line[:, j] / sd[j]))
            else:
                out += np.where(whole, 0.0, log_ndtr((line[:, j] - top) / sd[j]))
    return out


def _told(lamina: Lamina, wide: Lamina, draws: Array, cov: Array, misfit: float) -> Inferred:
    """Back from deviations at the nodes to the stations asked for."""
    k = len(wide.x)
    keep = np.searchsorted(wide.x, lamina.x)
    pick = np.concatenate([keep, k + keep, 2 * k + np.arange(len(NUISANCES))])
    plan = np.concatenate([lamina.base_share, lamina.base_offset, np.zeros(len(NUISANCES))])
    samples = plan + draws[:, pick]
    n = len(lamina.x)
    full, sd = samples.mean(axis=0), samples.std(axis=0)
    return Inferred(
        lamina,
        full[:n],
        sd[:n],
        full[n : 2 * n],
        sd[n : 2 * n],
        {name: float(full[2 * n + i]) for i, name in enumerate(NUISANCES)},
        {name: float(sd[2 * n + i]) for i, name in enumerate(NUISANCES)},
        samples,
        misfit,
        _helps(cov[np.ix_(pick, pick)], n),
    )


def _helps(cov: Array, n: int) -> list[Help]:
    """What one more reading of each kind would do to what is known of the mean share and offset, most first."""
    wants = {
        "share": np.concatenate([np.full(n, 1 / n), np.zeros(n + len(NUISANCES))]),
        "offset": np.concatenate([np.zeros(n), np.full(n, 1 / n), np.zeros(len(NUISANCES))]),
    }
    gives = {"edge_thickness": _unit(n, {"edge": 1.0}), "off_middle": _unit(n, {"uneven": -0.5})}
    out = []
    for of, w in wants.items():
        now = float(w @ cov @ w)
        for reading, row in gives.items():
            seen = float(row @ cov @ row) + MEASURED**2
            then = now - float(w @ cov @ row) ** 2 / seen
            out.append(Help(reading, of, float(np.sqrt(max(now, 0))), float(np.sqrt(max(then, 0)))))  # type: ignore[arg-type]
    return sorted(out, key=lambda o: o.then / max(o.now, 1e-12))


def _levels(lamina: Lamina, states: Array, side: Side) -> Array:
    """G (states, stations, heights) for states (share, offset, nuisances)."""
    n = len(lamina.x)
    p, s = lamina.profiles, 1.0 if side == "right" else -1.0
    share, offset, rest = states[:, :n, None], states[:, n : 2 * n, None], states[:, 2 * n :]
    g = lamina.geometry
    flow = g.blade.errors.flow
    kappa = share * p.thinning**-flow if flow else share
    edge, upper, uneven, cup, twist = (rest[:, i, None, None] for i in range(len(NUISANCES)))
    part = g.blade.grind.share_right if side == "right" else 1 - g.blade.grind.share_right
    face = p.right if side == "right" else -p.left
    bevel = p.edge_right if side == "right" else p.edge_left
    r = lamina.h / lamina.height[:, None]
    shift = offset * p.forged + p.warp + cup * p.cup + twist * p.lever + uneven / 2
    out: Array = kappa / 2 * p.forged + s * shift - face - edge * bevel - upper * part * r
    return out


def line_of(levels: Array, h: Array) -> Array:
    """Height of the line (.., stations) from G (.., stations, heights): first fall below 0, linear between heights."""
    below = levels < 0
    first = np.argmax(below, axis=-1)
    never = ~below.any(axis=-1)
    i = np.clip(first, 1, h.shape[-1] - 1)
    y0, y1 = (np.take_along_axis(levels, (i - k)[..., None], axis=-1)[..., 0] for k in (1, 0))
    rows = np.arange(h.shape[0])
    h0, h1 = h[rows, i - 1], h[rows, i]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = h0 + (h1 - h0) * y0 / (y0 - y1)
    return np.where(never, h[:, -1], np.where(first == 0, 0.0, t))
