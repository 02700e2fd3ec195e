"""Piles of thousands of layers: told by fewer, with height, volume and carbon of each steel kept, and no fire takes longer for them."""

import copy
from typing import Any
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.work import at_most
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.laws import column as columns
from varistrat.core.laws.column import MAX_COLUMN_LAYERS, MOST_LAYERS, Column
from varistrat.core.starters import STARTERS

STEELS = (("1084", 0.84, 1.0), ("15n20", 0.75, 0.9), ("1018", 0.18, 1.0))


def pile(n: int, kinds: int = 2, seed: int = 1) -> Column:
    """n layers of unlike thickness, kinds of steel in turn."""
    thick = np.random.default_rng(seed).uniform(0.01, 0.03, n)
    layers = [(STEELS[i % kinds][0], float(t)) for i, t in enumerate(thick)]
    return Column.of(layers, [STEELS[i % kinds][1] for i in range(n)], [STEELS[i % kinds][2] for i in range(n)])


def folded(times: int, layers: int = 60, **more: Any) -> Worked:
    document = copy.deepcopy(STARTERS["three_layer"].document())
    bar = document["recipe"]["bar"]
    bar["start"] = {
        "kind": "stack",
        "length": 300.0,
        "width": 30.0,
        "layers": [{"steel": ("1084", "15n20")[i % 2], "thickness": 0.4} for i in range(layers)],
    }
    once = [{"kind": "fold"}, {"kind": "draw", "width": 30.0, "thickness": 20.0}]
    bar["steps"] = [{"kind": "weld", "thickness": 20.0}, *once * times]
    return Worked.of(read_document(document))


class FewerTests(SimpleTestCase):
    def test_no_more_are_told_of_and_nothing_is_lost(self) -> None:
        for n, kinds in ((1501, 2), (4000, 2), (4000, 3), (5000, 1)):
            before = pile(n, kinds)
            after = before.told_by_fewer()
            self.assertLessEqual(len(after.steels), MAX_COLUMN_LAYERS)
            self.assertAlmostEqual(after.height, before.height, 9)
            self.assertAlmostEqual(after.amount(), before.amount(), 9)
            self.assertAlmostEqual(after.layers, n, 6)
            self.assertEqual(after.thinnest, before.thickness().min())
            self.assertEqual((after.steels[0], after.steels[-1]), (before.steels[0], before.steels[-1]))
            for k in range(kinds):
                key = STEELS[k][0]
                volumes = [sum(t for s, t in zip(c.steels, c.thickness(), strict=True) if s == key) for c in (before, after)]
                self.assertAlmostEqual(*volumes, 9)
            # squeezed, ground and turned over it goes on telling of as many
            on = after.squeezed(0.5).turned_over()
            self.assertEqual((on.layers, on.thinnest, on.median), (after.layers, before.thickness().min() / 2, before.median / 2))

    def test_hundreds_of_pieces_in_one_pile(self) -> None:
        one = pile(1400, 3)
        for n in (2, 7, 400):
            piled = one.piled([one] * (n - 1))
            self.assertLessEqual(len(piled.steels), MAX_COLUMN_LAYERS)
            self.assertAlmostEqual(piled.height / one.height, n, 9)
            self.assertAlmostEqual(piled.amount() / one.amount(), n, 9)
            self.assertAlmostEqual(piled.layers / one.layers, n, 9)
            self.assertEqual((piled.thinnest, round(piled.median, 12)), (one.thinnest, round(one.median, 12)))

    def test_no_fewer_than_there_are_steels(self) -> None:
        fewer = pile(300, 3).told_by_fewer(2)
        self.assertEqual(len(fewer.steels), 2 + 3)

    def test_few_are_left_alone(self) -> None:
        few = pile(MAX_COLUMN_LAYERS)
        self.assertIs(few.told_by_fewer(), few)

    def test_four_layers_by_hand(self) -> None:
        layers = [(("a", "b")[i % 2], t) for i, t in enumerate([1.0, 2.0, 3.0, 4.0, 5.0, 1.0])]
        fewer = Column.of(layers, [0.8, 0.2, 0.6, 0.4, 0.9, 0.1], [1.0, 1.1] * 3).told_by_fewer(4)
        # the outermost stay; b 2 + 4 and a 3 + 5 between them, (2 x 0.2 + 4 x 0.4)/6 and (3 x 0.6 + 5 x 0.9)/8
        self.assertEqual(fewer.steels, ("a", "b", "a", "b"))
        np.testing.assert_allclose(fewer.thickness(), [1, 6, 8, 1])
        np.testing.assert_allclose(fewer.layer_carbon(), [0.8, 2 / 6, 6.3 / 8, 0.1])
        np.testing.assert_allclose(fewer.factor[::4], [1.0, 1.1, 1.0, 1.1])
        self.assertEqual((fewer.layers, fewer.origin), (6, (0, 1, 2, 5)))
        self.assertAlmostEqual(fewer.thinnest, 1.0, 12)

    def test_counting_ends_beyond_all_atoms(self) -> None:
        column = pile(1000)
        for _ in range(1100):
            column = column.piled([column]).squeezed(0.5)
        self.assertAlmostEqual(column.layers / MOST_LAYERS, 1.0)
        self.assertTrue(np.isfinite(column.carbon).all() and (column.width > 0).all())


class FoldedTests(SimpleTestCase):
    def test_as_if_each_layer_were_followed(self) -> None:
        told = folded(6).fire
        with mock.patch.object(columns, "MAX_COLUMN_LAYERS", 10**9):
            each = folded(6).fire
        assert told and each
        self.assertGreater(len(each.inside.steels), 2 * MAX_COLUMN_LAYERS)
        # what scale and grinding take off is counted by blocks
        np.testing.assert_allclose([f.layers for f in told.fired], [f.layers for f in each.fired], rtol=0.005)
        self.assertGreater(told.fired[-1].layers, 3000)
        for name in ("carbon", "middle"):
            for key, there in getattr(each, name).items():
                self.assertAlmostEqual(getattr(told, name)[key], there, delta=0.001, msg=(name, key))
        self.assertAlmostEqual(told.contrast, each.contrast, delta=0.002)
        for a, b in zip(told.fired, each.fired, strict=True):
            self.assertAlmostEqual(a.thinnest, b.thinnest, delta=1e-9)
            self.assertAlmostEqual(a.across / b.across, 1.0, delta=0.0005)
            self.assertEqual(a.heats, b.heats)
            self.assertAlmostEqual(a.grind, b.grind, delta=0.001)

    def test_thirty_folds_and_a_hundred_hold_nobody_up(self) -> None:
        for times in (30, 99):
            with at_most(6_000_000):
                fire = folded(times).fire
            assert fire
            self.assertEqual(len(fire.fired), 1 + 2 * times)
