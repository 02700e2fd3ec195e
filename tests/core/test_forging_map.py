"""A bar forged to a blade's outline: volumes matched, worked by hand, and seen in the picture."""

from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json, recipe, stack
from varistrat.core.bars.trace import pool
from varistrat.core.blade.forging import ForgeMap, Stock
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.measures import offcuts
from varistrat.core.blade.model import FORMAT, Blade, read_blade
from varistrat.core.blade.point_cut import PointCut
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.pattern.picture import PREVIEW, draw
from varistrat.core.pattern.views import BladeView

BELLY: Json = {"shape": "drop_point", "length": 150.0, "height": 30.0}


def forged_blade(
    outline: Json = BELLY, share: float = 1.0, side: str = "none", cut: float = 0.0, blank: Json | None = None, **more: Any
) -> Blade:
    grind = {"edge_thickness": 0.4}
    return read_blade(
        {
            "format": FORMAT,
            "outline": outline,
            "spine_thickness": {"heel": 4.0, "mid": 3.5, "tip": 2.0},
            "grind": {"right": grind, "left": grind},
            "forging": {"share": share, "bar_thickness": 5.0, "point_cut": {"side": side, "length": cut}} | (blank or {"allowance": 0.5}),
            "laminate": {"core": {"steel": "1095", "share": 0.3}, "clad": {"steel": "1018"}},
        }
        | more
    )


def slab(outline: Json, thickness: float, **more: Any) -> Geometry:
    """A blade whose forged blank is as thick everywhere as its bar."""
    blank = {"edge_thickness": thickness, "spine_thickness": thickness}
    return Geometry.of(forged_blade(outline, blank=blank, **more), thickness)


def triangle(length: float, height: float) -> Json:
    return {"edge": [[0, 0], [length, 0]], "spine": [[0, height], [length, 0]]}


class WorkedTests(SimpleTestCase):
    def test_a_plain_point_is_drawn_from_little_steel(self) -> None:
        """A triangle 100 long from a bar as wide as its heel: V_f = t H (L - x)^2/(2 L), so E - X = (L - x)^2/(2 L)."""
        g = slab(triangle(100.0, 20.0), 4.0)
        m = ForgeMap(g, Stock(200.0, 20.0, 4.0, 0.0, 0.0, False))
        x = np.array([0.0, 50.0, 90.0])
        xi, eta = m.bar_point(x, np.zeros(3))
        np.testing.assert_allclose(200.0 - xi, [50.0, 12.5, 0.5], atol=0.01)
        np.testing.assert_allclose(eta, 0.0, atol=1e-9)
        half = m.bar_point(x[:2], np.array([10.0, 5.0]))[1]
        np.testing.assert_allclose(half, 10.0, atol=1e-3)

    def test_a_cut_of_the_same_shape_moves_nothing(self) -> None:
        """The bar's point cut to the very triangle: identity, up to where the rounding of its corner begins."""
        g = slab(triangle(100.0, 20.0), 4.0, side="spine", cut=100.0)
        m = ForgeMap(g, Stock(130.0, 20.0, 4.0, 0.0, 0.0, False))
        x, y = np.array([17.0, 40.0, 80.0]), np.array([1.0, 6.0, 2.0])
        xi, eta = m.bar_point(x, y)
        np.testing.assert_allclose(xi, x + 30.0, atol=0.01)
        np.testing.assert_allclose(eta, y, atol=0.01)
        self.assertLess(m.stretch()[0], 1.05)

    def test_thicker_steel_fills_more_of_the_bar(self) -> None:
        """Across a wedge from 1 to 3 thick, F = (u + u^2)/2: half-way up, 3/8 of the width."""
        straight = {"edge": [[0, 0], [100, 0]], "spine": [[0, 20], [100, 20]]}
        g = Geometry.of(forged_blade(straight, blank={"edge_thickness": 1.0, "spine_thickness": 3.0}), 2.0)
        m = ForgeMap(g, Stock(100.0, 20.0, 2.0, 0.0, 0.0, False))
        xi, eta = m.bar_point(np.array([37.0]), np.array([10.0]))
        self.assertAlmostEqual(float(eta[0]), 7.5, 3)
        self.assertAlmostEqual(float(xi[0]), 37.0, 3)


class PointCutTests(SimpleTestCase):
    cut = PointCut(60.0)

    def test_widths_worked_by_hand(self) -> None:
        """60 long: straight to 50, rounded to 70. Half-way, s = 1/2: 50/60 + 20/60 (1/2 - 1/8) = 23/24."""
        np.testing.assert_allclose(self.cut.width(np.array([0.0, 30.0, 50.0, 60.0, 70.0, 90.0])), [0, 0.5, 5 / 6, 23 / 24, 1, 1])
        self.assertAlmostEqual(self.cut.lost, 30 + 100 / 360)

    def test_what_lies_beyond_is_the_integral_and_back_again(self) -> None:
        d = np.linspace(0, 120, 120_001)
        w = self.cut.width(d)
        summed = np.concatenate([[0], np.cumsum((w[1:] + w[:-1]) / 2)]) * 1e-3
        np.testing.assert_allclose(self.cut.filled(d), summed, atol=1e-6)
        np.testing.assert_allclose(self.cut.reach(self.cut.filled(d)), d, atol=1e-8)
        np.testing.assert_allclose(PointCut(0.0).reach(PointCut(0.0).filled(d)), d)

    def test_no_corner_anywhere(self) -> None:
        """The slope never jumps: its change over a micron is no more than the arc's, 1/(2 b p) for a width of 1."""
        d = np.linspace(1, 119, 500_001)
        bent = np.diff(self.cut.width(d), 2) / (d[1] - d[0]) ** 2
        self.assertLess(float(np.abs(bent).max()), 1.01 / (2 * 10 * 60))

    def test_a_layer_runs_into_the_cut_without_a_kink(self) -> None:
        """A line a quarter up the bar's width, seen in the blade: its bend is spread over the rounding, not over a hair."""
        for side in ("spine", "edge"):
            g = Geometry.of(forged_blade(side=side, cut=40.0), 5.0)
            m = ForgeMap(g, Stock(260.0, 32.0, 5.0, 0.0, -1.0, False))
            x = np.linspace(30, 115, 2000)
            y = np.linspace(0.02, 0.98, 600)
            low, tall = g.curves.edge(x), g.height(x)
            eta = m.bar_point(x[:, None], low[:, None] + y * tall[:, None])[1]
            line = low + tall * np.array([np.interp(8.0 if side == "spine" else 24.0, row, y, left=np.nan, right=np.nan) for row in eta])
            step = 12
            slope = (line[step:] - line[:-step]) / (x[step:] - x[:-step])
            turn = np.abs(slope[step:] - slope[:-step])[: -step or None]
            self.assertLess(float(np.nanmax(turn)), 0.02, f"{side}: slope turned over {x[step] - x[0]:.1f} mm")


class VolumeTests(SimpleTestCase):
    def test_every_neighbourhood_keeps_its_volume(self) -> None:
        for share in (1.0, 0.5):
            for side in ("none", "spine", "edge"):
                with self.subTest(share=share, side=side):
                    g = Geometry.of(forged_blade(share=share, side=side, cut=0.0 if side == "none" else 40.0), 5.0)
                    m = ForgeMap(g, Stock(260.0, 32.0, 5.0, 0.0, -1.0, False))
                    rng = np.random.default_rng(3)
                    x = rng.uniform(2, 145, 3000)
                    h = rng.uniform(0.05, 0.95, 3000) * g.height(x)
                    y = h + g.curves.edge(x)
                    d, inside = 0.05, m.outside(x, y) < -0.2
                    across = [
                        [a - b for a, b in zip(m.bar_point(x + dx, y + dy), m.bar_point(x - dx, y - dy), strict=True)]
                        for dx, dy in ((d, 0), (0, d))
                    ]
                    (xx, yx), (xy, yy) = [[v / (2 * d) for v in pair] for pair in across]
                    det = ((xx * yy - xy * yx) * 5.0 / g.faces(x, h).forged)[inside]
                    self.assertGreater(inside.mean(), 0.85)
                    np.testing.assert_allclose(np.quantile(det, [0.02, 0.5, 0.98]), 1.0, atol=0.03)

    def test_the_bar_gives_what_the_blade_takes(self) -> None:
        g = Geometry.of(forged_blade(side="edge", cut=40.0), 5.0)
        m = ForgeMap(g, Stock(260.0, 32.0, 5.0, 0.0, -1.0, False))
        x = (np.arange(2000) + 0.5) / 2000 * 150
        u = (np.arange(200) + 0.5) / 200
        volume = float((g.faces(x[:, None], u * g.height(x)[:, None]).forged.mean(axis=1) * g.height(x)).sum() * 150 / 2000)
        self.assertAlmostEqual(float(m.volume[0]) / volume, 1.0, 4)
        # 40 of cut hold half their width, less 40/216 for the rounded corner
        self.assertAlmostEqual((260.0 - m.heel - 20.0 - 40 / 216) * 32 * 5 / volume, 1.0, 4)


class PatternTests(SimpleTestCase):
    """Which layer of the bar's width lies along the edge: that is what the cut decides."""

    def along_the_belly(self, side: str) -> np.ndarray:
        m = ForgeMap(Geometry.of(forged_blade(side=side, cut=40.0), 5.0), Stock(260.0, 32.0, 5.0, 0.0, -1.0, False))
        x = np.linspace(60, 140, 9)
        return m.bar_point(x, m.geometry.curves.edge(x) + 1.0)[1]

    def test_cut_on_the_spine_side_they_follow_the_belly(self) -> None:
        self.assertLess(float(np.max(self.along_the_belly("spine"))), 3.0)

    def test_cut_on_the_edge_side_they_run_out_of_it(self) -> None:
        eta = self.along_the_belly("edge")
        self.assertLess(float(eta[0]), 3.0)
        self.assertGreater(float(eta[-1]), 20.0)

    def test_a_little_forging_is_nearly_none(self) -> None:
        """As the forged share goes to nothing the map goes to the plain cut."""
        bar = recipe(stack(("1084", 2.5), ("15n20", 2.5), width=36, length=180))
        x, h = np.array([10.0, 60.0, 120.0]), np.array([3.0, 12.0, 5.0])
        got = []
        for share in (0.0, 1e-3):
            data = forged_blade(share=share).as_json() | {"recipe": bar}
            del data["laminate"]
            if not share:
                data["forging"] = {}
            placed = Cut.of(read_blade(data)).placed
            got.append(placed.inside_bar(x, h, np.zeros(3), placed.geometry.faces(x, h)))
        for a, b in zip(*got, strict=True):
            np.testing.assert_allclose(a, b, atol=0.25)

    def test_the_core_line_does_not_care_how_metal_ran_in_the_plane(self) -> None:
        clad = 5.0 * 0.35
        data = forged_blade(side="spine", cut=40.0).as_json()
        laminate = Cut.of(read_blade(data))
        del data["laminate"]
        data["recipe"] = recipe(stack(("1018", clad), ("1095", 1.5), ("1018", clad), width=32, length=260))
        traced = Cut.of(read_blade(data))
        for a, b in zip(laminate.exposure(12), traced.exposure(12), strict=True):
            self.assertEqual(a.state, b.state)
            np.testing.assert_allclose(a.shown, b.shown, atol=2e-3)

    def test_a_forged_blade_is_drawn(self) -> None:
        data = forged_blade(side="spine", cut=40.0).as_json() | {
            "recipe": recipe(stack(*[("1084", 2.0), ("15n20", 2.0)] * 8, width=5, length=260), {"kind": "turn", "degrees": 90.0})
        }
        del data["laminate"]
        cut = Cut.of(read_blade(data))
        with pool() as executor:
            picture = draw(cut.subject(), BladeView(cut.placed, "right"), 300, executor, PREVIEW)
        # layers stand on edge: a line from spine to belly crosses many of them, also near the point
        for column in (60, 150, 230):
            at = picture[:, column]
            self.assertGreater(float(np.ptp(at[at > 0.02])), 0.15)


class FindingTests(SimpleTestCase):
    def cut_from(self, length: float, **more: Any) -> Cut:
        data = forged_blade(**more).as_json() | {"recipe": recipe(stack(("1084", 2.5), ("15n20", 2.5), width=32, length=length))}
        del data["laminate"]
        return Cut.of(read_blade(data))

    def codes(self, cut: Cut) -> set[str]:
        return {f.code for f in cut.placed.checks()}

    def test_stretch_is_pointed_out_and_cured_by_a_cut(self) -> None:
        plain = self.cut_from(260.0)
        self.assertIn("stretched", self.codes(plain))
        assert plain.placed.forge_map
        self.assertGreater(plain.placed.forge_map.stretch()[0], 6.0)
        for part in (1.0, 1.5):
            self.assertNotIn("stretched", self.codes(self.cut_from(260.0, side="spine", cut=part * 32)))

    def test_how_far_is_too_far_is_the_smiths_to_say(self) -> None:
        strict = self.cut_from(260.0, side="spine", cut=40.0, blank={"allowance": 0.5, "stretch_most": 1.1})
        self.assertIn("stretched", self.codes(strict))
        assert strict.placed.forge_map
        most = strict.placed.forge_map.stretch()[0]
        for part, told in ((0.98, True), (1.02, False)):
            blank = {"allowance": 0.5, "stretch_most": part * most}
            self.assertEqual("stretched" in self.codes(self.cut_from(260.0, side="spine", cut=40.0, blank=blank)), told, part)

    def test_a_bar_too_short(self) -> None:
        found = [f for f in self.cut_from(60.0).placed.checks() if f.code == "bar_too_short"]
        self.assertEqual(len(found), 1)
        self.assertGreater(found[0].value or 0, 5.0)

    def test_the_tang_takes_its_steel_too(self) -> None:
        tang = {"length": 90.0, "width": 16.0, "end_width": 8.0}
        bare, with_tang = self.cut_from(105.0, side="spine", cut=40.0), self.cut_from(105.0, side="spine", cut=40.0, tang=tang)
        assert bare.placed.forge_map and with_tang.placed.forge_map
        self.assertAlmostEqual(with_tang.placed.forge_map.short - bare.placed.forge_map.short, 90 * 12 * (4.0 + 1.0), 0)

    def test_what_is_left_lies_behind_the_heel_or_before_the_tip(self) -> None:
        left = {o.name: o for o in offcuts(self.cut_from(260.0, side="spine", cut=40.0).placed)}
        self.assertEqual(set(left), {"heel end"})
        held = self.cut_from(260.0, side="spine", cut=40.0, place={"x": 30.0})
        assert held.placed.forge_map
        self.assertAlmostEqual(held.placed.forge_map.heel, 30.0, 1)
        kept = {o.name: o for o in offcuts(held.placed)}
        self.assertAlmostEqual(kept["heel end"].length, 28.0, 1)
        self.assertAlmostEqual(left["heel end"].length + 2, 28 + kept["tip end"].length + 4, 0)

    def test_askew_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "place.angle"):
            self.cut_from(260.0, place={"angle": 5.0})
