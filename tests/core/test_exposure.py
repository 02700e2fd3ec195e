"""The core line: published cases, closed forms, and the same line seen in the picture."""

from concurrent.futures import Executor

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json, blade, recipe, stack
from varistrat.core.bars.trace import pool
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import Blade, read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.laminate.exposure import Station, expose_laminate
from varistrat.core.pattern.picture import FULL, draw
from varistrat.core.pattern.views import BladeView


def pair(b: Blade) -> tuple[Station, Station]:
    right, left = expose_laminate(Geometry.of(b), 1)
    return right, left


def line(station: Station) -> float:
    assert station.state == "line", station
    return station.shown[0][1]


def laminate_recipe(share: float, thickness: float = 4.4) -> Json:
    clad = thickness * (1 - share) / 2
    return recipe(stack(("1018", clad), ("1095", share * thickness), ("1018", clad), width=60, length=220))


class WorkedTests(SimpleTestCase):
    """Worked values of the published derivation (docs/physics.md#core-line), mm."""

    def test_centred(self) -> None:
        right, left = pair(blade())
        self.assertAlmostEqual(line(right), 11.50, 6)
        self.assertAlmostEqual(line(left), 11.50, 6)
        self.assertAlmostEqual(right.core_at_edge, 0.4)
        self.assertAlmostEqual(right.clad_share, 1 - 11.5 / 45)

    def test_offset_and_dip(self) -> None:
        right, left = pair(blade(errors={"core_offset": 0.02, "dip": -0.05}))
        self.assertAlmostEqual(line(right), 12.45, 6)
        self.assertAlmostEqual(line(left), 10.55, 6)

    def test_forged_bevels(self) -> None:
        right, left = pair(blade(share=0.36, edge=0.3, forging={"share": 1, "allowance": 0.5}))
        self.assertAlmostEqual(line(right), 3.19, 2)
        self.assertAlmostEqual(line(left), line(right))

    def test_hollow(self) -> None:
        grind = {"kind": "hollow", "wheel_radius": 125, "height": 18, "edge_thickness": 0.5}
        right, left = pair(blade(thickness=4.0, grind=grind, errors={"core_offset": 0.01}))
        self.assertAlmostEqual(line(right), 7.27, 2)
        self.assertAlmostEqual(line(left), 6.25, 2)

    def test_ground_from_the_right_only(self) -> None:
        right, left = pair(blade(share_right=1.0))
        self.assertEqual((right.state, left.state), ("strip", "none"))
        np.testing.assert_allclose(right.shown[0], (14.25, 30.75), atol=1e-6)
        self.assertEqual((right.core_at_edge, left.clad_share), (0.0, 1.0))

    def test_closed_forms_over_many_blades(self) -> None:
        rng = np.random.default_rng(4)
        for _ in range(40):
            share, edge = rng.uniform(0.2, 0.4), rng.uniform(0.2, 0.6)
            eps, dip = rng.uniform(-0.02, 0.02), rng.uniform(-0.06, 0.06)
            errors = {"core_offset": eps, "dip": dip}
            slope = (4.0 - edge) / 45
            for sign, s in zip((1, -1), pair(blade(share=share, edge=edge, errors=errors)), strict=True):
                c, delta = share * 4.4 / 2, eps * 4.4 + dip
                self.assertAlmostEqual(line(s), (2 * c + 2 * sign * delta - edge) / slope, 5)
            forging = {"share": 1, "allowance": 0.4}
            for sign, s in zip((1, -1), pair(blade(share=share, edge=edge, errors=errors, forging=forging)), strict=True):
                a = share / 2 + sign * eps
                h = (2 * a * (edge + 0.8) + 2 * sign * dip - edge) / (slope * (1 - 2 * a))
                got = s.shown[0][1] if s.shown else 0.0
                self.assertAlmostEqual(got, max(h, 0), 5)

    def test_thick_core_reaches_the_spine(self) -> None:
        right, _ = pair(blade(share=0.95))
        self.assertEqual((right.state, right.clad_share), ("spine", 0.0))


class RecipeTests(SimpleTestCase):
    def test_a_forged_stack_shows_the_same_line_as_the_plain_laminate(self) -> None:
        errors = {"core_offset": 0.015, "cup": 0.05, "twist": 0.2}
        plain = list(expose_laminate(Geometry.of(blade(errors=errors)), 5))
        traced = list(Cut.of(blade(share=None, errors=errors, recipe=laminate_recipe(0.30))).exposure(5))
        for a, b in zip(plain, traced, strict=True):
            self.assertEqual((a.x, a.side, a.state), (b.x, b.side, b.state))
            np.testing.assert_allclose(a.shown, b.shown, atol=1e-6)
            self.assertAlmostEqual(a.core_at_edge, b.core_at_edge, delta=0.01)

    def test_no_core_is_said(self) -> None:
        for layers in ((("1084", 2), ("15n20", 3)), (("1084", 2), ("1084", 1), ("1084", 2)), (("1084", 2), ("15n20", 1), ("1018", 2))):
            cut = Cut.of(blade(share=None, recipe=recipe(stack(*layers, width=60, length=220))))
            with self.assertRaisesRegex(InputError, "no core"):
                list(cut.exposure(3))

    def test_the_line_in_the_picture_is_the_line_in_the_table(self) -> None:
        """To one pixel, on both sides: cut and forged, shifted, twisted along the blade, on a curved edge, corrected."""
        curved = {"shape": "drop_point", "length": 200.0, "height": 45.0}
        cases: dict[str, Json] = {
            "shifted": {"errors": {"core_offset": 0.02}},
            "twisted along": {"errors": {"twist": [[0, -0.2], [200, 0.3]], "cup": 0.03}},
            "forged": {"forging": {"share": 1.0, "allowance": 0.8}, "errors": {"core_offset": -0.005}},
            "curved, corrected": {"outline": curved, "correction": {"left": [[0, 0.1, 0.0]]}},
        }
        for name, more in cases.items():
            cut = Cut.of(read_blade(blade(share=None, recipe=laminate_recipe(0.34)).as_json() | more))
            with pool() as executor:
                for side, index in (("right", 0), ("left", 1)):
                    with self.subTest(name, side=side):
                        self.compare(cut, side, index, executor)

    def compare(self, cut: Cut, side: str, index: int, executor: Executor) -> None:
        margin, px = 5.0, 1680
        per_mm = px / 210
        view = BladeView(cut.placed, side, margin=margin)  # type: ignore[arg-type]
        grey = draw(cut.subject(), view, px, executor, FULL).astype(float)
        low, _ = cut.geometry.curves.span()
        foot = grey.shape[0] - margin * per_mm
        for s in list(cut.exposure(10))[index::2][1:8]:
            column = round(((s.x if side == "right" else 200 - s.x) + margin) * per_mm)
            shade = grey[:, column - 12 : column + 13].mean(axis=1)
            edge = float(cut.geometry.curves.edge(np.array([s.x]))[0]) - low
            row = foot - (edge + line(s)) * per_mm
            # the shade fades from core to clad over a dozen pixels: where it is half-way, between the middles of two rows
            near = np.arange(int(row) - 24, int(row) + 25)
            half = (shade[near[:4]].mean() + shade[near[-4:]].mean()) / 2
            crossings = np.flatnonzero((shade[near[:-1]] >= half) != (shade[near[1:]] >= half))
            i = int(crossings[np.argmin(np.abs(near[crossings] - row))])
            a, b = shade[near[i]], shade[near[i + 1]]
            found = near[i] + 0.5 + (a - half) / (a - b)
            self.assertLess(abs(found - row), 1.0, f"{s.x:.0f} mm")
