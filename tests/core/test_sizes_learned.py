"""Sizes of errors learned from blades that were read."""

from math import sqrt

import numpy as np
from django.test import SimpleTestCase

from varistrat.core.blade.model import Errors
from varistrat.core.learning.sizes import STRENGTH, size_of, sizes_learned, was_read
from varistrat.core.study.tolerances import GROUPS, Sizes


class SizesLearnedTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        # ours 0.08, worth 4; three blades uneven by 0.2, 0.1, 0.3: a = 2 + 1.5, b = 2 x 0.0064 + 0.14 / 2
        read = [Errors(uneven=v) for v in (0.2, -0.1, 0.3)]
        found = {s.key: s for s in sizes_learned(read)}["uneven"]
        self.assertAlmostEqual(found.learned, sqrt((2 * 0.0064 + 0.07) / 3.5), 9)
        self.assertEqual((found.ours, found.n, found.offered), (0.08, 3, True))
        self.assertLess(found.low, found.learned)
        self.assertGreater(found.high, found.learned)

    def test_nothing_read_is_ours_and_nothing_is_offered(self) -> None:
        for blades in ([], [Errors(), Errors()]):
            for s in sizes_learned(blades):
                self.assertAlmostEqual(s.learned, s.ours)
                self.assertEqual((s.n, s.offered), (0, False))
        self.assertFalse(sizes_learned([Errors(cup=0.1)] * 2)[0].offered)

    def test_a_blade_that_was_read_says_of_every_kind(self) -> None:
        found = {s.key: s for s in sizes_learned([Errors(uneven=0.1)] * 6)}
        self.assertLess(found["cup"].learned, found["cup"].ours)
        self.assertEqual({s.n for s in found.values()}, {6})
        self.assertEqual(list(found), list(GROUPS))

    def test_along_the_blade_and_bow(self) -> None:
        self.assertAlmostEqual(size_of([[0.0, 3.0], [50.0, -4.0]]), sqrt(12.5))
        self.assertTrue(was_read(Errors(bow=0.2)) and not was_read(Errors()))
        bowed = {s.key: s for s in sizes_learned([Errors(bow=0.4)] * 5)}
        self.assertGreater(bowed["dip"].learned, bowed["dip"].ours)

    def test_eight_in_ten(self) -> None:
        """Of shops drawn from what is held beforehand, the range holds the shop's own size eight times in ten."""
        rng = np.random.default_rng(3)
        ours = Sizes().uneven
        inside = 0
        for _ in range(500):
            spread = sqrt(STRENGTH / 2 * ours**2 / rng.gamma(STRENGTH / 2))
            errors = [Errors(uneven=float(np.clip(v, -50, 50))) for v in rng.normal(0, spread, 5)]
            found = {s.key: s for s in sizes_learned(errors)}["uneven"]
            inside += found.low <= spread <= found.high
        self.assertAlmostEqual(inside / 500, 0.8, delta=0.045)
