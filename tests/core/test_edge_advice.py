"""What follows from a test of the edge, branch by branch, each with the number of this blade that decides; and the fit's own economies."""

from math import radians, tan
from typing import Any
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.core.photos import photo_of
from tests.core.samples import recipe, stack
from varistrat.core.bars.steps._grooves import Grooves, Relief
from varistrat.core.blade.measures import FOR_USE
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import EtchTable
from varistrat.core.finish.edge_test import Advice, EdgeTest, advice, edge_plan, take_back
from varistrat.core.photo.face import PredictedFace
from varistrat.core.photo.fit import fit_photo
from varistrat.core.photo.flat import grey_of
from varistrat.core.starters import DEFAULT_BLADE, STARTERS

WANTED = 60.0


def knife(*steels: str, edge: float = 0.5, **finish: Any) -> Worked:
    """One steel or a stack of several, its edge so thick."""
    pair = [(s, 4.0) for s in steels] * (6 if len(steels) > 1 else 1)
    total = sum(t for _, t in pair)
    steps = [{"kind": "weld", "thickness": 0.9 * total}] if len(pair) > 1 else []
    bar = recipe(stack(*pair, width=40, length=200), *steps, {"kind": "draw", "width": 34.0, "thickness": 6.0 if len(pair) > 1 else 3.4})
    blade = DEFAULT_BLADE | {"grind": {"right": {"edge_thickness": edge}, "left": {"edge_thickness": edge}}}
    said = {"recipe": bar, "blade": blade, "finish": finish, "hardening": {"wanted": WANTED}}
    return Worked.of(read_document(said))


def by_key(found: list[Advice]) -> dict[str, Advice]:
    return {a.key: a for a in found}


class RolledTests(SimpleTestCase):
    def told(self, worked: Worked, **more: Any) -> dict[str, Advice]:
        return by_key(advice(worked, EdgeTest(test="brass", seen="rolled", **more)))

    def test_hardness_first_then_a_soft_skin_then_how_thin(self) -> None:
        self.assertEqual(list(self.told(knife("1084"))), ["soft", "decarb", "thin"])

    def test_without_a_reading_it_asks_for_one(self) -> None:
        soft = self.told(knife("1084"))["soft"]
        self.assertEqual((soft.verdict, soft.value), ("look", None))
        self.assertIn("Read the hardness", soft.do)

    def test_soft_by_more_than_the_figures_width_and_not_by_less(self) -> None:
        worked = knife("1084")
        limit = self.told(worked)["soft"].limit
        assert limit is not None
        self.assertAlmostEqual(limit, (worked.hardening.planned or 0) - max(worked.hardening.sure, 1.0), 9)
        for read, verdict in ((limit - 0.2, "so"), (limit + 0.2, "not")):
            self.assertEqual(self.told(worked, hrc=[read])["soft"].verdict, verdict)
        # several spots count by their mean
        self.assertEqual(self.told(worked, hrc=[limit - 4, limit + 5])["soft"].verdict, "not")

    def test_too_thin_for_its_use_costs_so_much_edge(self) -> None:
        for use, (least, _) in FOR_USE.items():
            worked = knife("1084", edge=0.3, use=use)
            thin = self.told(worked)["thin"]
            self.assertEqual(thin.verdict, "so" if edge_plan(worked).behind < least else "not", use)
            self.assertEqual(thin.limit, least)
        chopper = self.told(knife("1084", edge=0.3, use="chopping"))["thin"]
        plan = edge_plan(knife("1084", edge=0.3, use="chopping"))
        back = take_back(plan.behind, 0.8, plan.primary)
        self.assertIn(f"take {back:.1f} mm of edge back", chopper.do)
        self.assertIn("core line comes as much nearer", chopper.costs)

    def test_thickness_as_measured_counts_before_the_plans(self) -> None:
        worked = knife("1084", edge=0.5)
        self.assertEqual(self.told(worked, behind=0.2)["thin"].verdict, "so")
        self.assertEqual(self.told(worked, behind=0.45)["thin"].verdict, "not")


class ChippedTests(SimpleTestCase):
    def told(self, worked: Worked, **more: Any) -> dict[str, Advice]:
        return by_key(advice(worked, EdgeTest(test="wood", seen="chipped", **more)))

    def test_hardness_grain_austenite_thickness(self) -> None:
        self.assertEqual(list(self.told(knife("1084"))), ["hard", "grain", "austenite", "thin"])

    def test_too_hard_is_tempered_hotter_by_so_much(self) -> None:
        worked = knife("1084")
        limit = self.told(worked)["hard"].limit
        assert limit is not None
        hard = self.told(worked, hrc=[limit + 0.3])["hard"]
        self.assertEqual(hard.verdict, "so")
        self.assertIn(f"Temper again, {(worked.hardening.temper or 0) + 15:.0f} C", hard.do)
        self.assertEqual(self.told(worked, hrc=[limit - 0.3])["hard"].verdict, "not")

    def test_grain_is_for_a_loupe_to_say(self) -> None:
        grain = self.told(knife("1084"))["grain"]
        self.assertEqual((grain.verdict, grain.value), ("look", None))
        self.assertIn("sugar", grain.do)

    def test_much_austenite_by_the_hardenings_own_number(self) -> None:
        for steels in (("1084",), ("52100",)):
            worked = knife(*steels)
            told = self.told(worked).get("austenite")
            left = [p.quenched.retained[1] for p in worked.hardening.parts if p.edge and p.quenched and p.quenched.retained]
            if told is None:
                self.assertEqual(left, [])
                continue
            self.assertAlmostEqual(told.value or 0.0, 100 * max(left), 9)
            self.assertEqual(told.verdict, "so" if max(left) > 0.12 else "not")


class DullTests(SimpleTestCase):
    def told(self, worked: Worked) -> dict[str, Advice]:
        return by_key(advice(worked, EdgeTest(test="rope", seen="dull", times=40)))

    def test_one_steel_two_steels_and_one_that_does_not_harden(self) -> None:
        self.assertEqual(self.told(knife("1084"))["mixed"].verdict, "not")
        both = self.told(Worked.of(read_document(STARTERS["bold_twist"].document())))["mixed"]
        self.assertEqual((both.verdict, both.value), ("so", 2.0))
        mild = self.told(knife("1018", "1084"))["mixed"]
        self.assertEqual(mild.verdict, "so")
        self.assertIn("does not harden", mild.says)

    def test_what_stood_asks_for_nothing(self) -> None:
        self.assertEqual(advice(knife("1084"), EdgeTest(test="hair", seen="fine")), [])

    def test_each_says_what_it_costs(self) -> None:
        for seen in ("rolled", "chipped", "dull"):
            for a in advice(knife("1084", "15n20"), EdgeTest(test="wood", seen=seen)):  # type: ignore[arg-type]
                self.assertTrue(a.says and a.do and a.costs, a.key)


class TakenBackTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        """From 0.4 to 0.8 mm with faces at 8 degrees: 0.4 / (2 tan 4) = 2.860 mm."""
        self.assertAlmostEqual(take_back(0.4, 0.8, 8.0), 0.4 / (2 * tan(radians(4))), 9)
        self.assertAlmostEqual(take_back(0.4, 0.8, 8.0), 2.860, 3)
        self.assertEqual(take_back(0.8, 0.4, 8.0), 0.0)
        self.assertEqual(take_back(0.4, 0.8, 0.0), float("inf"))

    def test_a_blade_ground_to_nothing_has_no_bevel_of_its_own(self) -> None:
        with self.assertRaises(InputError):
            edge_plan(knife("1084", edge=0.0))


class FitEconomyTests(SimpleTestCase):
    """A photo's fit draws hundreds of faces: what does not change among them is made once."""

    def test_the_table_of_the_steels_is_made_once_for_each_size(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        made = photo_of(worked, "right", {"ground": 0.2}, np.random.default_rng(3), px=900, off=0.3)
        with mock.patch.object(EtchTable, "of", wraps=EtchTable.of) as table:
            found = fit_photo(worked, "right", grey_of(made.jpeg), made.marks)
        self.assertGreater(found.drawn, 50)
        self.assertLessEqual(table.call_count, 2)

    def test_a_face_asked_for_twice_is_drawn_once(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        face = PredictedFace(worked, "right", ["ground"], 160)
        before = face.drawn
        for change in (0.1, 0.2, 0.1, 0.0):
            face.at([change])
        self.assertEqual(face.drawn - before, 2)
        face.blur = 0.7
        face.at([0.1])
        self.assertEqual(face.drawn - before, 2, "a blurred one is made of the sharp one")

    def test_chords_at_hand_change_nothing(self) -> None:
        rng = np.random.default_rng(5)
        grooves = Grooves("dimples", "round", 11.0, 9.9, 3.0, 0.0, True, 2.0, 40.0)
        x, y = rng.uniform(0, 60, 500), rng.uniform(-20, 20, 500)
        chords = grooves.chords(x)
        assert chords is not None
        np.testing.assert_array_equal(grooves.across(x, y), grooves.across(x, y, chords))
        self.assertIsNone(Grooves("rungs", "vee", 12.0, 8.0, 2.0, 0.0, False, 0.0, 40.0).chords(x))

    def test_every_share_is_found_again_to_its_last_digit(self) -> None:
        rng = np.random.default_rng(6)
        for shape, slant in (("dimples", 0.0), ("chevrons", 0.4), ("rungs", 0.3)):
            top = Grooves(shape, "round", 11.0, 8.8, 2.6, slant, True, 2.0, 40.0)  # type: ignore[arg-type]
            relief = Relief(top, top, 11.0)
            x, share = rng.uniform(0, 60, 4000), rng.uniform(0, 1, 4000)
            y = relief.y_of(x, share)
            whole = relief.mean(x) * 40.0
            np.testing.assert_allclose(relief.across(x, y), share * whole, atol=1e-9)
            self.assertTrue((np.abs(y) <= 20 + 1e-9).all())
