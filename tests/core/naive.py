"""A second, plain derivation of the pull-back: one point at a time, no NumPy, other algebra where there is any.

Sections are inverted by bisection on the outline itself instead of Newton on tan; lays are
rotation matrices instead of sign tables; sizes come from volumes worked out here.
"""

from math import atan2, cos, pi, sin, sqrt
from typing import Any

Json = dict[str, Any]
Vec = tuple[float, float, float]
FILL = {"rectangle": 1.0, "diamond": 0.5, "octagon": 2 * (sqrt(2) - 1), "round": pi / 4}


def outline(form: str, t: float) -> float:
    """R^2(t) of the unit-area, square-aspect section: nearest of its face planes along the ray."""
    if form == "round":
        return 1 / pi
    faces = {"rectangle": 4, "diamond": 4, "octagon": 8}[form]
    first = pi / 4 if form == "diamond" else 0.0
    apothem2 = 1 / (faces * sin(pi / faces) / cos(pi / faces))
    reach = max(cos(t - first - 2 * pi * i / faces) for i in range(faces))
    return apothem2 / reach**2


def swept(form: str, t: float, steps: int = 400) -> float:
    """A(t) = 1/2 Int_0^t R^2 by Simpson's rule, in whole sixteenths and a rest so that corners fall on nodes."""
    if form == "round":
        return t / (2 * pi)
    whole, corner = 0.0, pi / 8
    full = int(abs(t) / corner)
    for i in range(full):
        whole += _simpson(form, i * corner, (i + 1) * corner, steps // 8)
    whole += _simpson(form, full * corner, abs(t), steps // 8)
    return whole if t >= 0 else -whole


def _simpson(form: str, a: float, b: float, n: int) -> float:
    n += n % 2
    h = (b - a) / n
    total = sum((1 if i in (0, n) else 4 if i % 2 else 2) * outline(form, a + i * h) for i in range(n + 1))
    return total * h / 6


def to_shares(form: str, w: float, t: float, y: float, z: float) -> tuple[float, float]:
    unit = 1 / sqrt(FILL[form])
    y, z = y * unit / w, z * unit / t
    q, angle = y * y + z * z, atan2(z, y)
    r2 = outline(form, angle)
    low, high = 0.0, 1.0
    for _ in range(60):
        u = (low + high) / 2
        low, high = (u, high) if u * ((1 - u) / pi + u * r2) < q else (low, u)
    u = (low + high) / 2
    return u, (1 - 2 * u) * angle / (2 * pi) + 2 * u * swept(form, angle)


def from_shares(form: str, w: float, t: float, u: float, a: float) -> tuple[float, float]:
    a -= round(a)  # one turn is one
    low, high = -pi - 0.01, pi + 0.01
    for _ in range(48):
        angle = (low + high) / 2
        low, high = (angle, high) if (1 - 2 * u) * angle / (2 * pi) + 2 * u * swept(form, angle) < a else (low, angle)
    angle = (low + high) / 2
    r = sqrt(u * ((1 - u) / pi + u * outline(form, angle)))
    unit = sqrt(FILL[form])
    return r * cos(angle) * unit * w, r * sin(angle) * unit * t


class Bar:
    def __init__(self, length: float, form: str, w: float, t: float):
        self.length, self.form, self.w, self.t = length, form, w, t

    @property
    def volume(self) -> float:
        return self.length * FILL[self.form] * self.w * self.t

    def reforged(self, form: str, w: float, t: float) -> "Bar":
        return Bar(self.volume / (FILL[form] * w * t), form, w, t)


def size(step: Json, bar: Bar) -> Bar:
    kind = step["kind"]
    if kind == "weld":
        return bar.reforged("rectangle", step.get("width", bar.w), step["thickness"])
    if kind == "draw":
        return bar.reforged("rectangle", step["width"], step["thickness"])
    if kind == "section":
        form = {"square": "rectangle"}.get(step["form"], step["form"])
        side = sqrt(FILL[bar.form] * bar.w * bar.t / FILL[form])
        return bar.reforged(form, side, side)
    if kind == "twist":
        d = 2 * sqrt(FILL[bar.form] * bar.w * bar.t / pi)
        return Bar(bar.length, "round", d, d)
    if kind == "turn":
        if step["degrees"] % 180 == 90:
            return Bar(bar.length, bar.form, bar.t, bar.w)
        if step["degrees"] % 90 == 45 and bar.form in ("rectangle", "diamond"):
            k = sqrt(2) if bar.form == "rectangle" else 1 / sqrt(2)
            return Bar(bar.length, "diamond" if bar.form == "rectangle" else "rectangle", bar.w * k, bar.t * k)
        return bar
    if kind == "restack":
        n, g = step["pieces"], step.get("grind", 0.0)
        return Bar((bar.length - (n - 1) * step.get("kerf", 0.0)) / n, "rectangle", bar.w, n * (bar.t - 2 * g))
    if kind == "fold":
        return Bar(bar.length / 2, "rectangle", bar.w, 2 * (bar.t - step.get("grind", 0.0)))
    return Bar(
        bar.length, "rectangle", bar.w - step.get("front", 0) - step.get("back", 0), bar.t - step.get("top", 0) - step.get("bottom", 0)
    )


def pull(step: Json, before: Bar, after: Bar, p: Vec) -> Vec:
    x, y, z = p
    kind = step["kind"]
    if kind in ("weld", "draw", "section", "twist"):
        x *= before.length / after.length
        if kind != "twist" and before.form == after.form == "rectangle":
            return x, y * before.w / after.w, z * before.t / after.t
        u, a = to_shares(after.form, after.w, after.t, y, z)
        if kind == "twist":
            a -= (1 if step.get("hand", "right") == "right" else -1) * step["turns"] * x / before.length
        return (x, *from_shares(before.form, before.w, before.t, u, a))
    if kind == "turn":
        c, s = cos(step["degrees"] * pi / 180), sin(step["degrees"] * pi / 180)
        return x, c * y + s * z, -s * y + c * z
    if kind == "restack":
        g, each = step.get("grind", 0.0), before.t - 2 * step.get("grind", 0.0)
        piece = min(int((z + after.t / 2) // each), step["pieces"] - 1)
        lay = step.get("lay", ["as_cut"])[piece % len(step.get("lay", ["as_cut"]))]
        own = (x - after.length / 2, y, z + after.t / 2 - piece * each - each / 2)
        axis = {"as_cut": None, "end_for_end": 2, "rolled": 0, "turned_over": 1}[lay]
        own = own if axis is None else tuple(v if i == axis else -v for i, v in enumerate(own))  # type: ignore[assignment]
        assert g >= 0
        return own[0] + after.length / 2 + piece * (after.length + step.get("kerf", 0.0)), own[1], own[2]
    if kind == "fold":
        g = step.get("grind", 0.0)
        if z < 0:
            return x, y, z + after.t / 2 - before.t / 2
        return before.length - x, y, before.t / 2 - g - z
    return x, y + (step.get("front", 0) - step.get("back", 0)) / 2, z + (step.get("bottom", 0) - step.get("top", 0)) / 2


def trace(start: Json, steps: list[Json], points: list[Vec]) -> list[Vec]:
    """Where each point of the finished bar was in the starting one."""
    height = sum(layer["thickness"] for layer in start["layers"])
    bars = [Bar(start["length"], "rectangle", start["width"], height)]
    for step in steps:
        bars.append(size(step, bars[-1]))
    out = []
    for p in points:
        for i in reversed(range(len(steps))):
            p = pull(steps[i], bars[i], bars[i + 1], p)
        out.append(p)
    return out
