"""The stock sheet as it is told: the steel getting less closes, piles as they are and must be, what the design itself says."""

from typing import Any

from django.test import SimpleTestCase

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.told import CAUSES, risk_told, told_of

Json = dict[str, Any]


def worked(starter: str = "bold_twist", **more: Any) -> Worked:
    return Worked.of(read_document(STARTERS[starter].document() | more))


class ToldTests(SimpleTestCase):
    def test_the_falls_close_for_every_starter(self) -> None:
        for key in STARTERS:
            with self.subTest(key):
                try:
                    told = told_of(worked(key, **({} if worked(key).cut else {"stock": {"need": 150.0}})))
                except InputError as e:
                    # an end slice that cannot be long enough says what to do instead
                    self.assertIn("slice", str(e))
                    continue
                self.assertAlmostEqual(sum(f.volume for f in told.falls), told.put_in_volume, delta=1e-4 * told.put_in_volume)
                self.assertAlmostEqual(told.falls[-1].left, 0.0, 4)
                self.assertIn(told.falls[-1].cause, ("blade", "bar"))
                self.assertAlmostEqual(sum(f.mass for f in told.falls), told.put_in_mass, delta=1e-4 * told.put_in_mass)
                for a, b in zip(told.falls, told.falls[1:], strict=False):
                    self.assertAlmostEqual(b.left, a.left - b.share, 6)
                self.assertTrue(all(f.cause in CAUSES for f in told.falls), [f.cause for f in told.falls])

    def test_a_tang_is_told_of_where_there_is_one(self) -> None:
        self.assertEqual(told_of(worked()).falls[-1].says, "the blade")
        blade = STARTERS["bold_twist"].document()["blade"] | {"tang": {"length": 60.0, "width": 14.0, "end_width": 8.0}}
        self.assertEqual(told_of(worked(blade=blade)).falls[-1].says, "the blade with its tang")

    def test_every_pile_as_it_is_and_as_it_must_be(self) -> None:
        told = told_of(worked())
        (pile,) = told.piles
        sheet = stock_of(worked())
        self.assertEqual((pile.needs, pile.has), (sheet.piles[0].length, 90.0))
        self.assertEqual(pile.cut % 5.0, 0.0)
        self.assertTrue(0 <= pile.cut - pile.needs < 5.0)
        self.assertAlmostEqual(pile.mass_has / pile.mass_needs, pile.has / pile.needs)
        self.assertEqual(pile.steels, ["1084", "15n20"])

    def test_bars_alike_are_told_by_their_ids_unless_it_is_refused(self) -> None:
        bars = worked("opposed_twist").document.recipe.bar.start.children()
        (group,) = told_of(worked("opposed_twist")).groups
        self.assertEqual(group.bars, [b.id for b in bars])
        self.assertEqual(told_of(worked("opposed_twist", stock={"apart": True})).groups, [])

    def test_what_the_design_says_counts_before_the_shop(self) -> None:
        usual = told_of(worked())
        self.assertEqual(usual.usual, {"hold": 20.0, "ends": 0.4, "reserve": 0.1})
        for said, check in (
            ({"hold": 0.0}, lambda t: t.need.hold == 0.0),
            ({"reserve": 0.25}, lambda t: t.reserve == 0.25 and t.need.reserve > usual.need.reserve),
            ({"ends": 0.0}, lambda t: t.need.ends == 0.0),
            ({"need": 321.0}, lambda t: t.need.length == 321.0 and t.need.typed),
        ):
            self.assertTrue(check(told_of(worked(stock=said))), said)
        # a chance finds its reserve; a reserve said on the command line counts more
        sure = worked(stock={"short": 0.05})
        self.assertGreater(told_of(sure).reserve, 0.3)
        self.assertEqual(stock_of(sure, Allowance.planned(sure.document.stock, sure.shop.numbers, reserve=0.2)).allowed.reserve, 0.2)

    def test_the_risk_falls_as_the_reserve_grows(self) -> None:
        curve = risk_told(worked())
        self.assertEqual(len(curve.reserve), len(curve.short))
        self.assertTrue(all(b <= a + 1e-9 for a, b in zip(curve.short, curve.short[1:], strict=False)))
        self.assertTrue(all(b > a for a, b in zip(curve.length, curve.length[1:], strict=False)))
        self.assertAlmostEqual(curve.planned, 0.1)
        at = min(range(len(curve.reserve)), key=lambda i: abs(curve.reserve[i] - 0.1))
        self.assertAlmostEqual(curve.short[at], curve.now, delta=0.05)
        one_in_20, one_in_100 = curve.sure
        assert one_in_20 and one_in_100
        self.assertGreater(one_in_100, one_in_20)
        with self.assertRaises(InputError):
            risk_told(worked(stock={"need": 200.0}))
