"""What a shop's book teaches: against our numbers whatever the shop has put in; offered from three on; the odd one left out."""

from math import exp

from django.test import SimpleTestCase

from tests.core.test_build_state import entry
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import state_of
from varistrat.core.build.summary import BuildSummary, Ended, summary_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import SAND, SHAPE
from varistrat.core.learning.factor import Prior, learned
from varistrat.core.learning.factors import FACTORS, FactorTold, learned_of
from varistrat.core.route.operation import Operation
from varistrat.core.route.operations import KINDS
from varistrat.core.route.operations.shape import SET_UP
from varistrat.core.shop import ShopData
from varistrat.core.starters import STARTERS

HEATS = next(f for f in FACTORS if f.key == "fire:heats")


def summary(*ended: Ended) -> BuildSummary:
    return BuildSummary(20, len(ended), 0, "", "", 0.0, 0.0, 0.0, None, None, [], 0, 0, None, None, [], list(ended))


def sanded(took: float | None, usual: float = 100.0, planned: float = 100.0) -> BuildSummary:
    return summary(Ended("blade:sand", "sand", planned, usual, took))


def told(builds: list[BuildSummary], numbers: Numbers = USUAL, kept: list[str] | None = None, kind: str = "sand") -> FactorTold:
    rows = [(f"b{n}", f"Blade {n}", s) for n, s in enumerate(builds)]
    return next(f for f in learned_of(rows, numbers, {kind: kept or []}) if f.kind == kind)


class LearnedTests(SimpleTestCase):
    def test_every_kind_is_asked_of(self) -> None:
        self.assertEqual([f.kind for f in FACTORS if f.quantity == "minutes"], list(dict.fromkeys(k.key for k in KINDS if k.key != "cut")))
        self.assertEqual(len({f.key for f in FACTORS}), len(FACTORS))

    def test_nothing_timed_is_ours(self) -> None:
        found = told([sanded(None)])
        self.assertEqual((found.n, found.factor, found.offered, found.dots), (0, 1.0, False, []))
        self.assertEqual((found.low, found.high), (found.ours_low, found.ours_high))

    def test_offered_from_three_on(self) -> None:
        self.assertFalse(told([sanded(150.0)] * 2).offered)
        found = told([sanded(150.0)] * 3)
        self.assertTrue(found.offered and not found.used)
        self.assertTrue(1.0 < found.factor < 1.5, "ours still counts for two builds")
        self.assertAlmostEqual(found.figures[0].learned, SAND.usual * found.factor, delta=0.005 * SAND.usual)

    def test_what_was_taken_over_is_not_learned_twice(self) -> None:
        first = told([sanded(150.0)] * 5)
        mine = Numbers({SAND.key: first.figures[0].learned})
        # planned by the new number from then on, and taking as long as ever
        after = told([sanded(150.0)] * 5 + [sanded(150.0, planned=100.0 * first.factor)] * 5, mine)
        self.assertTrue(all(abs(d.ratio - 1.5) < 1e-9 for d in after.dots))
        self.assertGreater(after.factor, first.factor)
        self.assertTrue(told([sanded(150.0)] * 5, mine).used)

    def test_the_odd_one_is_shown_and_left_out_unless_kept(self) -> None:
        usual = [sanded(v) for v in (118.0, 122.0, 125.0, 116.0, 121.0, 119.0)]
        found = told([*usual, sanded(1500.0)])
        self.assertEqual(([d.odd for d in found.dots], found.n), ([False] * 6 + [True], 6))
        kept = told([*usual, sanded(1500.0)], kept=["b6"])
        self.assertEqual((kept.n, kept.dots[6].odd, kept.dots[6].kept), (7, False, True))
        self.assertGreater(kept.factor, found.factor)

    def test_what_does_not_change_with_it_is_left_apart(self) -> None:
        one = summary(Ended("blade:shape", "shape", SET_UP + 40, SET_UP + 40, SET_UP + 60))
        self.assertAlmostEqual(told([one], kind="shape").dots[0].ratio, 1.5)
        # as long as the setting up alone took: nothing can be said
        self.assertEqual(told([summary(Ended("s", "shape", 55.0, 55.0, SET_UP))], kind="shape").dots, [])

    def test_never_beyond_what_may_be_put_in(self) -> None:
        found = told([sanded(100.0 * 200)] * 9, kept=[f"b{n}" for n in range(9)])
        self.assertLessEqual(found.figures[0].learned, SAND.high)
        self.assertEqual(SHAPE.key, next(f for f in FACTORS if f.kind == "shape").figures[0].key)


class ReachedTests(SimpleTestCase):
    """What was to be reached, learned as minutes are."""

    def test_the_worked_value_by_what_was_measured(self) -> None:
        # build.md 6: y = .2, .3, .1, .25 gives 1.15 whatever it is of; here of heats, with a prior of 1.5
        rows = [Ended("a", "fire", 60.0, 60.0, None, {"heats": (10.0, 10.0 * exp(y))}) for y in (0.2, 0.3, 0.1, 0.25)]
        found = learned(Prior(1.5), [m for r in rows if (m := HEATS.measured("b", summary(r)))])
        self.assertAlmostEqual(found.belief.factor, 1.1522, places=3)

    def test_all_steps_of_a_build_together(self) -> None:
        build = summary(
            Ended("a", "fire", 60.0, 60.0, None, {"heats": (4.0, 6.0), "length": (200.0, 190.0)}),
            Ended("b", "fire", 60.0, 60.0, 55.0, {"heats": (2.0, 3.0)}),
            Ended("c", "grind", 60.0, 60.0, 55.0, {"thickness": (5.0, 5.1)}),
        )
        by = {f.key: f.measured("x", build) for f in FACTORS}
        self.assertEqual([(m.planned, m.measured) for k in ("fire:heats", "fire:length") if (m := by[k])], [(6.0, 9.0), (200.0, 190.0)])
        self.assertIsNone(by["etch:depth"])

    def test_a_relief_is_told_against_our_own_rate(self) -> None:
        """Planned by the shop's own 1.2 um/min for 9 um, it reads 9: half as fast again as our 0.8, not as planned."""
        shop = ShopData(figures={"etch_r0": 1.2})
        worked = Worked.of(read_document(STARTERS["bold_twist"].document() | {"finish": {"relief": 9.0}}, shop))
        plan = Plan.begun(worked)
        op = next(o for o in plan.operations if o.id == "blade:etch")
        said = state_of([entry(1, "measured", 1, op=op.id, quantity="depth", value=9.0), entry(2, "done", 2, op=op.id)])
        found = next(f for f in FACTORS if f.key == "etch:depth").measured("x", summary_of(plan, said))
        assert found
        self.assertAlmostEqual(found.measured / found.planned, 1.5, delta=0.06)

    def test_hardness_is_told_against_the_law_alone_and_read_as_the_mean_of_its_places(self) -> None:
        document = STARTERS["bold_twist"].document() | {"hardening": {"wanted": 60.0}}

        def temper(shop: ShopData) -> tuple[Plan, Operation]:
            plan = Plan.begun(Worked.of(read_document(document, shop)))
            return plan, next(o for o in plan.operations if o.id == "blade:harden-temper")

        usual = temper(ShopData())[1].targets[-1]
        self.assertEqual((usual.quantity, usual.usual), ("hardness", usual.value))
        plan, op = temper(ShopData(figures={"hardness_read": 1.03}))
        target = op.targets[-1]
        # the temper is hotter for the same hardness: by our own number it would come out about 2 points softer
        self.assertAlmostEqual(target.value, 60.0, 1)
        assert target.usual
        self.assertTrue(1.5 < target.value - target.usual < 2.5)
        reads = [entry(n, "measured", n, op=op.id, quantity="hardness", value=v, place=20.0 * n) for n, v in ((1, 59.0), (2, 61.0))]
        # what was read before the temper says nothing of it
        quenched = entry(4, "measured", 0, op="blade:harden-test", quantity="hardness", value=66.0)
        said = state_of([quenched, *reads, entry(3, "done", 3, op=op.id)])
        found = next(f for f in FACTORS if f.key == "harden:hardness").measured("x", summary_of(plan, said))
        assert found
        self.assertEqual((found.planned, found.measured), (target.usual, 60.0))

    def test_a_blade_that_was_read_counts_for_more_than_what_the_shop_usually_gets(self) -> None:
        def shift(times: float, read: list[float]) -> float:
            said = {"hardening": {"wanted": 60.0, "hardened": {"hrc": read}}}
            worked = Worked.of(read_document(STARTERS["bold_twist"].document() | said, ShopData(figures={"hardness_read": times})))
            return worked.hardening.shift

        law = Worked.of(read_document(STARTERS["bold_twist"].document())).hardening.expected
        assert law
        self.assertEqual(shift(1.0, []), 0.0)
        self.assertAlmostEqual(shift(1.03, []), 0.03 * law[0], 9)
        # three spots just as the law has it pull it back towards the law, and further the more there are
        pulled = [shift(1.03, [law[0]] * n) for n in (1, 3, 9)]
        self.assertTrue(0.03 * law[0] > pulled[0] > pulled[1] > pulled[2] > 0)

    def test_what_is_lost_wants_every_pile_and_the_bar_weighed(self) -> None:
        """900 g and 100 g put in for a bar of 800: 200 lost; 950 and 100 weighed, 790 at the end: 260, 1.3 times as much."""
        lost = next(f for f in FACTORS if f.key == "fire:mass")
        piles = [
            Ended("a", "cut_stock", 9.0, 9.0, None, {"mass": (900.0, 950.0)}),
            Ended("b", "cut_stock", 9.0, 9.0, None, {"mass": (100.0, 100.0)}),
        ]
        bar = Ended("c", "fire", 9.0, 9.0, None, {"mass": (800.0, 790.0)})
        found = lost.measured("x", summary(*piles, bar))
        assert found
        self.assertAlmostEqual(found.measured / found.planned, 1.3)
        self.assertIsNone(lost.measured("x", summary(*piles)))
        self.assertIsNone(lost.measured("x", summary(piles[0], Ended("b", "cut_stock", 9.0, 9.0, None), bar)))
        self.assertIsNone(lost.measured("x", summary(*piles, Ended("c", "fire", 9.0, 9.0, None, {"mass": (800.0, 1100.0)}))))

    def test_the_bar_is_weighed_once_after_its_last_heat(self) -> None:
        for starter, wanted in (("bold_twist", 1), ("opposed_twist", 1), ("canister", 0)):
            worked = Worked.of(read_document(STARTERS[starter].document()))
            weighed = [o for o in Plan.begun(worked).operations if o.kind == "fire" and any(t.quantity == "mass" for t in o.targets)]
            self.assertEqual(len(weighed), wanted, starter)
            fires = [o for o in Plan.begun(worked).operations if o.kind == "fire"]
            self.assertTrue(all(o is fires[-1] or o.id == fires[-1].id for o in weighed))

    def test_what_was_measured_is_in_the_summary(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        plan = Plan.begun(worked)
        op = next(o for o in plan.operations if any(t.quantity == "heats" for t in o.targets))
        said = state_of([entry(1, "measured", 1, op=op.id, quantity="heats", value=7.0), entry(2, "done", 2, op=op.id)])
        (ended,) = summary_of(plan, said).kinds
        target = next(t for t in op.targets if t.quantity == "heats")
        self.assertEqual(ended.measured, {"heats": (target.value, 7.0)})
