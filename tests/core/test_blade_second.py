"""A second derivation of the blade: plain Python, one point at a time, nothing shared with the program's own.

Grinds as circles found from three points, the core line by walking up the face in small steps, the forging map by
adding up slices. Slow and simple on purpose.
"""

import math
import random
from itertools import pairwise
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json
from varistrat.core.blade.forging import ForgeMap, Stock
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.measures import blade_body
from varistrat.core.blade.model import FORMAT, Blade, read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.laminate.exposure import Station

LENGTH, NEAR = 160.0, 0.02


def random_grind(rng: random.Random) -> Json:
    kind = rng.choice(["flat", "flat", "convex", "hollow", "flat_convex"])
    edge = round(rng.uniform(0.2, 0.6), 2)
    side: Json = {"kind": kind, "edge_thickness": edge}
    if rng.random() < 0.5 or kind == "hollow":
        side["height"] = round(rng.uniform(14, 26), 1)
    if kind == "hollow":
        side["wheel_radius"] = round(rng.uniform(180, 400))
    if kind == "flat_convex":
        side |= {"flat_edge_thickness": round(edge + rng.uniform(0.1, 0.5), 2), "band": round(rng.uniform(4, 9), 1)}
    return side


def random_blade(rng: random.Random) -> Json:
    height = rng.uniform(28, 40)
    forged = rng.random() < 0.4
    errors = {
        "core_offset": [[0, rng.uniform(-0.02, 0.02)], [LENGTH, rng.uniform(-0.02, 0.02)]],
        "dip": rng.uniform(-0.08, 0.08),
        "cup": rng.uniform(-0.05, 0.05),
        "twist": rng.uniform(-0.3, 0.3),
        "uneven": rng.uniform(-0.08, 0.08),
        "bow": rng.uniform(-0.1, 0.1),
        "core_share": rng.uniform(-0.02, 0.02),
        "edge": rng.uniform(0, 0.1),
    }
    correction = {"right": [[20.0, rng.uniform(0, 0.1), rng.uniform(0, 0.1)], [120.0, rng.uniform(0, 0.1), 0.0]]}
    spine = rng.uniform(3.4, 4.2)
    return {
        "format": FORMAT,
        "outline": {"edge": [[0, 0], [100, 0], [LENGTH, height * 0.6]], "spine": [[0, height], [LENGTH, height * 0.9]]},
        "spine_thickness": {"heel": spine, "mid": spine * 0.9, "tip": spine * 0.7},
        "grind": {
            "right": random_grind(rng),
            "left": random_grind(rng),
            "share_right": rng.choice([0.5, 0.5, 0.4, 0.6]),
            "ricasso": rng.choice([0.0, 12.0]),
            "plunge": rng.choice([0.0, 8.0]),
        },
        "forging": {"share": 1.0, "allowance": 0.4, "bar_thickness": 5.0} if forged else {"bar_thickness": spine + 0.5},
        "errors": errors if rng.random() < 0.8 else {},
        "correction": correction if rng.random() < 0.5 else {},
        "laminate": {"core": {"steel": "1095", "share": rng.uniform(0.25, 0.4)}, "clad": {"steel": "1018"}},
    }


def between(pairs: Any, x: float) -> float:
    """A number, or points joined by straight lines and held beyond."""
    if not isinstance(pairs, list):
        return float(pairs)
    if x <= pairs[0][0]:
        return float(pairs[0][1])
    for (x0, y0), (x1, y1) in pairwise(pairs):
        if x <= x1:
            return float(y0 + (y1 - y0) * (x - x0) / (x1 - x0))
    return float(pairs[-1][1])


def circle(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> tuple[float, float, float]:
    """Centre and radius of the circle through three points."""
    (ax, ay), (bx, by), (cx, cy) = a, b, c
    d = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
    ux = ((ax**2 + ay**2) * (by - cy) + (bx**2 + by**2) * (cy - ay) + (cx**2 + cy**2) * (ay - by)) / d
    uy = ((ax**2 + ay**2) * (cx - bx) + (bx**2 + by**2) * (ax - cx) + (cx**2 + cy**2) * (bx - ax)) / d
    return ux, uy, math.hypot(ax - ux, ay - uy)


class Naive:
    """One blade, asked point by point."""

    def __init__(self, data: Json):
        self.d = data
        self.edge_y, self.spine_y = data["outline"]["edge"], data["outline"]["spine"]

    def height(self, x: float) -> float:
        return between(self.spine_y, x) - between(self.edge_y, x)

    def spine(self, x: float) -> float:
        t = self.d["spine_thickness"]
        return between([[0, t["heel"]], [LENGTH / 2, t["mid"]], [LENGTH, t["tip"]]], x)

    def full(self, side: str, x: float, h: float) -> float:
        """t_G at x, h: the profile from its definition, the plunge laid over it."""
        g, ts, tall = self.d["grind"][side], self.spine(x), self.height(x)
        top = min(g.get("height", tall), tall)
        te = g["edge_thickness"]
        if h >= top:
            t = ts
        elif g["kind"] == "flat":
            t = te + (ts - te) * h / top
        elif g["kind"] == "hollow":
            t = 2 * self._hollow(top, ts / 2, te / 2, g["wheel_radius"], h)
        elif g["kind"] == "convex":
            # tangent to the side at the top: its mirror image above the top lies on the circle too
            cx, cy, r = circle((0.0, te / 2), (top, ts / 2), (2 * top, te / 2))
            t = 2 * (cy + math.sqrt(r * r - (h - cx) ** 2))
        else:
            t = 2 * self._rounded(g, top, ts, h)
        grind = self.d["grind"]
        s = 1.0 if x >= grind["ricasso"] + grind["plunge"] else 0.0
        if grind["ricasso"] <= x < grind["ricasso"] + grind["plunge"]:
            s = math.sqrt(1 - (1 - (x - grind["ricasso"]) / grind["plunge"]) ** 2)
        return ts - s * (ts - t)

    def _hollow(self, top: float, high: float, low: float, radius: float, h: float) -> float:
        """Half thickness under a wheel that touches both ends of the bevel: its centre by bisection along the chord's normal."""
        chord = math.hypot(top, high - low)
        nx, ny = -(high - low) / chord, top / chord
        a, b = 0.0, 2 * radius
        for _ in range(80):
            m = (a + b) / 2
            a, b = (m, b) if math.hypot(top / 2 + nx * m, (high + low) / 2 + ny * m - low) < radius else (a, m)
        cx, cy = top / 2 + nx * a, (high + low) / 2 + ny * a
        return cy - math.sqrt(radius**2 - (h - cx) ** 2)

    def _rounded(self, g: Json, top: float, ts: float, h: float) -> float:
        """Half thickness of a flat bevel rounded below its band: the circle's radius by bisection, tangent to the flat."""
        flat, band = g["flat_edge_thickness"], min(g["band"], top)
        slope = (ts - flat) / 2 / top
        if h >= band:
            return flat / 2 + slope * h
        by, norm = flat / 2 + slope * band, math.sqrt(1 + slope**2)
        a, b = 1e-3, 1e7
        for _ in range(200):
            r = math.sqrt(a * b)
            cx, cy = band + r * slope / norm, by - r / norm
            inside = math.hypot(cx, cy - g["edge_thickness"] / 2) < r
            a, b = (r, b) if not inside else (a, r)
        cx, cy = band + r * slope / norm, by - r / norm
        return cy + math.sqrt(max(r * r - (h - cx) ** 2, 0))

    def shows(self, x: float, h: float) -> dict[str, bool]:
        """Whether the core shows on each face at x, h."""
        d, e = self.d, self.d["errors"]
        right, left = self.full("right", x, h), self.full("left", x, h)
        f = d["forging"]
        tf = (right + left) / 2 + 2 * f["allowance"] if f.get("share") else f["bar_thickness"]
        tall = self.height(x)
        if e:
            for side, t in (("right", right), ("left", left)):
                top = min(d["grind"][side].get("height", tall), tall)
                thicker = t + e["edge"] * (1 - min(h / top, 1))
                right, left = (thicker, left) if side == "right" else (right, thicker)
        a = d["grind"]["share_right"]
        zr, zl = tf / 2 - a * (tf - right), -tf / 2 + (1 - a) * (tf - left)
        eps = warp = more = 0.0
        r, q = h / tall, x / LENGTH
        if e:
            zr, zl = zr - e["uneven"] / 2, zl - e["uneven"] / 2
            eps, more = between(e["core_offset"], x), e["core_share"]
            warp = e["dip"] + 4 * e["bow"] * q * (1 - q) + 4 * e["cup"] * r * (1 - r) + math.tan(math.radians(e["twist"])) * (h - tall / 2)
        rows = d["correction"].get("right", [])
        if rows:
            zr -= between([[p[0], p[1]] for p in rows], x) * (1 - r) + between([[p[0], p[2]] for p in rows], x) * r
        m, c = eps * tf + warp, (d["laminate"]["core"]["share"] + more) * tf / 2
        return {"right": abs(zr - m) <= c, "left": abs(zl - m) <= c}

    def shown(self, x: float, side: str, step: float = 0.01) -> list[tuple[float, float]]:
        """Intervals of height where the core shows, by walking up."""
        found: list[tuple[float, float]] = []
        n = int(self.height(x) / step)
        begun = None
        for i in range(n + 1):
            h = self.height(x) * i / n
            if self.shows(x, h)[side]:
                begun = h if begun is None else begun
            elif begun is not None:
                found.append((begun, h))
                begun = None
        return found + ([(begun, self.height(x))] if begun is not None else [])


class CoreLineTests(SimpleTestCase):
    def test_random_blades_agree_to_two_hundredths(self) -> None:
        rng = random.Random(20261123)
        compared = 0
        for number in range(24):
            data = random_blade(rng)
            stations: list[Station] = list(Cut.of(read_blade(data)).exposure(7))
            naive = Naive(data)
            for s in rng.sample(stations, 3):
                want = [i for i in naive.shown(s.x, s.side) if i[1] - i[0] > 0.15]
                got = [i for i in s.shown if i[1] - i[0] > 0.15]
                with self.subTest(number=number, x=s.x, side=s.side):
                    self.assertEqual(len(got), len(want), (got, want))
                    for a, b in zip(got, want, strict=True):
                        np.testing.assert_allclose(a, b, atol=NEAR)
                        compared += 1
        self.assertGreater(compared, 50)


def forged(rng: random.Random) -> Blade:
    data = random_blade(rng)
    data["forging"] = {
        "share": 1.0,
        "allowance": 0.4,
        "bar_thickness": 6.0,
        "point_cut": {"side": rng.choice(["spine", "edge"]), "length": rng.uniform(25, 50)},
    }
    data["errors"], data["correction"] = {}, {}
    return read_blade(data)


def sawn(d: float, cut: float) -> float:
    """The saw's straight cut with its corner blurred over a sixth of its length to either side: share of the width."""
    n = 60
    return sum(min((d + cut / 6 * (2 * (i + 0.5) / n - 1)) / cut, 1.0) for i in range(n)) / n


def beyond(d: float, cut: float) -> float:
    """Its area up to d, by slices."""
    if d < 0.8 * cut:
        return d * d / (2 * cut)
    n = 80
    first = 0.8 * cut
    return first * first / (2 * cut) + sum(sawn(first + (d - first) * (i + 0.5) / n, cut) for i in range(n)) / n * (d - first)


class ForgingTests(SimpleTestCase):
    """Volumes by adding up slices and strips."""

    def test_random_blades_take_their_steel_from_the_same_places(self) -> None:
        rng = random.Random(7)
        for _ in range(4):
            blade = forged(rng)
            geometry = Geometry.of(blade, 6.0)
            stock = Stock(300.0, 36.0, 6.0, 0.0, -2.0, False)
            made = ForgeMap(geometry, stock)
            naive = Naive(blade.model_dump(mode="json", exclude_none=True))
            strip, slices = 60, 800
            area = []
            for i in range(slices):
                x = (i + 0.5) / slices * LENGTH
                tall = naive.height(x)
                hs = [(k + 0.5) / strip * tall for k in range(strip)]
                area.append(sum((naive.full("right", x, h) + naive.full("left", x, h)) / 2 + 0.8 for h in hs) / strip * tall)
            cut = blade.forging.point_cut.length
            for x in (20.0, 70.0, 125.0, 150.0):
                first = round(x / LENGTH * slices)
                volume = sum(area[first:]) * LENGTH / slices
                low, high = 0.0, 300.0
                for _ in range(60):
                    left = (low + high) / 2  # mm of bar from the tip
                    held = 6.0 * 36.0 * beyond(left, cut)
                    low, high = (left, high) if held < volume else (low, left)
                tall = naive.height(x)
                y = between(naive.edge_y, x) + 0.4 * tall
                xi, eta = made.bar_point(np.array([x]), np.array([y]))
                self.assertAlmostEqual(float(xi[0]), 300.0 - low, delta=0.1)
                ts = [
                    (naive.full("right", x, (k + 0.5) / 400 * tall) + naive.full("left", x, (k + 0.5) / 400 * tall)) / 2 + 0.8
                    for k in range(400)
                ]
                share = sum(ts[:160]) / sum(ts)
                wide = 36.0 * sawn(low, cut)
                begin = 0.0 if blade.forging.point_cut.side == "spine" else 36.0 - wide
                self.assertAlmostEqual(float(eta[0]), begin + wide * share, delta=0.1)

    def test_weight_by_throwing_darts(self) -> None:
        rng = random.Random(3)
        data = random_blade(rng)
        data["errors"], data["correction"] = {}, {}
        naive = Naive(data)
        body = blade_body(Geometry.of(read_blade(data)))
        hits = moment = 0.0
        tall = max(p[1] for p in data["outline"]["spine"])
        n = 20_000
        a = data["grind"]["share_right"]
        for _ in range(n):
            x, y = rng.uniform(0, LENGTH), rng.uniform(0, tall)
            h = y - between(naive.edge_y, x)
            if 0 <= h <= naive.height(x):
                t = a * naive.full("right", x, h) + (1 - a) * naive.full("left", x, h)
                hits += t
                moment += t * x
        volume = hits / n * LENGTH * tall
        self.assertAlmostEqual(volume / body.volume, 1.0, delta=0.03)
        self.assertAlmostEqual(moment / hits, body.middle, delta=1.5)
