"""A second, plain derivation of the pull-back: one point at a time, no NumPy, other algebra where there is any.

Sections are inverted by bisection on the outline itself instead of Newton on tan; lays are
rotation matrices instead of sign tables; sizes come from volumes worked out here.
"""

from collections.abc import Callable
from math import atan2, cos, exp, hypot, pi, sin, sqrt, tan
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
    if kind == "grid":
        rows, g = step["cells"], step.get("grind", 0.0)
        n = len(rows) * len(rows[0])
        length = (bar.length - (n - 1) * step.get("kerf", 0.0)) / n
        return Bar(length, "rectangle", len(rows[0]) * (bar.w - 2 * g), len(rows) * (bar.t - 2 * g))
    if kind == "tiles":
        a, t = step["angle"] * pi / 180, step["thickness"]
        return Bar(step["count"] * bar.t / sin(a) - t * cos(a) / sin(a), "rectangle", bar.w, t)
    if kind == "end_slice":
        return Bar(bar.t, "rectangle", bar.w, step["thickness"])
    if kind == "split":
        return Bar(bar.length, "rectangle", bar.w, bar.t - abs(step["drag"]) * (1 - exp(-bar.w / 2 / step["reach"])))
    if kind == "relief":
        return relief_size(step, bar)
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
    if kind == "grid":
        return grid(step, before, after, p)
    if kind == "tiles":
        return tiles(step, before, p)
    if kind == "end_slice":
        return z + after.t / 2, y, before.t / 2 - x
    if kind == "split":
        here, edge = step["drag"] * exp(-abs(y) / step["reach"]), step["drag"] * exp(-before.w / 2 / step["reach"])
        return x, y, z + here - (step["drag"] + edge) / 2
    if kind == "relief":
        return relief(step, before, after, p)
    if kind == "fold":
        g = step.get("grind", 0.0)
        if z < 0:
            return x, y, z + after.t / 2 - before.t / 2
        return before.length - x, y, before.t / 2 - g - z
    return x, y + (step.get("front", 0) - step.get("back", 0)) / 2, z + (step.get("bottom", 0) - step.get("top", 0)) / 2


def grid(step: Json, before: Bar, after: Bar, p: Vec) -> Vec:
    """The cell found by trying all of them; turned back by matrices, end for end first."""
    rows = step["cells"]
    w, t = after.w / len(rows[0]), after.t / len(rows)
    i = min(int((p[2] + after.t / 2) / t), len(rows) - 1)
    j = min(int((p[1] + after.w / 2) / w), len(rows[0]) - 1)
    own = [p[0] - after.length / 2, p[1] - (j + 0.5) * w + after.w / 2, p[2] - (i + 0.5) * t + after.t / 2]
    cell = rows[i][j]
    if cell.get("end_for_end"):
        own = [-own[0], -own[1], own[2]]
    for _ in range(cell.get("quarter_turns", 0) % 4):  # one quarter back: z towards y
        own = [own[0], own[2], -own[1]]
    return own[0] + after.length / 2 + (i * len(rows[0]) + j) * (after.length + step.get("kerf", 0.0)), own[1], own[2]


def tiles(step: Json, before: Bar, p: Vec) -> Vec:
    """Each tile tried in turn: the point turned back by the angle must lie inside the bar's height."""
    a, t = step["angle"] * pi / 180, step["thickness"]
    face, run = before.t / sin(a), t * cos(a) / sin(a)
    for k in range(step["count"]):
        # from the tile's own corner: along its cut face, and down through it
        along, down = p[0] + run - k * face, t / 2 - p[2]
        if step.get("alternate") and k % 2:
            along, down = face + run - along, t - down
        height = along * sin(a) - down * cos(a)
        if -1e-9 <= height <= before.t + 1e-9:
            x = along * cos(a) + down * sin(a) + k * (t + step.get("kerf", 0.0)) / sin(a)
            return x, p[1], height - before.t / 2
    raise AssertionError(f"{p} lies in no tile")


def depth(step: Json, x: float, y: float, w: float, first: float) -> float:
    """Depth of the relief at a place, from the nearest of many centres."""
    pitch, half, deep = step["pitch"], step["groove"] / 2, step["depth"]
    lean = tan(step.get("slant", 0.0) * pi / 180)
    if step["shape"] == "dimples":
        found = []
        for j in range(-1, int(w / pitch) + 2):
            shift = pitch / 2 if step.get("array") == "staggered" and j % 2 else 0.0
            yc = -w / 2 + pitch / 2 + j * pitch
            k = round((x - first - shift) / pitch)
            found.append(hypot(x - first - shift - k * pitch, y - yc))
        s = min(found)
    else:
        c = x - (abs(y) if step["shape"] == "chevrons" else y) * lean
        s = abs(c - first - round((c - first) / pitch) * pitch)
    if s > half:
        return 0.0
    if step["profile"] == "flat":
        return deep
    if step["profile"] == "vee":
        return deep * (1 - s / half)
    r = (half * half + deep * deep) / (2 * deep)
    return sqrt(r * r - s * s) - (r - deep)


def left(step: Json, bar: Bar, x: float, y: float) -> tuple[float, float]:
    """(share of the height left, depth below) by plain sums."""
    pitch = step["pitch"]
    low = depth(step, x, y, bar.w, pitch / 2 + step.get("offset", pitch / 2)) if step.get("faces") == "both" else 0.0
    return 1 - (depth(step, x, y, bar.w, pitch / 2) + low) / bar.t, low


def across(step: Json, bar: Bar, x: float, y: float, n: int = 240) -> float:
    """Integral of h over y from the front edge, by the midpoint rule."""
    dy = (y + bar.w / 2) / n
    return sum(left(step, bar, x, -bar.w / 2 + (i + 0.5) * dy)[0] for i in range(n)) * dy


def along(step: Json, bar: Bar, x: float, n: int = 32) -> float:
    """Integral of the mean of h from 0 to x: whole pitches and a rest."""

    def run(a: float, b: float) -> float:
        return sum(across(step, bar, a + (i + 0.5) * (b - a) / n, bar.w / 2, 72) for i in range(n)) * (b - a) / n / bar.w

    whole = int(x // step["pitch"])
    return whole * run(0.0, step["pitch"]) + run(whole * step["pitch"], x)


def inverse(f: Callable[[float], float], wanted: float, low: float, high: float) -> float:
    for _ in range(44):
        middle = (low + high) / 2
        low, high = (middle, high) if f(middle) < wanted else (low, middle)
    return (low + high) / 2


def relief_size(step: Json, bar: Bar) -> Bar:
    deepest = bar.t - step["depth"] * (2 if step.get("faces") == "both" else 1)
    t = step.get("thickness", deepest)
    if step["method"] == "cut_forged":
        return Bar(along(step, bar, bar.length) * bar.t / t, "rectangle", bar.w, t)
    return Bar(inverse(lambda x: along(step, bar, x), bar.length, 0.0, 4 * bar.length), "rectangle", bar.w, t)


def relief(step: Json, before: Bar, after: Bar, p: Vec) -> Vec:
    x, y, z = p
    if step["method"] == "cut_forged":
        x = inverse(lambda v: along(step, before, v), x * after.t / before.t, 0.0, before.length)
        target = (y / before.w + 0.5) * across(step, before, x, before.w / 2)
        y = inverse(lambda v: across(step, before, x, v), target, -before.w / 2, before.w / 2)
        h, low = left(step, before, x, y)
        return x, y, -before.t / 2 + low + h * before.t * (z + after.t / 2) / after.t
    h, low = left(step, before, x, y)
    pressed = z if step.get("faces") == "both" else z - (before.t - after.t) / 2
    up = -before.t / 2 + (pressed + before.t / 2 - low) / h
    return along(step, before, x), before.w * (across(step, before, x, y) / across(step, before, x, before.w / 2) - 0.5), up


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


def bar_of(recipe: Json) -> Bar:
    """The finished bar of a recipe, however deep: only what its assemblies need of sizes."""
    start = recipe["start"]
    if start["kind"] == "assembly":
        bar = joined(start, [bar_of(b) for b in start["bars"]])
    else:
        height = sum(layer["thickness"] for layer in start["layers"]) if start["kind"] == "stack" else start["thickness"]
        bar = Bar(start["length"], "rectangle", start["width"], height)
    for step in recipe["steps"]:
        bar = size(step, bar)
    return bar


def joined(start: Json, bars: list[Bar]) -> Bar:
    join, length = start["join"], min(b.length for b in bars)
    if join == "stacked":
        return Bar(length, "rectangle", min(b.w for b in bars), sum(b.t for b in bars))
    if join == "side_by_side":
        return Bar(length, "rectangle", sum(b.w for b in bars), min(b.t for b in bars))
    if join == "scarf":
        t = min(b.t for b in bars)
        return Bar(length, "rectangle", bars[0].w + bars[1].w - t / tan(start["angle"] * pi / 180), t)
    if join == "plug":
        return Bar(bars[0].length, "rectangle", bars[0].w, bars[0].t)
    if join == "slot":
        return Bar(length, "rectangle", bars[0].w, bars[0].t)
    wall = start["wall"]
    return Bar(length, "rectangle", min(bars[0].w, bars[1].w - 2 * wall) + 2 * wall, min(bars[0].t, bars[1].t - 2 * wall) + 2 * wall)


def which(start: Json, bar: Bar, bars: list[Bar], p: Vec) -> tuple[int, Vec]:
    """The bar of the joint a point lies in, and the point in that bar's own frame: by trying what each bar fills."""
    x, y, z = p
    join = start["join"]
    if join in ("stacked", "side_by_side"):
        at = (z if join == "stacked" else y) + (bar.t if join == "stacked" else bar.w) / 2
        for i, b in enumerate(bars):
            own = b.t if join == "stacked" else b.w
            if at < own or i == len(bars) - 1:
                return i, (x, y, at - own / 2) if join == "stacked" else (x, at - own / 2, z)
            at -= own
    if join == "scarf":
        # from the front edge: the first bar's section is a trapezium, widest on top
        edge = bars[0].w - (bar.t / 2 - z) / tan(start["angle"] * pi / 180)
        front = y + bar.w / 2
        return (0, (x, front - bars[0].w / 2, z)) if front < edge else (1, (x, front - bar.w + bars[1].w / 2, z))
    if join == "slot":
        inside = abs(y) < start["width"] / 2 and bar.t / 2 - z < start["depth"]
        return (1, (x, y, z - bar.t / 2 + start["depth"] / 2)) if inside else (0, p)
    if join == "plug":
        if (x - start["x"]) ** 2 + (y - start["y"]) ** 2 < start["diameter"] ** 2 / 4:
            return 1, (z + bar.t / 2, y - start["y"], start["x"] - x)
        return 0, p
    core = abs(y) < bar.w / 2 - start["wall"] and abs(z) < bar.t / 2 - start["wall"]
    return (0 if core else 1), p


def steel_of(recipe: Json, p: Vec) -> str:
    """The steel at one point of the finished bar, walking down the tree."""
    start, steps = recipe["start"], recipe["steps"]
    children = [bar_of(b) for b in start["bars"]] if start["kind"] == "assembly" else []
    first = joined(start, children) if children else bar_of({"start": start, "steps": []})
    bars = [first]
    for step in steps:
        bars.append(size(step, bars[-1]))
    for i in reversed(range(len(steps))):
        p = pull(steps[i], bars[i], bars[i + 1], p)
    if children:
        i, inner = which(start, first, children, p)
        return steel_of(start["bars"][i], inner)
    if start["kind"] == "solid":
        return str(start["steel"])
    height = p[2] + first.t / 2
    for layer in start["layers"]:
        height -= layer["thickness"]
        if height < 0:
            return str(layer["steel"])
    return str(start["layers"][-1]["steel"])
