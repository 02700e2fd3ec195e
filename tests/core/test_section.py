"""The section map: equal area, quiet centre, one disc for all forms."""

from itertools import product

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from varistrat.core.bars.section import Section

FORMS = ("rectangle", "diamond", "octagon", "round")


def points_in(section: Section, n: int = 4000, seed: int = 1) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    y = rng.uniform(-0.5, 0.5, n) * section.width
    z = rng.uniform(-0.5, 0.5, n) * section.thickness
    keep = section.holds(y, z, -1e-9)
    return y[keep], z[keep]


class SectionMapTests(SimpleTestCase):
    def test_area_of_each_form(self) -> None:
        self.assertAlmostEqual(Section("rectangle", 20, 10).area, 200)
        self.assertAlmostEqual(Section("diamond", 20, 20).area, 200)
        self.assertAlmostEqual(Section("octagon", 10, 10).area, 82.842712, 5)
        self.assertAlmostEqual(Section("round", 10, 10).area, 78.539816, 5)
        for form in FORMS:
            self.assertAlmostEqual(Section.of_area(form, 314.0, 1.3).area, 314.0)

    def test_there_and_back(self) -> None:
        for form, aspect in product(FORMS, (1.0, 1.7)):
            section = Section.of_area(form, 300.0, aspect)
            y, z = points_in(section)
            back = section.from_shares(*section.shares(y, z))
            np.testing.assert_allclose(back, (y, z), atol=1e-9)

    def test_float32_stays_within_a_fiftieth_of_a_thousandth(self) -> None:
        for form in FORMS:
            section = Section.of_area(form, 400.0)
            y, z = points_in(section)
            back = section.from_shares(*section.shares(y.astype(np.float32), z.astype(np.float32)))
            self.assertLess(np.abs(np.array(back) - (y, z)).max(), 5e-5)
            self.assertEqual(back[0].dtype, np.float32)

    def test_area_share_is_the_share_of_points_inside(self) -> None:
        for form in FORMS:
            section = Section.of_area(form, 100.0)
            u, _ = section.shares(*points_in(section, 200_000))
            for share in (0.2, 0.5, 0.8):
                self.assertAlmostEqual(float((u < share).mean()), share, delta=0.004)

    def test_hand_worked_point_of_a_square(self) -> None:
        # unit square, point (0.25, 0): q = 1/16, R^2 = 1/4, c = 1/pi:
        # u = 2q / (c + sqrt(c^2 + 4 (1/4 - c) q)) = 0.20540; on the axis a = 0; on the diagonal a = pi/4
        u, a = Section("rectangle", 1, 1).shares(np.array([0.25, 0.2]), np.array([0.0, 0.2]))
        c = 1 / np.pi
        self.assertAlmostEqual(u[0], 0.125 / (c + np.sqrt(c * c + 0.25 * (0.25 - c))), 12)
        self.assertAlmostEqual(u[0], 0.20540, 4)
        self.assertAlmostEqual(a[0], 0.0, 12)
        self.assertAlmostEqual(a[1], np.pi / 4, 12)

    def test_a_corner_stays_a_corner_and_the_skin_the_skin(self) -> None:
        square, diamond = Section("rectangle", 10, 10), Section("diamond", 10 * np.sqrt(2), 10 * np.sqrt(2))
        y, z = diamond.from_shares(*square.shares(np.array([5.0, 5.0]), np.array([5.0, 0.0])))
        # the square's corner (45 degrees) becomes the middle of the diamond's face, and so on
        np.testing.assert_allclose(np.hypot(y, z), [5.0, 7.0710678], atol=1e-6)

    def test_the_heart_hardly_moves(self) -> None:
        square = Section("rectangle", 20, 20)
        disc = Section.of_area("round", 400.0)
        y, z = np.array([0.9]), np.array([0.3])
        moved = disc.from_shares(*square.shares(y, z))
        self.assertLess(float(np.hypot(moved[0] - y, moved[1] - z)[0]), 0.01)

    def test_equal_area_everywhere(self) -> None:
        step = 1e-6
        for a, b in product(FORMS, FORMS):
            one, two = Section.of_area(a, 250.0, 1.2), Section.of_area(b, 250.0)
            y, z = points_in(one, 300)
            # leave out the creases between sectors, where the map is continuous but not smooth
            angle = np.arctan2(z / one.thickness, y / one.width)
            keep = (np.abs((angle / (np.pi / 8)) - np.rint(angle / (np.pi / 8))) > 0.02) & (np.hypot(y, z) > 0.5)
            y, z = y[keep], z[keep]
            y2, z2 = two.from_shares(*one.shares(y + np.array([[step], [-step], [0], [0]]), z + np.array([[0], [0], [step], [-step]])))
            det = ((y2[0] - y2[1]) * (z2[2] - z2[3]) - (y2[2] - y2[3]) * (z2[0] - z2[1])) / (4 * step * step)
            np.testing.assert_allclose(det, 1, atol=1e-3, err_msg=f"{a} to {b}")

    def test_peeling_a_diamond_is_square_to_its_faces(self) -> None:
        # a 10 mm square on its corner less 1 mm a face is an 8 mm square on its corner
        peeled = Section("diamond", 10 * np.sqrt(2), 10 * np.sqrt(2)).peeled(1.0)
        self.assertAlmostEqual(peeled.area, 64.0)
        self.assertAlmostEqual(Section("octagon", 10, 10).peeled(1).width, 8)

    @given(st.sampled_from(FORMS), st.floats(0.5, 2), st.floats(-0.49, 0.49), st.floats(-0.49, 0.49))
    def test_shares_stay_in_range(self, form: str, aspect: float, fy: float, fz: float) -> None:
        section = Section.of_area(form, 100.0, aspect)
        u, a = section.shares(np.array([fy * section.width]), np.array([fz * section.thickness]))
        self.assertTrue(0 <= u[0] <= 1 and abs(a[0]) <= np.pi + 1e-9)

    def test_surface_heights_match_the_outline(self) -> None:
        for form in FORMS:
            section = Section(form, 12.0, 8.0)
            z = np.linspace(-3.9, 3.9, 41)
            reach = section.half_width_at(z)
            self.assertTrue(section.holds(reach * 0.999, z).all())
            self.assertFalse(section.holds(reach * 1.001 + 1e-6, z).any())
