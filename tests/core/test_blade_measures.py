"""Shapes, grinds and measures of a blade: each by hand or from a published table."""

from itertools import pairwise
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json, blade, recipe, solid, stack
from varistrat.core.blade.belts import Belt, bevel_plan
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.measures import (
    Handle,
    balance,
    behind_edge,
    bevel_volume,
    blade_body,
    finished_edge,
    hardening_findings,
    included_angle,
    offcuts,
    sections,
    tang_body,
)
from varistrat.core.blade.model import Blade, read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError

AT = np.array([100.0])
DENSITY = 7.85e-3


def geometry(**more: Any) -> Geometry:
    return Geometry.of(blade(**more))


def with_outline(outline: Json, **more: Any) -> Blade:
    return read_blade(blade().as_json() | {"outline": outline} | more)


class OutlineTests(SimpleTestCase):
    def curves(self, **more: Any) -> Any:
        return Geometry.of(with_outline({"shape": "drop_point", "length": 150.0, "height": 30.0} | more)).curves

    def test_every_shape_ends_where_its_tip_is_said_to_lie(self) -> None:
        for shape in ("drop_point", "straight_back", "sheepfoot", "leaf", "skew", "clipped", "hook"):
            with self.subTest(shape):
                c = self.curves(shape=shape, tip=0.4)
                self.assertAlmostEqual(float(c.edge(np.array([150.0]))[0]), 12.0, 6)
                self.assertAlmostEqual(float(c.spine(np.array([150.0]))[0]), 12.0, 6)

    def test_a_chisel_has_its_edge_at_the_end_of_its_bar(self) -> None:
        """48 wide, 60 up the tool, on a bar 50 wide: laid across, its edge lies at the bar's very end, midway across, and follows a
        longer edge; a tip at 0.2 of 30 skews it by 6 mm."""
        bar = recipe(stack(("1018", 6.0), ("1095", 2.0), width=50, length=200))
        for length, middle in ((48.0, 0.0), (40.0, 0.0)):
            outline = {"shape": "end_edge", "length": length, "height": 60.0}
            data = {k: v for k, v in with_outline(outline).as_json().items() if k != "laminate"}
            placed = Cut.of(read_blade(data | {"recipe": bar, "place": {"angle": -90.0}})).placed
            x, y, _ = placed.to_bar(np.array([0.0, length, 0.0, length]), np.array([0.0, 0.0, 60.0, 60.0]), np.zeros(4))
            np.testing.assert_allclose(x, [0, 0, 60, 60], atol=1e-9)
            np.testing.assert_allclose([y.min(), y.max(), y.mean()], [-length / 2, length / 2, middle], atol=1e-9)
            self.assertNotIn("blade_off_bar", {f.code for f in placed.checks()})
        c = self.curves(shape="end_edge", tip=0.2)
        np.testing.assert_allclose(c.edge(np.array([0.0, 75.0, 150.0])), [0, 3, 6])

    def test_belly_hangs_below_a_straight_edge(self) -> None:
        straight, round_ = self.curves(point=0.1), self.curves(point=0.1, belly=0.1)
        x = np.array([0.0, 75.0])
        np.testing.assert_allclose(straight.edge(x) - round_.edge(x), [0.0, 3.0], atol=1e-3)

    def test_clip_says_where_the_spine_begins_to_fall(self) -> None:
        c = self.curves(shape="clipped", clip=0.2)
        np.testing.assert_allclose(c.spine(np.array([60.0, 119.0])), 30.0)
        self.assertLess(float(c.spine(np.array([135.0]))[0]), 29.0)

    def test_heel_and_choil(self) -> None:
        c = self.curves(heel=4.0, choil={"length": 10.0, "depth": 3.0})
        # a quarter circle of 4 mm, then half an ellipse 10 long and 3 deep
        np.testing.assert_allclose(
            c.edge(np.array([0.0, 4 - 4 * np.sqrt(0.5), 9.0, 14.0, 30.0])), [4.0, 4 - 4 * np.sqrt(0.5), 3.0, 0.0, 0.0], atol=0.02
        )

    def test_a_choil_longer_than_half_the_blade_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "outline.choil"):
            self.curves(choil={"length": 100.0, "depth": 3.0})


class GrindTests(SimpleTestCase):
    """Shares of 0.4 at the edge and 4 at the spine, 45 high, unless said."""

    def shaped(self, **more: Any) -> Geometry:
        side = {"edge_thickness": 0.4}
        return Geometry.of(read_blade(blade().as_json() | {"grind": {"right": side, "left": side} | more}))

    def test_ricasso_and_plunge(self) -> None:
        g = self.shaped(ricasso=20.0, plunge=10.0)
        edge = g.faces(np.array([10.0, 25.0, 31.0]), np.zeros(3)).thickness
        # half-way in the quarter circle: sqrt(1 - 0.5^2) of what there is to take
        np.testing.assert_allclose(edge, [4.0, 4 - 3.6 * np.sqrt(0.75), 0.4], atol=1e-9)

    def test_swedge(self) -> None:
        g = self.shaped(swedge={"length": 60.0, "height": 9.0, "thickness": 1.0})
        x = np.array([100.0, 180.0, 180.0, 180.0])
        t = g.faces(x, np.array([45.0, 45.0, 40.5, 36.0])).thickness
        full = 0.4 + 3.6 * 40.5 / 45
        np.testing.assert_allclose(t, [4.0, 1.0, (full + 1.0) / 2, 0.4 + 3.6 * 0.8], atol=1e-9)

    def test_swedge_on_one_side_takes_half(self) -> None:
        both, one = (self.shaped(swedge={"length": 60.0, "height": 9.0, "thickness": 1.0, "sides": s}) for s in ("both", "right"))
        at = np.array([180.0]), np.array([45.0])
        taken = 4.0 - both.faces(*at).thickness
        np.testing.assert_allclose(4.0 - one.faces(*at).thickness, taken / 2, atol=1e-9)
        np.testing.assert_allclose(one.faces(*at).left, -2.0)

    def test_fuller(self) -> None:
        g = self.shaped(fuller={"start": 20.0, "end": 120.0, "middle": 30.0, "width": 10.0, "depth": 0.8})
        plain = self.shaped()
        h = np.array([30.0, 24.9, 32.5])
        off = (plain.faces(np.full(3, 70.0), h).right - g.faces(np.full(3, 70.0), h).right).tolist()
        radius = (25 + 0.64) / 1.6
        self.assertAlmostEqual(off[0], 0.8)
        self.assertEqual(off[1], 0.0)
        self.assertAlmostEqual(off[2], np.sqrt(radius**2 - 2.5**2) - (radius - 0.8))
        np.testing.assert_allclose(
            g.faces(np.array([10.0, 130.0]), np.full(2, 30.0)).right, plain.faces(np.array([10.0, 130.0]), np.full(2, 30.0)).right
        )

    def test_a_fuller_through_the_blade_is_stopped(self) -> None:
        g = self.shaped(fuller={"start": 20.0, "end": 120.0, "middle": 10.0, "width": 10.0, "depth": 2.0})
        self.assertIn("ground_through", {f.code for f in g.checks()})

    def test_a_fuller_that_ends_before_it_starts_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "ends before it starts"):
            self.shaped(fuller={"start": 120.0, "end": 20.0, "middle": 10.0, "width": 10.0, "depth": 0.5})

    def test_correction_comes_off_its_own_face(self) -> None:
        g = geometry(correction={"right": [[0, 0.2, 0.0], [200, 0.0, 0.1]]})
        plain = geometry()
        x, h = np.array([100.0, 100.0]), np.array([0.0, 45.0])
        np.testing.assert_allclose(plain.faces(x, h).right - g.faces(x, h).right, [0.1, 0.05], atol=1e-12)
        np.testing.assert_allclose(g.faces(x, h).left, plain.faces(x, h).left)

    def test_a_correction_out_of_order_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "correction"):
            geometry(correction={"left": [[50, 0.1, 0.0], [20, 0.1, 0.0]]})

    def test_single_sided(self) -> None:
        g = geometry(share_right=1.0)
        h = np.linspace(0, 45, 9)
        np.testing.assert_allclose(g.faces(AT, h).left, -2.2)
        np.testing.assert_allclose(g.faces(AT, h).thickness, 0.4 + 3.6 * h / 45)


class EdgeTests(SimpleTestCase):
    def test_published_wedges(self) -> None:
        """Spine, height, edge -> included angle, to the tenth of a degree printed; 1.00 mm at 5 mm for the first."""
        for spine, height, edge, angle in (
            (4, 30, 0.4, 6.9),
            (4, 40, 0.4, 5.2),
            (3, 25, 0.3, 6.2),
            (2.5, 45, 0.2, 2.9),
            (6, 40, 0.6, 7.7),
            (5, 35, 0.5, 7.4),
        ):
            with self.subTest(spine=spine, height=height):
                g = geometry(thickness=spine + 0.4, spine=spine, edge=edge, height=height)
                self.assertAlmostEqual(float(included_angle(g, AT)[0]), angle, delta=0.06)
        self.assertAlmostEqual(float(behind_edge(geometry(spine=4.0, height=30), AT, 5.0)[0]), 1.0, 9)

    def test_square_to_the_edge_on_a_slant(self) -> None:
        """An edge that rises 3 in 4: 5 mm square to it is 6.25 mm up."""
        outline = {"edge": [[0, 0], [80, 60]], "spine": [[0, 40], [80, 100]]}
        g = Geometry.of(with_outline(outline))
        self.assertAlmostEqual(
            float(behind_edge(g, np.array([40.0]), 5.0)[0]), float(g.faces(np.array([40.0]), np.array([6.25])).thickness[0]), 9
        )

    def test_an_edge_is_thin_by_what_the_plan_leaves_not_by_what_is_ground_afterwards(self) -> None:
        thin = geometry(edge=0.4)
        for left, bath, found in ((0.8, "medium_oil", []), (0.69, "medium_oil", ["edge_thin_to_harden"]), (0.4, "air", [])):
            self.assertEqual([f.code for f in hardening_findings(thin, bath, left)], found)

    def test_a_hollow_thin_for_long(self) -> None:
        grind = {"kind": "hollow", "wheel_radius": 300, "height": 40, "edge_thickness": 0.3}
        hollow = geometry(spine=3.0, grind=grind)
        self.assertIn("hollow_thin", {f.code for f in hardening_findings(hollow, "medium_oil", 0.3)})
        self.assertEqual(hardening_findings(hollow, "medium_oil", 0.85), [], "as much thicker as its edge is left")

    def test_what_the_bevels_take_off(self) -> None:
        """A wedge 45 high and 200 long, 4 to 0.4 mm: (4 - 2.2) x 45 x 200."""
        self.assertAlmostEqual(bevel_volume(geometry()), 16_200, delta=120)
        self.assertAlmostEqual(finished_edge(geometry(edge=0.4)), 0.4, 6)


class WeightTests(SimpleTestCase):
    def test_a_wedge_by_hand(self) -> None:
        """200 x 45, 0.4 to 4: mean 2.2; volume 19 800 mm3, its middle at mid-length."""
        body = blade_body(geometry())
        self.assertAlmostEqual(body.volume, 19_800, delta=1)
        self.assertAlmostEqual(body.middle, 100.0, 6)

    def test_a_taper_by_the_book(self) -> None:
        """A slab tapering 4 to 2: x_cg = L (t0 + 2 t1)/(3 (t0 + t1)) = 200 x 8/18."""
        side = {"edge_thickness": 4.0, "height": 0.001}
        data = blade().as_json() | {"grind": {"right": side, "left": side}, "spine_thickness": {"heel": 4.0, "mid": 3.0, "tip": 2.0}}
        self.assertAlmostEqual(blade_body(Geometry.of(read_blade(data))).middle, 200 * 8 / 18, 1)

    def test_tang_and_handle(self) -> None:
        g = geometry(tang={"length": 100.0, "width": 20.0, "end_width": 10.0})
        tang = tang_body(g)
        self.assertAlmostEqual(tang.volume, 4.0 * 100 * 15)
        self.assertAlmostEqual(tang.middle, -100 * (20 + 20) / (3 * 30))
        bare = balance(g, DENSITY)
        self.assertAlmostEqual(bare.point, (19_800 * 100 + tang.volume * tang.middle) / (19_800 + tang.volume), 1)
        wood = balance(g, DENSITY, Handle(120.0, 26.0, 18.0, 0.9e-3))
        oval = np.pi / 4 * 26 * 18 * 120
        self.assertAlmostEqual(wood.handle, (oval - tang.volume) * 0.9e-3, 6)
        self.assertLess(wood.point, bare.point)
        self.assertAlmostEqual(wood.point_bare, bare.point)
        self.assertAlmostEqual(wood.whole, wood.blade + wood.tang + wood.handle)

    def test_sections_hold_the_blade(self) -> None:
        g = geometry()
        (one,) = sections(g, AT, (0.3, 0.0), points=46)
        self.assertAlmostEqual(one.right[10] - one.left[10], 0.4 + 3.6 * 10 / 45)
        assert one.core_right and one.core_left
        self.assertAlmostEqual(one.core_right[-1] - one.core_left[-1], 0.3 * 4.4)
        self.assertAlmostEqual(one.core_right[0], one.right[0])  # all core at the edge


class BevelPlanTests(SimpleTestCase):
    def test_worked(self) -> None:
        """A side that leans 1.8 mm in 45 (0.04): a belt that takes 0.06 lifts the line 0.06 sqrt(1 + 0.04^2)/0.04 = 1.501 mm."""
        plan = bevel_plan(geometry(), "right", [Belt("coarse", 0.0), Belt("fine", 0.06)])
        self.assertAlmostEqual(plan[1].top, 45.0, 6)
        self.assertAlmostEqual(plan[0].top, 45 - 0.06 * np.sqrt(1 + 0.04**2) / 0.04, 3)
        self.assertAlmostEqual(plan[0].edge, 0.4 + 0.12 * np.sqrt(1 + 0.04**2), 6)

    def test_the_coarse_belt_stops_lower_on_a_lower_bevel(self) -> None:
        plan = bevel_plan(geometry(grind={"edge_thickness": 0.4, "height": 20}))
        self.assertAlmostEqual(plan[-1].top, 20.0, 6)
        self.assertTrue(all(a.top < b.top for a, b in pairwise(plan)))

    def test_a_side_that_is_not_ground_has_no_plan(self) -> None:
        with self.assertRaisesRegex(InputError, "does not lean"):
            bevel_plan(geometry(share_right=1.0), "left")


class OffcutTests(SimpleTestCase):
    def test_named_by_where_they_come_from(self) -> None:
        """A blade 200 x 45 on a bar 300 x 70 x 5, its heel 20 mm in, a saw cut of 2 mm each."""
        data = blade(share=None, thickness=5.0, recipe=recipe(solid(300, 70, 5.0)), place={"x": 20.0, "y": -30.0})
        found = {o.name: (round(o.length, 6), round(o.width, 6)) for o in offcuts(Cut.of(data).placed)}
        self.assertEqual(found, {"heel end": (18, 70), "tip end": (78, 70), "spine side": (200, 18)})

    def test_turned_end_for_end_they_change_names(self) -> None:
        data = blade(share=None, thickness=5.0, recipe=recipe(solid(300, 70, 5.0)), place={"x": 280.0, "tip_end": "start"})
        found = {o.name: round(o.length, 6) for o in offcuts(Cut.of(data).placed) if o.name.endswith("end")}
        self.assertEqual(found, {"heel end": 18, "tip end": 78})

    def test_the_tang_must_lie_on_the_bar(self) -> None:
        tang = {"length": 90.0, "width": 16.0, "end_width": 8.0}
        long, short = (blade(share=None, thickness=5.0, recipe=recipe(solid(length, 70, 5.0)), tang=tang) for length in (300, 280))
        self.assertEqual(Cut.of(long).placed.checks(), [])
        self.assertEqual([f.code for f in Cut.of(short).placed.checks()], ["blade_off_bar"])
