"""Belts and paper as one sequence: what each takes, where it brings line and edge, how long it takes."""

from django.test import SimpleTestCase

from tests.core.samples import own
from tests.core.test_etch_depth import design
from varistrat.core.blade.belts import BELTS, ON_BELTS, PAPERS, sequence
from varistrat.core.blade.grits import GRITS, must_take
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.sanding import pace, sanding
from varistrat.core.shop import ShopData
from varistrat.core.starters import DEFAULT_BLADE


class GritTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        """After P120 (125 um, scratches of 25): 1.3 x 25 = 32.5 um off each face."""
        self.assertAlmostEqual(GRITS["P120"].scratch, 0.025)
        self.assertAlmostEqual(must_take(GRITS["P120"]), 0.0325)
        self.assertEqual(must_take(None), 0.0)
        self.assertAlmostEqual(GRITS["CAMI 600"].grain, 16.0)
        grains = [g.grain for g in GRITS.values() if g.scale == "P"]
        self.assertEqual(grains, sorted(grains, reverse=True))

    def test_one_sequence(self) -> None:
        names = [b.name for b in sequence("P1000")]
        self.assertEqual(names, [*ON_BELTS, "P180", "P400", "P600", "P800", "P1000"])
        self.assertEqual(sequence("P1000")[0].takes, 0.0)
        self.assertAlmostEqual(sequence("P1000")[4].takes, must_take(GRITS["P220"]))
        self.assertEqual(BELTS, sequence("P800"))
        with self.assertRaises(InputError):
            sequence("P3000")


class SandingTests(SimpleTestCase):
    def test_lines_rise_and_the_edge_thins_to_what_is_planned(self) -> None:
        found = sanding(design("1084", "15n20", finish={"last": "P1000"}))
        self.assertEqual([g.grit for g in found.grits][-1], "P1000")
        edges = [g.right.edge for g in found.grits if g.right]
        if edges:
            self.assertEqual(edges, sorted(edges, reverse=True))
        self.assertAlmostEqual(found.minutes, sum(g.minutes for g in found.grits))

    def test_hand_minutes(self) -> None:
        """First paper 40 min for 100 cm2 at 60 HRC, x (HRC/60)^1.5."""
        found = sanding(design("1084", "15n20"))
        cm2 = (found.areas.faces + found.areas.spine + found.areas.plunge) / 100
        first = next(g for g in found.grits if g.grit == "P180")
        self.assertAlmostEqual(first.minutes, 40 * cm2 / 100 * (found.hardness / 60) ** 1.5, 6)
        # what is hollow or narrow takes twice the time of its area
        hollow = design("1084", "15n20")
        grind = DEFAULT_BLADE["grind"] | {"ricasso": 20.0, "plunge": 8.0}
        hollow = Worked.of(read_document(hollow.document.as_json() | {"blade": DEFAULT_BLADE | {"grind": grind}}))
        awkward = sanding(hollow)
        self.assertGreater(awkward.areas.plunge, 300)
        cm2 = (awkward.areas.faces + awkward.areas.spine + awkward.areas.plunge) / 100
        first = next(g for g in awkward.grits if g.grit == "P180")
        self.assertAlmostEqual(first.minutes, 40 * cm2 / 100 * (awkward.hardness / 60) ** 1.5, 6)
        self.assertAlmostEqual(pace(60), 1.0)
        self.assertAlmostEqual(pace(55), 0.8776, 4)

    def test_soft_clads_go_twice_as_fast(self) -> None:
        hard, soft = sanding(design("1084", "15n20")), sanding(design("1084", "1018"))
        self.assertEqual(hard.soft, 0.0)
        self.assertAlmostEqual(soft.soft, 0.5, delta=0.15)
        self.assertLess(soft.minutes, hard.minutes)

    def test_a_shops_own_pace(self) -> None:
        w = design("1084", "15n20")
        slower = Worked.of(read_document(w.document.as_json(), ShopData(figures=dict(own(time_sand=2.4).own))))
        self.assertAlmostEqual(sanding(slower).minutes, 2 * sanding(w).minutes, 6)

    def test_rules_where_they_apply(self) -> None:
        found = {g.grit: g.rules for g in sanding(design("1084", "15n20")).grits}
        self.assertEqual(found["P36"], ())
        self.assertIn("first", found["P180"])
        self.assertIn("turn", found["P400"])
        self.assertEqual(found["P800"][-2:], ("flats", "last"))
        self.assertTrue(all(p in PAPERS or p in (*ON_BELTS, "P180") for p in found))
