"""The blade: outlines, grinds, faces, and turning it onto its bar."""

from itertools import product

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import blade, forged, recipe, solid
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.section import Section
from varistrat.core.blade import grinds
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import Grind, Place, read_blade
from varistrat.core.blade.outline import _SHAPES, curves
from varistrat.core.blade.place import Placed
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError


def thickness(h: float, height: float = 40.0, spine: float = 4.0, **fields: float | str) -> float:
    grind = Grind(**{"edge_thickness": 0.4, **fields})  # type: ignore[arg-type]
    return float(grinds.thickness(grind, np.array([float(h)]), np.array([height]), np.array([spine]))[0])


class GrindTests(SimpleTestCase):
    def test_flat(self) -> None:
        self.assertAlmostEqual(thickness(20), 2.2)
        self.assertAlmostEqual(thickness(0), 0.4)
        grind = Grind(edge_thickness=0.4, height=20.0)
        t = grinds.thickness(grind, np.array([10.0, 20.0, 35.0]), np.full(3, 40.0), np.full(3, 4.0))
        np.testing.assert_allclose(t, [2.2, 4.0, 4.0])
        # near the tip the blade is lower than the bevel: the line still reaches the spine
        low = grinds.thickness(grind, np.array([6.0, 12.0]), np.full(2, 12.0), np.full(2, 4.0))
        np.testing.assert_allclose(low, [2.2, 4.0])

    def test_convex_ends_level_with_the_side(self) -> None:
        self.assertAlmostEqual(thickness(0, kind="convex"), 0.4)
        self.assertAlmostEqual(thickness(40, kind="convex"), 4.0)
        # R = (H^2 + D^2)/(2 D), D = 1.8; half thickness at 20 = 2 - R + sqrt(R^2 - 20^2)
        r = (40**2 + 1.8**2) / 3.6
        self.assertAlmostEqual(thickness(20, kind="convex"), 2 * (2 - r + np.sqrt(r * r - 400)), 9)
        self.assertLess(4 - thickness(39.9, kind="convex"), 1e-4)

    def test_hollow_cuts_below_the_line_by_its_sagitta(self) -> None:
        # wheel 400, chord of about 40 mm: sagitta about s^2/8R = 0.5 a face at the middle
        flat, hollow = thickness(20), thickness(20, kind="hollow", wheel_radius=400.0)
        chord = np.hypot(40, 1.8)
        sagitta = 400 - np.sqrt(400**2 - chord**2 / 4)
        self.assertAlmostEqual((flat - hollow) / 2, sagitta, delta=0.005)
        self.assertEqual(thickness(12, kind="hollow", wheel_radius=60.0), 0.0, "ground right through")
        self.assertAlmostEqual(thickness(0, kind="hollow", wheel_radius=400.0), 0.4, 9)

    def test_flat_with_a_convex_band_is_smooth_where_they_meet(self) -> None:
        fields = {"kind": "flat_convex", "flat_edge_thickness": 1.0, "band": 6.0}
        self.assertAlmostEqual(thickness(0, **fields), 0.4, 9)
        self.assertAlmostEqual(thickness(20, **fields), 1.0 + 3.0 / 2, 9)
        e = 1e-4
        below, above = ((thickness(6 + a, **fields) - thickness(6 + b, **fields)) / e for a, b in ((0, -e), (e, 0)))
        self.assertAlmostEqual(below, above, 4)

    def test_incomplete_grinds_are_refused(self) -> None:
        for fields in (
            {"kind": "hollow"},
            {"kind": "flat_convex", "band": 3.0},
            {"kind": "flat_convex", "band": 3.0, "flat_edge_thickness": 0.1},
        ):
            with self.assertRaises(ValueError):
                Grind(edge_thickness=0.4, **fields)  # type: ignore[arg-type]


class OutlineTests(SimpleTestCase):
    def test_every_built_in_shape_is_a_blade(self) -> None:
        self.assertGreaterEqual(len(_SHAPES), 5)
        for shape, point in product(_SHAPES, (0.1, 0.4, 0.9)):
            data = blade().model_dump() | {"outline": {"shape": shape, "length": 150.0, "height": 30.0, "point": point}}
            c = curves(read_blade(data).outline)
            x = np.linspace(0, 150, 300)
            gap = c.spine(x) - c.edge(x)
            self.assertTrue((gap[:-1] > 0).all(), (shape, point))
            if shape != "end_edge":
                self.assertLess(gap[-1], 0.1, "it ends in a tip")
            self.assertAlmostEqual(float(gap[0]), 30, delta=0.5)

    def test_crossed_and_ragged_outlines_are_refused(self) -> None:
        base = blade().model_dump(exclude={"recipe"})
        for outline, word in (
            ({"edge": [[0, 0], [100, 5]], "spine": [[0, 20], [100, 0]]}, "not above the edge"),
            ({"edge": [[0, 0], [50, 0], [40, 0]], "spine": [[0, 20], [40, 20]]}, "steadily"),
            ({"edge": [[0, 0], [100, 0]], "spine": [[0, 20], [90, 20]]}, "different x"),
            ({"edge": [[5, 0], [100, 0]], "spine": [[5, 20], [100, 20]]}, "x = 0"),
            ({"shape": "banana", "length": 100, "height": 20}, "banana"),
        ):
            with self.assertRaisesRegex(InputError, word):
                Geometry.of(read_blade(base | {"outline": outline})).checks()


class FacesTests(SimpleTestCase):
    def test_thickness_is_what_was_asked_whatever_the_share(self) -> None:
        x, h = np.array([[50.0]]), np.linspace(0, 45, 10)
        want = 0.4 + 3.6 * h / 45
        for share in (0.0, 0.3, 0.5, 1.0):
            faces = Geometry.of(blade(share_right=share)).faces(x, h)
            np.testing.assert_allclose(faces.thickness[0], want)
        one_sided = Geometry.of(blade(share_right=1.0)).faces(x, h)
        np.testing.assert_allclose(one_sided.left, -2.2)

    def test_warp_signs(self) -> None:
        x, h = np.array([[100.0]]), np.array([0.0, 22.5, 45.0])
        cup = Geometry.of(blade(errors={"cup": 0.2})).faces(x, h).layers[0]
        np.testing.assert_allclose(cup, [0, 0.2, 0], atol=1e-12)
        twist = Geometry.of(blade(errors={"twist": 1.0})).faces(x, h).layers[0]
        # right-handed about +x carries +y to +z: the spine leans right
        np.testing.assert_allclose(twist, np.tan(np.radians(1)) * np.array([-22.5, 0, 22.5]))
        uneven = Geometry.of(blade(errors={"uneven": 0.2})).faces(x, h)
        np.testing.assert_allclose(uneven.ground_middle[0], -0.1)
        dip = Geometry.of(blade(errors={"dip": [[0, 0.0], [200, 0.4]]})).faces(x, h).layers[0]
        np.testing.assert_allclose(dip, 0.2)

    def test_too_little_steel_is_said_with_the_figure(self) -> None:
        found = Geometry.of(blade(thickness=3.8)).checks()
        self.assertEqual(found[0].code, "not_enough_steel")
        self.assertAlmostEqual(found[0].value or 0, 0.2)
        self.assertEqual(Geometry.of(blade()).checks(), [])
        skin = Geometry.of(blade(forging={"bar_thickness": 4.4, "skin": 0.3})).checks()
        self.assertAlmostEqual(skin[0].value or 0, 0.2)

    def test_a_hollow_thinner_above_its_edge_is_found(self) -> None:
        # needs R >= 20^2 / 3.6 = 111
        for radius, codes in ((100.0, ["hollow_too_deep"] * 2), (120.0, [])):
            grind = {"kind": "hollow", "wheel_radius": radius, "height": 20.0, "edge_thickness": 0.4}
            self.assertEqual([f.code for f in Geometry.of(blade(grind=grind)).checks()], codes)


class PlaceTests(SimpleTestCase):
    bar = Bar(300.0, Section("rectangle", 60.0, 5.0))

    def placed(self, **place: object) -> Placed:
        return Placed.of(Geometry.of(blade().model_copy(update={"place": Place(**place)}), 5.0), self.bar)  # type: ignore[arg-type]

    def test_no_placing_mirrors_steel(self) -> None:
        sides = product((None, "top", "bottom"), (None, "front", "back"), (None, "end", "start"))
        for face, edge, tip in sides:
            try:
                placed = self.placed(right_face=face, edge_side=edge, tip_end=tip, angle=7.0)
            except InputError as e:
                self.assertIn("mirror", str(e))
                self.assertTrue(face and edge and tip)
                continue
            o = np.array(placed.to_bar(*np.zeros((3, 1)))).ravel()
            axes = np.array([np.array(placed.to_bar(*np.eye(3)[:, [i]])).ravel() - o for i in range(3)])
            self.assertAlmostEqual(float(np.linalg.det(axes)), 1.0)
            if tip:
                self.assertEqual(np.sign(axes[0][0]), 1 if tip == "end" else -1)
            if edge:
                self.assertEqual(np.sign(axes[1][1]), 1 if edge == "front" else -1)
            if face:
                self.assertEqual(np.sign(axes[2][2]), 1 if face == "top" else -1)

    def test_left_out_it_lies_at_the_end_midway_across(self) -> None:
        placed = self.placed()
        self.assertEqual((placed.x, placed.y), (0.0, -22.5))
        self.assertEqual(placed.checks(), [])
        self.assertEqual(self.placed(right_face="bottom").x, 300.0)

    def test_running_off_the_bar_is_said_with_the_figure(self) -> None:
        found = self.placed(x=120.0)
        self.assertAlmostEqual(found.checks()[0].value or 0, 20.0)
        self.assertIn("far end", found.checks()[0].what)
        self.assertAlmostEqual(self.placed(y=-35.0).checks()[0].value or 0, 5.0)

    def test_a_round_bar_gives_no_blade(self) -> None:
        f = forged(solid(), {"kind": "section", "form": "round"})
        with self.assertRaisesRegex(InputError, "rectangular"):
            Cut.of(blade(share=None, recipe=recipe(solid())), f)


class BladeFileTests(SimpleTestCase):
    def test_what_is_missing_is_named(self) -> None:
        whole = blade().model_dump(exclude_none=True)
        for change, path in (
            ({"grind": {"right": {}, "left": {"edge_thickness": 0.3}}}, "grind.right.edge_thickness"),
            ({"spine_thickness": {"heel": 4, "mid": 4}}, "spine_thickness.tip"),
            ({"forging": {"share": 0.5, "bar_thickness": 4}}, "forging"),
            ({"forging": {}}, "forging.bar_thickness"),
            ({"outline": {"length": 100, "height": 20}}, "outline.shape"),
            ({"errors": {"cup": "much"}}, "errors.cup"),
            ({"recipe": recipe(solid())}, "laminate"),
            ({"recipe": recipe(solid(steel="x")), "laminate": None}, "recipe.bar.start.steel"),
            ({"colour": 1}, "colour"),
        ):
            with self.assertRaises(InputError) as caught:
                read_blade(whole | change)
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_written_and_read_again(self) -> None:
        b = blade(errors={"dip": [[0, 0.1], [200, 0.2]]}, place={"angle": 3.0})
        self.assertEqual(read_blade(b.as_json()), b)
