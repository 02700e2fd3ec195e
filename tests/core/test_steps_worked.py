"""One hand-worked case for each step: a formula wrong the same way in both directions passes the loops."""

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, solid, stack
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.points import Points
from varistrat.core.bars.spread import forging_spread, rolling_spread
from varistrat.core.bars.trace import Trace


def pulled(f: Forged, *point: float) -> tuple[float, float, float]:
    """Where one point of the finished bar was at the start."""
    p = Points(*(np.array([float(v)]) for v in point))
    Trace(f).begun(p)
    return float(p.x[0]), float(p.y[0]), float(p.z[0])


def steel(f: Forged, *point: float) -> str:
    trace = Trace(f)
    index = trace.probe(*(np.array([float(v)]) for v in point))[0]
    return trace.steels[index] if index >= 0 else ""


class WorkedTests(SimpleTestCase):
    def close(self, got: tuple[float, ...], want: tuple[float, ...], places: int = 6) -> None:
        for a, b in zip(got, want, strict=True):
            self.assertAlmostEqual(a, b, places)

    def test_weld(self) -> None:
        # 100 x 30 x 20 to 15 high: 60 000 mm3 / (30 x 15) = 133.33 long
        f = forged(solid(100, 30, 20), {"kind": "weld", "thickness": 15.0})
        self.assertAlmostEqual(f.bar.length, 400 / 3)
        self.close(pulled(f, 40, 6, 3), (30, 6, 4))

    def test_draw_with_spread(self) -> None:
        # Tomlinson and Stringer: b/w = 1 gives s = .14 + .36 - .054 = .446; published table .45
        self.assertAlmostEqual(forging_spread(25, 25), 0.446)
        self.assertAlmostEqual(forging_spread(12.5, 25), 0.31, 2)
        self.assertEqual(forging_spread(500, 25), forging_spread(82.5, 25))
        f = forged(solid(100, 25, 20), {"kind": "draw", "thickness": 16.0, "bite": 25.0})
        self.assertAlmostEqual(f.bar.width, 25 * 1.25**0.446)
        # the width given: thickness and width change parts
        g = forged(solid(100, 25, 20), {"kind": "draw", "width": 20.0, "bite": 20.0})
        self.assertAlmostEqual(g.bar.thickness, 20 * 1.25**0.446)

    def test_draw_under_rolls(self) -> None:
        # Wusatowski, 25 x 25 to 21 in rolls of 75: w1/w0 = 1.036 (table in docs/physics.md)
        self.assertAlmostEqual((25 / 21) ** rolling_spread(25, 25, 75), 1.036, 3)
        self.assertAlmostEqual((25 / 21) ** rolling_spread(40, 25, 100), 1.020, 3)

    def test_turn(self) -> None:
        # +90 about x carries +y to +z: what is on top was at +y
        f = forged(solid(100, 30, 20), {"kind": "turn", "degrees": 90.0})
        self.close(pulled(f, 10, 0, 14), (10, 14, 0))
        self.assertEqual((f.bar.width, f.bar.thickness), (20, 30))
        # 180 about z: end for end, same face up
        self.close(pulled(forged(solid(100, 30, 20), {"kind": "turn", "degrees": 180.0, "about": "z"}), 10, 4, 5), (90, -4, 5))
        self.close(pulled(forged(solid(100, 30, 20), {"kind": "turn", "degrees": 180.0, "about": "y"}), 10, 4, 5), (90, 4, -5))
        # 90 about z carries +x to +y: the bar's far end is now at +y
        across = forged(solid(100, 30, 20), {"kind": "turn", "degrees": 90.0, "about": "z"})
        self.close(pulled(across, 15, 50, 0), (100, 0, 0))
        self.close(pulled(across, 0, 0, 0), (50, 15, 0))

    def test_section(self) -> None:
        # a 20 mm square to a round of its own area: radius 20/sqrt(pi); the skin's middle goes to the skin
        f = forged(solid(100, 20, 20), {"kind": "section", "form": "round"})
        self.assertAlmostEqual(f.bar.width, 40 / np.sqrt(np.pi))
        self.assertAlmostEqual(f.bar.length, 100)
        self.close(pulled(f, 30, 20 / np.sqrt(np.pi), 0), (30, 10, 0))
        r = 20 / np.sqrt(2 * np.pi)
        self.close(pulled(f, 30, r, r), (30, 10, 10))

    def test_bias_is_turn_and_square(self) -> None:
        f = forged(stack(("1084", 10), ("15n20", 10), width=20), {"kind": "turn", "degrees": 45.0}, {"kind": "section", "form": "square"})
        self.assertAlmostEqual(f.bar.width, 20)
        # turned +45 about x, the upper layer lies to the upper left (-y, +z)
        self.assertEqual(steel(f, 50, -6, 6), "15n20")
        self.assertEqual(steel(f, 50, 6, -6), "1084")

    def test_a_right_hand_twist_falls_to_the_right(self) -> None:
        # a quarter turn over 100 mm: at the end +phi = 90 degrees about +x carries +y to +z
        f = forged(solid(100, 20, 20), {"kind": "section", "form": "round"}, {"kind": "twist", "turns": 0.25, "hand": "right"})
        r = f.bar.width / 4
        x, y, z = pulled(f, 100, 0, r)
        self.assertAlmostEqual(x, 100)
        self.assertGreater(y, 4)
        self.assertAlmostEqual(z, 0, 6)
        # seen from +z, x to the right: the line of steel on top at x = 50 came from +y; further right, from lower y
        left = forged(solid(100, 20, 20), {"kind": "section", "form": "round"}, {"kind": "twist", "turns": 0.25, "hand": "left"})
        self.assertLess(pulled(left, 100, 0, r)[1], -4)

    def test_bands_on_the_top_of_a_right_twist_fall_to_the_right(self) -> None:
        f = forged(stack(("1084", 10), ("15n20", 10), width=20, length=100), {"kind": "twist", "turns": 1.0})
        trace, r = Trace(f), f.bar.width / 2
        theta = np.linspace(0.3, np.pi - 0.3, 400)  # over the top, from +y to -y
        edges = []
        for x in (20.0, 24.0, 28.0):
            s = trace.place(Points(np.full(400, x), 0.99 * r * np.cos(theta), 0.99 * r * np.sin(theta)))
            at = np.flatnonzero(np.diff(trace.row.height_of(s)[1] > 10))
            edges.append(r * np.cos(theta[at[0]]))
        self.assertTrue(edges[0] > edges[1] > edges[2], edges)

    def test_twist_zones_overlap_and_stop(self) -> None:
        zones = [{"from": 0, "to": 50, "turns": 1}, {"from": 25, "to": 75, "turns": 2, "hand": "left"}]
        step = forged(solid(100, 20, 20), {"kind": "twist", "zones": zones}).stages[0].step
        phi = step.phi(np.array([0.0, 25.0, 50.0, 75.0, 100.0]), 100.0) / (2 * np.pi)
        np.testing.assert_allclose(phi, [0, 0.5, 1 - 1, 1 - 2, -1], atol=1e-12)

    def test_twist_figures(self) -> None:
        # 20 mm square, 5 turns in 100: thread (sqrt2 - 1)/2 W = .207 W; shear = (D/2) 2 pi n/L
        f = forged(solid(100, 20, 20), {"kind": "twist", "turns": 5.0})
        row = f.rows()[1]
        self.assertAlmostEqual(row["estimates"]["thread_depth"], 0.2071 * 20, 3)
        tears = next(x for x in row["findings"] if x["code"] == "twist_tears")
        self.assertAlmostEqual(tears["value"], 20 / np.sqrt(np.pi) * 2 * np.pi * 5 / 100, 9)
        octagon = forged(solid(100, 20, 20), {"kind": "section", "form": "octagon"}, {"kind": "twist", "turns": 5.0})
        self.assertAlmostEqual(octagon.rows()[2]["estimates"]["thread_depth"], 0.0412 * octagon.bars[1].width, 3)
        self.assertNotIn("cold_shut", [x["code"] for x in octagon.rows()[2]["findings"]])
        self.assertIn("cold_shut", [x["code"] for x in row["findings"]])

    def test_rounding_first_does_not_change_the_figure(self) -> None:
        start = stack(("1084", 6), ("15n20", 8), ("1084", 6), width=20)
        twist = {"kind": "twist", "turns": 6.0}
        plain, rounded = forged(start, twist), forged(start, {"kind": "section", "form": "octagon"}, twist)
        rng = np.random.default_rng(3)
        pts = rng.uniform(-0.6, 0.6, (2, 500)) * plain.bar.width / 2
        x = rng.uniform(0, 200, 500)
        a, b = (Trace(f).probe(x, *pts) for f in (plain, rounded))
        self.assertGreater((a == b).mean(), 0.995)

    def test_restack(self) -> None:
        # 300 long in 3 with 1.5 kerf: 99 each; the piece from x = 0 lowest; 20 - 2 x 0.5 = 19 high each
        f = forged(solid(300, 30, 20), {"kind": "restack", "pieces": 3, "kerf": 1.5, "grind": 0.5, "lay": ["as_cut", "turned_over"]})
        self.assertAlmostEqual(f.bar.length, 99)
        self.assertAlmostEqual(f.bar.thickness, 57)
        self.close(pulled(f, 10, 3, -28.5), (10, 3, -9.5))
        # middle piece, turned over about y: x -> 99 - x, z -> -z, then + 100.5
        self.close(pulled(f, 10, 3, 2), (100.5 + 89, 3, -2))
        self.close(pulled(f, 10, 3, 28.5), (201 + 10, 3, 9.5))
        losses = f.rows()[1]["losses"]
        self.assertAlmostEqual(losses["kerf"], 2 * 1.5 * 600)
        self.assertAlmostEqual(losses["grind"], 3 * 2 * 0.5 * 30 * 99)

    def test_restack_side_by_side_rolled(self) -> None:
        f = forged(solid(200, 30, 20), {"kind": "restack", "pieces": 2, "along": "width", "lay": ["as_cut", "rolled"]})
        self.assertEqual((f.bar.width, f.bar.thickness), (60, 20))
        self.close(pulled(f, 10, -25, 4), (10, -10, 4))
        self.close(pulled(f, 10, 25, 4), (110, -10, -4))

    def test_interleaf_settles_where_it_lies(self) -> None:
        f = forged(solid(200, 30, 20), {"kind": "restack", "pieces": 2, "interleaf": {"steel": "nickel", "thickness": 2.0}})
        self.assertEqual(f.bar.thickness, 42)
        for z, want in (
            (-21, "1084"),
            (-1.001, "1084"),
            (-1, "nickel"),
            (0, "nickel"),
            (0.999, "nickel"),
            (1, "1084"),
            (21, "1084"),
            (21.1, ""),
        ):
            self.assertEqual(steel(f, 50, 0, z), want, z)
        self.assertAlmostEqual(f.rows()[1]["gains"]["interleaf"], 2 * 30 * 100)

    def test_fold(self) -> None:
        # 200 x 30 x 20, 1 mm ground off the inside: 100 x 30 x 38
        f = forged(solid(200, 30, 20), {"kind": "fold", "grind": 1.0})
        self.assertEqual((f.bar.length, f.bar.thickness), (100, 38))
        self.close(pulled(f, 10, 5, -19), (10, 5, -10))
        self.close(pulled(f, 10, 5, -0.5), (10, 5, 8.5))
        # the far half lies face down on top: its outside was the bottom of the far end
        self.close(pulled(f, 10, 5, 19), (190, 5, -10))
        self.close(pulled(f, 0, 5, 0), (200, 5, 9))

    def test_uneven_first_mode_by_hand(self) -> None:
        from varistrat.core.bars.model import Unevenness

        amount, wave, seed = 0.5, 40.0, 11
        rng = np.random.default_rng(seed)
        th, k, p0 = rng.uniform(0, 2 * np.pi, 8), 2 * np.pi / wave * rng.uniform(0.7, 1.4, 8), rng.uniform(0, 2 * np.pi, 8)
        x, y, z = 80.0, 2.0, 1.0
        for i in range(8):
            for sign in (1, -1):
                s = x * np.cos(th[i]) + y * np.sin(th[i])
                c = amount / 4 * np.cos(k[i] * s + sign * np.pi * z / 20 + p0[i])
                z -= c
                x += sign * np.pi / (k[i] * 20) * c * np.cos(th[i])
                y += sign * np.pi / (k[i] * 20) * c * np.sin(th[i])
        p = Points(np.array([80.0]), np.array([2.0]), np.array([1.0]))
        Unevenness(amount=amount, wavelength=wave, seed=seed).pull(p, forged(solid(200, 60, 20)).bar)
        self.close((p.x[0], p.y[0], p.z[0]), (x, y, z), 9)

    def test_uneven_rms_is_about_its_amount(self) -> None:
        f = forged(solid(2000, 400, 40), {"kind": "uneven", "amount": 0.5, "wavelength": 30.0, "seed": 5})
        rng = np.random.default_rng(1)
        n = 20_000
        p = Points(rng.uniform(100, 1900, n), rng.uniform(-150, 150, n), np.zeros(n))
        Trace(f).begun(p)
        self.assertAlmostEqual(float(np.sqrt((p.z**2).mean())), 0.5, delta=0.1)

    def test_grind_and_trim(self) -> None:
        f = forged(solid(100, 30, 20), {"kind": "grind", "top": 3.0, "front": 4.0}, {"kind": "trim", "start": 7.0, "end": 3.0})
        self.assertEqual((f.bar.length, f.bar.width, f.bar.thickness), (90, 26, 17))
        # the new top face was 3 mm down; the new front face 4 mm in
        self.close(pulled(f, 0, -13, 8.5), (7, -11, 7))
        self.assertAlmostEqual(f.rows()[2]["losses"]["ends"], 10 * 26 * 17)

    def test_stack_counts_from_the_bottom_and_weighs_by_volume(self) -> None:
        f = forged(stack(("1084", 4), ("nickel", 2), width=10, length=100))
        self.assertEqual([steel(f, 5, 0, z) for z in (-3, 0.999, 1, 3, 3.1)], ["1084", "1084", "nickel", "nickel", ""])
        self.assertAlmostEqual(f.rows()[0]["mass"], 4 * 1000 * 7850e-6 + 2 * 1000 * 8890e-6)
