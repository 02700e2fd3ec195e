"""Grooves and dimples: the closed forms against plain sums, and the column map against itself."""

from itertools import product
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.profile import examples
from varistrat.core.bars.steps._grooves import Grooves, Relief

WIDTH = 30.0
SHAPES = [("rungs", 0.0), ("rungs", 0.6), ("rungs", -0.3), ("chevrons", 0.5), ("chevrons", -0.7), ("dimples", 0.0)]
PROFILES = ["vee", "flat", "round"]


def grooves(shape: str, profile: str, slant: float = 0.0, **more: Any) -> Grooves:
    fields = {"pitch": 12.0, "groove": 8.0, "depth": 3.0, "staggered": False, "first": 6.0, "width": WIDTH} | more
    return Grooves(shape, profile, slant=slant, **fields)  # type: ignore[arg-type]


class ClosedFormTests(SimpleTestCase):
    def test_across_is_the_integral_of_the_depth(self) -> None:
        n = 40_000
        for (shape, slant), profile, staggered in product(SHAPES, PROFILES, (False, True)):
            g = grooves(shape, profile, slant, staggered=staggered)
            for x in (0.0, 3.1, 6.0, 7.7, 17.3, 40.9):
                for top in (-9.0, -0.4, 5.5, 15.0):
                    y = -WIDTH / 2 + (np.arange(n) + 0.5) / n * (top + WIDTH / 2)
                    plain = float(g.at(np.full(n, x), y).sum() * (top + WIDTH / 2) / n)
                    closed = float(g.across(np.array([x]), np.array([top]))[0])
                    self.assertAlmostEqual(closed, plain, delta=0.008, msg=f"{shape} {profile} {slant} {staggered} x {x} y {top}")

    def test_along_is_the_integral_of_the_mean(self) -> None:
        for (shape, slant), profile in product(SHAPES, PROFILES):
            top, bottom = grooves(shape, profile, slant), grooves(shape, profile, slant, first=9.0)
            relief = Relief(top, bottom, 20.0)
            n = 60_000
            for x in (5.0, 12.0, 31.4):
                at = (np.arange(n) + 0.5) / n * x
                plain = float(relief.mean(at).sum() * x / n)
                self.assertAlmostEqual(float(relief.run(np.array(x))), plain, delta=2e-3, msg=f"{shape} {profile} {slant} {x}")

    def test_depths_worked_by_hand(self) -> None:
        # 8 wide, 3 deep, centres at 6, 18, ...: 2 mm off a centre a vee is half as deep
        self.assertAlmostEqual(float(grooves("rungs", "vee").at(np.array([20.0]), np.array([0.0]))[0]), 1.5)
        self.assertAlmostEqual(float(grooves("rungs", "flat").at(np.array([21.9]), np.array([0.0]))[0]), 3.0)
        self.assertAlmostEqual(float(grooves("rungs", "flat").at(np.array([22.1]), np.array([0.0]))[0]), 0.0)
        # an arc of chord 8 and sagitta 3 has radius 25/6; 4 off its centre it ends
        round_one = grooves("rungs", "round")
        self.assertAlmostEqual(float(round_one.at(np.array([18.0]), np.array([0.0]))[0]), 3.0)
        self.assertAlmostEqual(float(round_one.at(np.array([16.0]), np.array([0.0]))[0]), ((25 / 6) ** 2 - 4) ** 0.5 - (25 / 6 - 3))
        self.assertAlmostEqual(float(round_one.at(np.array([22.0]), np.array([0.0]))[0]), 0.0)
        # a slant of 0.5: 6 further back across, the groove lies 3 further along
        self.assertAlmostEqual(float(grooves("rungs", "vee", 0.5).at(np.array([21.0]), np.array([6.0]))[0]), 3.0)
        self.assertAlmostEqual(float(grooves("chevrons", "vee", 0.5).at(np.array([21.0]), np.array([-6.0]))[0]), 3.0)
        # dimples: rows begin half a pitch from the front edge; staggered ones shift by half a pitch
        row = grooves("dimples", "vee")
        self.assertAlmostEqual(float(row.at(np.array([6.0]), np.array([-9.0]))[0]), 3.0)
        self.assertAlmostEqual(float(row.at(np.array([6.0]), np.array([3.0]))[0]), 3.0)
        odd = grooves("dimples", "vee", staggered=True)
        self.assertAlmostEqual(float(odd.at(np.array([6.0]), np.array([3.0]))[0]), 0.0)
        self.assertAlmostEqual(float(odd.at(np.array([12.0]), np.array([3.0]))[0]), 3.0)

    def test_it_repeats_for_ever(self) -> None:
        rng = np.random.default_rng(6)
        x, y = rng.uniform(0, 12, 300), rng.uniform(-15, 15, 300)
        for (shape, slant), profile in product(SHAPES, PROFILES):
            g = grooves(shape, profile, slant)
            np.testing.assert_allclose(g.at(x, y), g.at(x + 12 * 50, y), atol=1e-9)
            np.testing.assert_allclose(g.across(x, y), g.across(x + 12 * 50, y), atol=1e-8)


class ColumnMapTests(SimpleTestCase):
    @examples(25)
    @given(
        st.sampled_from(SHAPES),
        st.sampled_from(PROFILES),
        st.floats(4.0, 25.0),
        st.floats(0.3, 1.0),
        st.floats(0.05, 0.48),
        st.booleans(),
        st.booleans(),
    )
    def test_y_of_undoes_across_whatever_the_groove(
        self, shape: tuple[str, float], profile: str, pitch: float, wide: float, deep: float, both: bool, staggered: bool
    ) -> None:
        groove = pitch * wide
        depth = min(deep * 20 / (2 if both else 1), groove / 2) * 0.98
        more = {"pitch": pitch, "groove": groove, "depth": depth, "staggered": staggered}
        top = grooves(shape[0], profile, shape[1], **more, first=pitch / 2)
        relief = Relief(top, grooves(shape[0], profile, shape[1], **more, first=pitch) if both else None, 20.0)
        rng = np.random.default_rng(1)
        x, share = rng.uniform(0, 80, 500), rng.uniform(0, 1, 500)
        y = relief.y_of(x, share)
        self.assertTrue((np.abs(y) <= WIDTH / 2 + 1e-9).all())
        np.testing.assert_allclose(relief.across(x, y), share * relief.mean(x) * WIDTH, atol=1e-6)
        rough = relief.y_of(x.astype(np.float32), share.astype(np.float32))
        self.assertLess(np.quantile(np.abs(rough - y), 0.99), 5e-3)
        back = relief.back(relief.run(x))
        np.testing.assert_allclose(back, x, atol=1e-6)

    def test_more_is_left_where_less_is_cut(self) -> None:
        deep, shallow = (Relief(grooves("rungs", "vee", depth=d), None, 20.0) for d in (6.0, 2.0))
        x = np.linspace(0, 60, 200)
        self.assertTrue((deep.mean(x) <= shallow.mean(x) + 1e-12).all())
        self.assertLess(float(deep.run(np.array(60.0))), float(shallow.run(np.array(60.0))))
        self.assertTrue(deep.straight)
        self.assertFalse(Relief(grooves("rungs", "vee", 0.2), None, 20.0).straight)
