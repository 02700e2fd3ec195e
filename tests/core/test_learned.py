"""What a shop's book teaches: against our numbers whatever the shop has put in; offered from three on; the odd one left out."""

from django.test import SimpleTestCase

from varistrat.core.build.summary import BuildSummary, Ended
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import SAND, SHAPE
from varistrat.core.learning.factors import FACTORS, FactorTold, learned_of
from varistrat.core.route.operations import KINDS
from varistrat.core.route.operations.shape import SET_UP


def summary(*ended: Ended) -> BuildSummary:
    return BuildSummary(20, len(ended), 0, "", "", 0.0, 0.0, 0.0, None, None, [], 0, 0, None, None, [], list(ended))


def sanded(took: float | None, usual: float = 100.0, planned: float = 100.0) -> BuildSummary:
    return summary(Ended("blade:sand", "sand", planned, usual, took))


def told(builds: list[BuildSummary], numbers: Numbers = USUAL, kept: list[str] | None = None, kind: str = "sand") -> FactorTold:
    rows = [(f"b{n}", f"Blade {n}", s) for n, s in enumerate(builds)]
    return next(f for f in learned_of(rows, numbers, {kind: kept or []}) if f.kind == kind)


class LearnedTests(SimpleTestCase):
    def test_every_kind_is_asked_of(self) -> None:
        self.assertEqual([f.kind for f in FACTORS], [k.key for k in KINDS if k.key != "cut"])

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
