"""Which of several designs suits how one works: the chance of first grade of each over a grid of errors."""

import json
from concurrent.futures import ThreadPoolExecutor

from django.test import SimpleTestCase

from varistrat.core.afar import chances_of
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.laminate.exposure import stations
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.core.study.family import ALL, BLADES, OTHERS, SCALES, STATIONS, chances, grid_of, sizes_at
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import GROUPS, Sizes, whole_study


def cut_of(starter: str) -> Cut:
    return Worked.of(read_document(STARTERS[starter].document())).blade


class FamilyStudyTests(SimpleTestCase):
    def test_the_grid(self) -> None:
        self.assertEqual(grid_of(ALL), tuple((s, 1.0) for s in SCALES))
        self.assertEqual(len(grid_of("dip")), len(SCALES) * len(OTHERS))
        self.assertIn(1.0, SCALES)
        self.assertIn(1.0, OTHERS)
        sizes = sizes_at(Sizes(), "dip", 2.0, 0.5)
        self.assertEqual((sizes.dip, sizes.cup, sizes.wander), (0.2, 0.025, Sizes().wander))
        every = sizes_at(Sizes(), ALL, 0.5, 1.0)
        self.assertTrue(all(getattr(every, g) == 0.5 * getattr(Sizes(), g) for g in GROUPS))
        with self.assertRaises(InputError):
            sizes_at(Sizes(), "mood", 1.0, 1.0)

    def test_it_is_the_tolerance_study_at_every_point(self) -> None:
        """Another draw of other blades: the same chance within what both can tell."""
        cut = cut_of("three_layer")
        lamina, band = Lamina.of(cut, stations(cut.geometry, STATIONS)), Band.of(Aim(), cut.geometry)
        with ThreadPoolExecutor(1) as pool:
            for scale in (0.25, 0.5, 1.0):
                (found,) = chances(cut, Aim(), Sizes(), ALL, [(scale, 1.0)])
                whole = whole_study(lamina, sizes_at(Sizes(), ALL, scale, 1.0), band, pool, blades=4000, sobol=64)
                self.assertAlmostEqual(found.first, whole.first, delta=4 * (found.error**2 + whole.first_error**2) ** 0.5 + 0.01)

    def test_no_errors_give_the_plan_and_large_ones_ruin_it(self) -> None:
        found = chances(cut_of("three_layer"), Aim(), Sizes(), ALL, [(0.0, 1.0), (0.5, 1.0), (2.5, 1.0)])
        self.assertIn(found[0].first, (0.0, 1.0))
        self.assertGreaterEqual(found[1].first, found[2].first)
        # a share of BLADES, with the error of one: 0.5 / sqrt(n) at the most and never none
        self.assertTrue(all(0.5 / BLADES <= c.error <= 0.5 / BLADES**0.5 + 1e-9 for c in found))

    def test_one_kind_alone_hurts_less_than_all_of_them(self) -> None:
        cut = cut_of("three_layer")
        (alone,) = chances(cut, Aim(), Sizes(), "edge", [(1.0, 0.5)])
        (together,) = chances(cut, Aim(), Sizes(), ALL, [(1.0, 1.0)])
        self.assertGreaterEqual(alone.first, together.first)

    def test_a_design_without_a_core_says_so(self) -> None:
        with self.assertRaises(InputError):
            chances_of(json.dumps(STARTERS["bold_twist"].document()), AS_SHIPS, Sizes(), ALL, [(1.0, 1.0)])
