"""Pictures of joined bars: right steel in every pixel, exact averaging, joints drawn, whatever the bands."""

from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import forged, solid, stack
from tests.profile import examples
from varistrat.core import families
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.piles import ALL_CELLS, Pile, PileRow
from varistrat.core.bars.points import FAR, Points
from varistrat.core.bars.recipe import FORMAT, read_recipe
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.etch.tones import EtchTable
from varistrat.core.pattern import picture, sampling
from varistrat.core.pattern.picture import FULL, PREVIEW, Subject, draw
from varistrat.core.pattern.views import EndView, FaceView


def made(bar: dict[str, Any]) -> Forged:
    return forge(read_recipe({"format": FORMAT, "bar": bar}).bar)


class AxisTests(SimpleTestCase):
    @examples(40)
    @given(st.lists(st.lists(st.floats(0.01, 30.0), min_size=1, max_size=40), min_size=1, max_size=30))
    def test_there_and_back(self, piles: list[list[float]]) -> None:
        row = PileRow(tuple(Pile(tuple((f"s{i % 2}", t) for i, t in enumerate(p))) for p in piles))
        self.assertLessEqual(row.size, ALL_CELLS + 16 * len(piles))
        for i, p in enumerate(row.piles):
            s = np.linspace(0.001, 0.999, 7) * p.height
            which, height = row.height_of(row.put(i, s.copy()))
            self.assertEqual(set(which.tolist()), {i})
            np.testing.assert_allclose(height, s, rtol=1e-9)

    def test_many_fine_piles_still_fit(self) -> None:
        row = PileRow(tuple(Pile((("a", 0.1), ("b", 0.1)) * 900) for _ in range(200)))
        self.assertLessEqual(row.size, ALL_CELLS * 1.05)
        place = row.put(199, np.array([100.0], np.float32))
        self.assertEqual(row.pile_of(place).tolist(), [199])


class JoinedPictureTests(SimpleTestCase):
    f = made(families.opposed())

    def test_dark_and_bright_where_probe_says(self) -> None:
        f, px = self.f, 1400
        z = 0.3 * f.bar.thickness
        with pool() as executor:
            grey = draw(Subject(Trace(f)), FaceView(f.bar, z, 0.0, 140.0), px, executor, FULL)
        trace = Trace(f)
        rng = np.random.default_rng(2)
        rows, cols = grey.shape
        i, j = rng.integers(3, rows - 3, 3000), rng.integers(3, cols - 3, 3000)
        x, y = (j + 0.5) * 140 / cols, f.bar.width / 2 - (i + 0.5) * f.bar.width / rows
        d = 1.6 * 140 / cols
        around = [trace.probe(x + a * d, y + b * d, np.full(3000, z)) for a, b in ((0, 0), (1, 0), (-1, 0), (0, 1), (0, -1))]
        same = np.all([a == around[0] for a in around], axis=0)
        self.assertGreater(same.sum(), 1500)
        bright = around[0] == trace.steels.index("15n20")
        self.assertGreater(((grey[i, j] > 120) == bright)[same].mean(), 0.985)

    def test_averaging_agrees_with_sixty_four_samples_a_pixel(self) -> None:
        f = made(
            families.bar(
                families.joined("side_by_side", families.twisted("right", 14.0), families.twisted("left", 14.0)),
                {"kind": "restack", "pieces": 3},
                {"kind": "draw", "width": 30.0, "thickness": 16.0},
            )
        )
        trace = Trace(f)
        table = EtchTable.of(trace, sampling.magnification(trace))
        view = FaceView(f.bar, 2.0, 20.0, 60.0)

        def light(n: int) -> np.ndarray:
            a = ((np.arange(200 * n) + 0.5) / (5 * n)).astype(np.float32)
            b = ((np.arange(110 * n) + 0.5) / (5 * n) + 4).astype(np.float32)
            p = view.patch(a, b)
            place = sampling.sample(trace, p.x, p.y, p.z, seams=False).place
            return table.mean(place, sampling.footprint(place))[0].reshape(110, n, 200, n).mean(axis=(1, 3))

        self.assertLess(float(np.sqrt(((light(1) - light(8)) ** 2).mean())), 0.012)

    def test_the_joint_darkens_and_only_the_joint(self) -> None:
        bars = [families.bar(solid(100, 15, 8, "15n20")), families.bar(solid(100, 15, 8, "15n20"))]
        f = made(families.bar(families.joined("side_by_side", *bars)))
        with pool() as executor:
            grey = draw(Subject(Trace(f)), EndView(f.bar, 50.0), 600, executor, PREVIEW).astype(float)
        across = grey.mean(axis=0)
        self.assertLess(across[300], across[200] - 15)
        self.assertAlmostEqual(across[150:250].mean(), across[350:450].mean(), delta=6)
        plain = made(families.bar(solid(100, 30, 8, "15n20")))
        self.assertFalse(Trace(plain).has_seams)

    def test_the_same_whatever_the_bands(self) -> None:
        view = FaceView(self.f.bar, 1.0, 0.0, 60.0)
        whole, few = picture.BAND_POINTS, 9_000
        with pool() as executor:
            a = draw(Subject(Trace(self.f)), view, 300, executor, PREVIEW)
            try:
                picture.BAND_POINTS = few
                b = draw(Subject(Trace(self.f)), view, 300, executor, PREVIEW)
            finally:
                picture.BAND_POINTS = whole
        self.assertLess(np.abs(a.astype(int) - b).max(), 3)

    def test_a_point_far_from_every_joint_says_so(self) -> None:
        f = forged(stack(("1084", 5), ("15n20", 5)))
        trace = Trace(f)
        p = Points(np.array([3.0]), np.array([0.0]), np.array([0.0]))
        p.watch_seams(trace.seam_reach)
        trace.place(p)
        self.assertEqual(p.seam.tolist() if p.seam is not None else [], [FAR])

    def test_joints_of_tiles_and_four_ways_are_told_in_finished_mm(self) -> None:
        f = forged(
            solid(300, 20, 20),
            {"kind": "grid", "cells": [[{}, {}], [{}, {}]]},
            {"kind": "draw", "width": 80.0, "thickness": 20.0},
        )
        trace = Trace(f)
        # the middle joint: 10 mm of drawn width were 5 before; 5 of height were 10
        for y, z, want in ((10.0, 9.0, 10.0), (30.0, 2.5, 2.5)):
            p = Points(np.array([20.0]), np.array([y]), np.array([z]))
            p.watch_seams(np.ones_like(trace.seam_reach))
            trace.place(p)
            before = abs(float(p.seam[0])) if p.seam is not None else 0.0
            self.assertAlmostEqual(before, {10.0: 5.0, 2.5: 5.0}[want], 6)
